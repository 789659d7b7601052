import { judgementAt, type Cells } from '../query';
import type { Encode, Highlight, HighlightRule } from '../report';
import { INK } from './palette';

/** How a row is encoded, and by which rule: the first that is on and fits. */
export interface Encoding {
  readonly ink: string;
  readonly edge: string | null;
  readonly badge: Encode['badge'] | null;
  /** The row steps back, because a rule lifts others out. */
  readonly faded: boolean;
  readonly rule: string | null;
}

const PLAIN: Encoding = { ink: INK, edge: null, badge: null, faded: false, rule: null };

const known = new WeakMap<Cells, Map<Highlight, readonly Encoding[]>>();

/** The encoding of a row under a highlight. */
export function encodeRow(highlight: Highlight, cells: Cells, row: number): Encoding {
  let byHighlight = known.get(cells);
  if (!byHighlight) known.set(cells, (byHighlight = new Map()));
  let encodings = byHighlight.get(highlight);
  if (!encodings) byHighlight.set(highlight, (encodings = encodeAll(highlight, cells)));
  return encodings[row] ?? PLAIN;
}

function encodeAll(highlight: Highlight, cells: Cells): readonly Encoding[] {
  const values = Array.from({ length: cells.count }, (_, row) => litValue(highlight, cells, row));
  const ranked = highlight.rules.some(({ when }) => 'highest' in when || 'lowest' in when);
  const places = ranked ? placesOf(values, cells) : NO_PLACES;
  const found = values.map((value, row) =>
    highlight.rules.find((rule) => rule.on && fits(rule, highlight, cells, row, value, places)),
  );
  const lifts = found.some((rule) => rule?.encode.fadeOthers);
  return found.map((rule) => {
    if (!rule) return lifts ? { ...PLAIN, faded: true } : PLAIN;
    const { ink = INK, edge = null, badge = null } = rule.encode;
    return { ink, edge, badge, faded: false, rule: rule.id };
  });
}

/** The number a highlight looks at in a row; NaN where it is blank, or where the highlight looks at no number. */
export function litValue({ on }: Highlight, cells: Cells, row: number): number {
  switch (on) {
    case 'standing':
    case 'member':
      return NaN;
    case 'value':
      return cells.actual[row]!;
    case 'rank':
      return cells.rank?.[row] ?? NaN;
    case 'share':
      return cells.share?.[row] ?? NaN;
    case 'gap':
      return judgementAt(cells, row).gap;
    case 'gap percent':
      return judgementAt(cells, row).gapPercent;
  }
}

const NO_PLACES: Places = { fromHighest: [], fromLowest: [] };

interface Places {
  readonly fromHighest: readonly number[];
  readonly fromLowest: readonly number[];
}

/** How many members lie before each from either end; those of one value share a place, “the rest” has none. */
function placesOf(values: readonly number[], cells: Cells): Places {
  const real = values.filter((value, row) => !Number.isNaN(value) && !cells.isRest[row]).sort((a, b) => a - b);
  const first = new Map<number, number>();
  const last = new Map<number, number>();
  real.forEach((value, i) => {
    if (!first.has(value)) first.set(value, i + 1);
    last.set(value, real.length - i);
  });
  const place = (value: number, row: number, of: ReadonlyMap<number, number>) =>
    cells.isRest[row] ? Infinity : (of.get(value) ?? Infinity);
  return {
    fromHighest: values.map((value, row) => place(value, row, last)),
    fromLowest: values.map((value, row) => place(value, row, first)),
  };
}

function fits(
  { when }: HighlightRule,
  { on }: Highlight,
  cells: Cells,
  row: number,
  value: number,
  { fromHighest, fromLowest }: Places,
): boolean {
  if ('standing' in when) return on === 'standing' && judgementAt(cells, row).standing === when.standing;
  if ('members' in when) return cells.members.some((names) => when.members.includes(names[row]!));
  if ('highest' in when) return fromHighest[row]! <= when.highest;
  if ('lowest' in when) return fromLowest[row]! <= when.lowest;
  return value >= (when.from ?? -Infinity) && value < (when.to ?? Infinity);
}
