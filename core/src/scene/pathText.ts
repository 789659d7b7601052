import type { Leg } from './legs';

/** Edges of an upright rectangle, in hundredths of a pixel. */
interface Edges {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/**
 * Path data (SVG 2, 9.3) written by distances, as short as it goes. Points are rounded to hundredths of a pixel before distances are
 * taken, so that nothing adds up along a path.
 */
export class PathText {
  #d = '';
  /** The letter that need not be written again. */
  #letter = '';
  /** The number written last. */
  #last = '';
  #x = 0;
  #y = 0;
  #startX = 0;
  #startY = 0;
  /** Rectangles that are not written yet: while they stand side by side on one line, or hang from one, they have one outline. */
  #row: Edges[] = [];
  /** The edges that are on one line, where it is not both. */
  #level: 'top' | 'bottom' | null = null;

  get d(): string {
    this.#endRow();
    return this.#d;
  }

  move(x: number, y: number): this {
    this.#endRow();
    return this.#moveTo(hundredths(x), hundredths(y));
  }

  line(x: number, y: number): this {
    return this.#lineTo(hundredths(x), hundredths(y));
  }

  /** Legs as they are read from other path data. */
  legs(legs: readonly Leg[]): this {
    for (const { command, to } of legs)
      if (command === 'M') this.move(to[0]!, to[1]!);
      else if (command === 'L') this.line(to[0]!, to[1]!);
      else if (command === 'Z') this.close();
      else if (isLevel(to, this.#y)) this.line(...(to.slice(-2) as [number, number]));
      else this.#go(command === 'Q' ? 'q' : 'c', to.map(hundredths));
    return this;
  }

  /** A dot, where the stroke has round ends. */
  dot(x: number, y: number): this {
    // Some programs leave out what has no length at all.
    return this.move(x, y).line(x + 0.01, y);
  }

  circle(cx: number, cy: number, r: number): this {
    this.move(cx - r, cy);
    const across = 2 * hundredths(r);
    for (const to of [across, -across]) this.#put('a', [hundredths(r), hundredths(r), 0, 100, 0, to, 0]);
    return this.close();
  }

  rect(x: number, y: number, width: number, height: number): this {
    const next: Edges = {
      left: hundredths(x),
      right: hundredths(x + width),
      top: hundredths(y),
      bottom: hundredths(y + height),
    };
    const last = this.#row.at(-1);
    const levels = (['top', 'bottom'] as const).filter(
      (edge) => last?.right === next.left && last[edge] === next[edge] && (this.#level ?? edge) === edge,
    );
    if (levels.length === 0) this.#endRow();
    else if (levels.length === 1) this.#level = levels[0]!;
    this.#row.push(next);
    return this;
  }

  close(): this {
    this.#put('z', []);
    [this.#x, this.#y] = [this.#startX, this.#startY];
    this.#letter = '';
    return this;
  }

  #endRow(): void {
    const [first] = this.#row;
    if (!first) return;
    const level = this.#level ?? 'bottom';
    const far = level === 'bottom' ? 'top' : 'bottom';
    // The same way round as all others, so that what lies on one another is not taken away from it.
    const row = level === 'bottom' ? this.#row : [...this.#row].reverse();
    const [from, to] = level === 'bottom' ? (['left', 'right'] as const) : (['right', 'left'] as const);
    this.#moveTo(row[0]![from], first[level]);
    for (const edges of row) {
      if (edges[far] !== this.#y) this.#lineTo(edges[from], edges[far]);
      this.#lineTo(edges[to], edges[far]);
    }
    this.#lineTo(this.#x, first[level]).close();
    this.#row = [];
    this.#level = null;
  }

  #moveTo(x: number, y: number): this {
    this.#go('m', [x, y]);
    // Points behind a move would be lines.
    this.#letter = '';
    [this.#startX, this.#startY] = [this.#x, this.#y];
    return this;
  }

  #lineTo(x: number, y: number): this {
    if (y === this.#y) this.#put('h', [x - this.#x]);
    else if (x === this.#x) this.#put('v', [y - this.#y]);
    else this.#put('l', [x - this.#x, y - this.#y]);
    [this.#x, this.#y] = [x, y];
    return this;
  }

  #go(letter: string, points: readonly number[]): void {
    const far = points.map((n, i) => n - (i % 2 === 0 ? this.#x : this.#y));
    this.#put(letter, far);
    this.#x += far.at(-2)!;
    this.#y += far.at(-1)!;
  }

  /** A letter and hundredths behind it. */
  #put(letter: string, numbers: readonly number[]): void {
    let before = letter === this.#letter ? this.#last : '';
    if (before === '') this.#d += letter;
    for (const n of numbers) {
      const next = short(n);
      // A minus sign parts two numbers, and so does a point behind one that has its own.
      const isParted = before === '' || next.startsWith('-') || (next.startsWith('.') && before.includes('.'));
      this.#d += isParted ? next : ` ${next}`;
      before = next;
    }
    this.#letter = letter;
    this.#last = before;
  }
}

/** Whether a curve from that height stays on it. */
const isLevel = (to: readonly number[], y: number): boolean =>
  to.every((n, i) => i % 2 === 0 || hundredths(n) === y) && to.every((n, i) => i % 2 === 1 || i < 2 || n >= to[i - 2]!);

const hundredths = (n: number): number => Math.round(n * 100);

/** Hundredths as a number: ".5", "-12.25". */
function short(n: number): string {
  const size = Math.abs(n);
  const whole = Math.trunc(size / 100);
  const part = size % 100;
  const behind = part === 0 ? '' : part % 10 === 0 ? `.${part / 10}` : part < 10 ? `.0${part}` : `.${part}`;
  return `${n < 0 ? '-' : ''}${whole === 0 && behind !== '' ? '' : whole}${behind}`;
}
