/** A label wished for at a height. */
export interface LabelWish {
  readonly y: number;
}

/**
 * Heights for labels beside the ends of lines: each as near to its wish as can be with `apart` between any two, in the order of
 * the wishes, within two ends. What finds no room (more labels than the height holds) is null, the last wishes first.
 */
export function spread(
  wishes: readonly LabelWish[],
  apart: number,
  [top, bottom]: readonly [number, number],
): (number | null)[] {
  const most = Math.max(0, Math.floor((bottom - top) / apart) + 1);
  const order = wishes.map((_, i) => i).sort((a, b) => wishes[a]!.y - wishes[b]!.y || a - b);
  const kept = order.length <= most ? order : order.filter((_, at) => keptOf(at, order.length, most));
  // Blocks of labels that touch stand as one, around the mean of their wishes.
  const blocks: { members: number[]; from: number }[] = [];
  for (const i of kept) {
    blocks.push({ members: [i], from: Math.min(Math.max(wishes[i]!.y, top), bottom) });
    for (;;) {
      const last = blocks[blocks.length - 1]!;
      const before = blocks[blocks.length - 2];
      if (!before || before.from + before.members.length * apart <= last.from + 1e-9) break;
      blocks.splice(-2, 2, placed([...before.members, ...last.members]));
    }
  }
  function placed(members: number[]) {
    const mean = members.reduce((sum, i, at) => sum + wishes[i]!.y - at * apart, 0) / members.length;
    return { members, from: Math.min(Math.max(mean, top), bottom - (members.length - 1) * apart) };
  }
  const out: (number | null)[] = wishes.map(() => null);
  for (const { members, from } of blocks) members.forEach((i, at) => (out[i] = from + at * apart));
  return out;
}

/** Evenly chosen, the first and the last among them. */
function keptOf(at: number, count: number, most: number): boolean {
  return most > 1
    ? Math.round((Math.round((at * (most - 1)) / (count - 1)) * (count - 1)) / (most - 1)) === at
    : at === 0 && most === 1;
}

/** Labels for which there is room: all of them, or where they are too many only those that stand out. */
export function withRoom<T>(
  labels: readonly T[],
  isStrong: (label: T) => boolean,
  apart: number,
  [top, bottom]: readonly [number, number],
): T[] {
  return labels.length <= (bottom - top) / apart + 1 ? [...labels] : labels.filter(isStrong);
}
