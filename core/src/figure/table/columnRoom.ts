import { textWidth } from '../../scene';
import { PAD } from '../frame';
import { widest } from '../rows/parts';
import { SAYS_IT, SIZE, type PlacedColumn } from './cell';
import type { FigureColumn, FigureNumbers } from './columns';

/** What headings are set in, and the pixels between two columns. */
export const HEAD_SIZE = 11.5;
export const GAP = 18;
/** Widths of the figures in cells; numbers and names take what they need. */
const FIGURE: Record<FigureNumbers['cell'], number> = {
  number: 0,
  bar: 96,
  'share bar': 84,
  bullet: 110,
  'spark columns': 132,
  'spark line': 120,
  delta: 16,
  dot: 24,
  face: 22,
  ramp: 0,
};

/** The width a column would like. */
export function naturalWidth(column: FigureColumn): number {
  const heading = textWidth(column.heading, HEAD_SIZE) + 2;
  if (column.kind === 'text') return Math.max(heading, Math.min(260, widest(column.texts, SIZE)));
  const numbers = SAYS_IT.has(column.cell)
    ? 0
    : Math.max(widest(column.texts, SIZE), textWidth(column.total, SIZE, 600));
  const figure = FIGURE[column.cell];
  return Math.max(Math.min(heading, 140), numbers + figure + (numbers > 0 && figure > 0 ? 10 : 0));
}

/**
 * The columns that paper of a width has room for: numbers step aside from the right, the first stays. What is not seen is told.
 * @param width left out where the paper is as wide as its columns need
 */
export function columnsFor(
  all: readonly FigureColumn[],
  wanted: readonly number[],
  width: number | undefined,
): {
  readonly columns: readonly FigureColumn[];
  readonly natural: readonly number[];
  /** Pixels that names keep, if they need them. */
  readonly names: number;
  /** Headings of those that are not seen. */
  readonly aside: readonly string[];
} {
  let names = LEAST_NAMES;
  const seen = all.map((_, c) => c);
  const aside: string[] = [];
  const picked = <T>(list: readonly T[]) => seen.map((c) => list[c]!);
  while (width !== undefined && leastWidth(picked(all), picked(wanted), names) > width - 2 * PAD) {
    const numbers = seen.filter((c) => all[c]!.kind === 'number');
    if (numbers.length < 2) {
      names = VERY_LEAST_NAMES;
      break;
    }
    const [last] = numbers.slice(-1);
    aside.unshift(all[last!]!.heading);
    seen.splice(seen.indexOf(last!), 1);
  }
  return { columns: picked(all), natural: picked(wanted), names, aside };
}

/** How far figures can give way, as a part of what they would like. */
const GIVES = 0.66;
/** Width of figures that may give way; narrow ones have one size. */
const figureRoom = (column: FigureColumn) =>
  column.kind === 'number' && FIGURE[column.cell] >= 80 ? FIGURE[column.cell] : 0;
/** What of a column of names may give way: short names stay whole, of long ones as much as tells them apart. */
const nameRoom = (column: FigureColumn, natural: number, least: number) =>
  column.kind === 'text' && !column.numeric ? Math.max(0, natural - least) : 0;
/** Pixels that names keep beside numbers, and beside a single one. */
const LEAST_NAMES = 96;
const VERY_LEAST_NAMES = 48;
/** What columns take at the least, with names cut to so many pixels. */
export function leastWidth(columns: readonly FigureColumn[], natural: readonly number[], names: number): number {
  const least = columns.map(
    (column, c) => natural[c]! - figureRoom(column) * GIVES - nameRoom(column, natural[c]!, names),
  );
  return least.reduce((sum, width) => sum + width, 0) + GAP * Math.max(0, columns.length - 1);
}

/** Columns from left to right; where there is not room for all, figures give way first, then names; where there is more, it goes to the figures. */
export function placeColumns(
  columns: readonly FigureColumn[],
  natural: readonly number[],
  leastNames: number,
  asked: number,
  room: number,
): PlacedColumn[] {
  const wide = columns.map(figureRoom);
  const figures = wide.reduce((sum, one) => sum + one, 0);
  const short = asked - room;
  // Figures shrink to a third of their width, or grow to three times.
  const share = figures === 0 ? 0 : Math.max(-2.2, Math.min(GIVES, short / figures));
  const left = short - share * figures;
  const texts = columns.map((column, c) => nameRoom(column, natural[c]!, leastNames));
  const names = texts.reduce((sum, one) => sum + one, 0);
  const squeeze = names > 0 && left > 0 ? Math.min(1, left / names) : 0;
  let x = PAD;
  return columns.map((column, c) => {
    const width = natural[c]! - wide[c]! * share - texts[c]! * squeeze;
    const figureWidth = column.kind === 'number' ? FIGURE[column.cell] - wide[c]! * share : 0;
    const placed: PlacedColumn = { column, x, width, figure: figureWidth > 0 ? { x, width: figureWidth } : null };
    x += width + GAP;
    return placed;
  });
}
