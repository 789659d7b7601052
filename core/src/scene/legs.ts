/** A part of an outline: M and L lead to a point, Q and C there by one or two control points, Z back to where it began. */
export interface Leg {
  readonly command: 'M' | 'L' | 'Q' | 'C' | 'Z';
  /** The control points and the point it leads to, in pixels. */
  readonly to: readonly number[];
}

/** Numbers of a leg, by its letter in path data. */
const SIZES: Readonly<Record<string, number>> = { M: 2, L: 2, l: 2, Q: 4, C: 6, Z: 0 };

/** The legs of path data as figures write it: absolute M, L, C and Q, lines on from where it is (l), and Z. */
export function legsOf(d: string): Leg[] {
  let [x, y] = [0, 0];
  const legs: Leg[] = [];
  for (let at = 0; at < d.length;) {
    const letter = d[at++]!;
    const size = SIZES[letter]!;
    if (size === 0) legs.push({ command: 'Z', to: [] });
    // Numbers go on to the next letter, which all are behind them in the order of characters.
    for (let to: number[] = []; size > 0 && at < d.length && d[at]! < 'A'; to = []) {
      for (let n = 0; n < size; n++) {
        let end = d[at] === '-' ? at + 1 : at;
        while (end < d.length && isOfNumber(d.charCodeAt(end))) end++;
        to.push(Number(d.slice(at, end)));
        at = d[end] === ' ' || end === at ? end + 1 : end;
      }
      if (letter === 'l') [to[0], to[1]] = [x + to[0]!, y + to[1]!];
      [x, y] = [to[size - 2]!, to[size - 1]!];
      legs.push({ command: letter === 'l' ? 'L' : (letter as Leg['command']), to });
    }
  }
  return legs;
}

/** Whether a character is a digit or a point. */
const isOfNumber = (code: number): boolean => code === 46 || (code >= 48 && code <= 57);
