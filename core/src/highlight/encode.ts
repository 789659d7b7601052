import { judgementAt, type Cells } from '../query';
import type { Encode, Highlight, HighlightRule } from '../report';
import { INK, QUIET } from './palette';
import { rampInks } from './ramp';

/** How a row is encoded, and by which rule: the first that is on and fits. */
export interface Encoding {
  readonly ink: string;
  /** For texts: the ink of a rule, never one of a ramp, which may be too faint to read. */
  readonly text: string;
  readonly edge: string | null;
  readonly pattern: Encode['pattern'] | null;
  readonly bold: boolean;
  readonly badge: Encode['badge'] | null;
  /** The row steps back, because a rule lifts others out. */
  readonly faded: boolean;
  readonly rule: string | null;
}

const PLAIN: Encoding = {
  ink: INK,
  text: INK,
  edge: null,
  pattern: null,
  bold: false,
  badge: null,
  faded: false,
  rule: null,
};

const known = new WeakMap<Cells, Map<Highlight, readonly Encoding[]>>();

/** The encoding of a row under a highlight. */
export function encodeRow(highlight: Highlight, cells: Cells, row: number): Encoding {
  let byHighlight = known.get(cells);
  if (!byHighlight) known.set(cells, (byHighlight = new Map()));
  let encodings = byHighlight.get(highlight);
  if (!encodings) byHighlight.set(highlight, (encodings = encodeAll(highlight, cells)));
  return encodings[row] ?? PLAIN;
}

/** Whether a highlight judges gaps: a rule on a value, a rank or a member says nothing of the gap beside it. */
export const judgesGaps = ({ on }: Highlight): boolean => on === 'standing' || on === 'gap' || on === 'gap percent';

/** The encoding of a row's gap: by the figure's highlight where that judges gaps, else by its standing alone. */
export function encodeGap(
  { highlight, standing }: { readonly highlight: Highlight; readonly standing: Highlight },
  cells: Cells,
  row: number,
): Encoding {
  return encodeRow(judgesGaps(highlight) ? highlight : standing, cells, row);
}

function encodeAll(highlight: Highlight, cells: Cells): readonly Encoding[] {
  const values = Array.from({ length: cells.count }, (_, row) => litValue(highlight, cells, row));
  const ranked = highlight.rules.some(({ when }) => 'highest' in when || 'lowest' in when);
  const places = ranked ? placesOf(values, cells) : NO_PLACES;
  const found = values.map((value, row) =>
    highlight.rules.find((rule) => rule.on && fits(rule, highlight, cells, row, value, places)),
  );
  const lifts = found.some((rule) => rule?.encode.fadeOthers);
  const ramp = highlight.ramp ? rampInks(highlight.ramp, values, cells.benchmarks) : null;
  return found.map((rule, row) => {
    if (!rule) {
      const mixed = ramp?.[row];
      if (!mixed) return lifts ? { ...PLAIN, faded: true } : PLAIN;
      return { ...PLAIN, ink: mixed, edge: QUIET, faded: lifts };
    }
    const { ink = INK, edge = null, pattern = null, weight, badge = null } = rule.encode;
    return { ink, text: ink, edge, pattern, bold: weight === 'bold', badge, faded: false, rule: rule.id };
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
    case 'rank change':
      return cells.rankChange?.[row] ?? NaN;
    case 'share':
      return cells.share?.[row] ?? NaN;
    case 'expression':
      return cells.lit?.[row] ?? NaN;
    case 'gap':
      return judgementAt(cells, row).gap;
    case 'gap percent':
      return judgementAt(cells, row).gapPercent;
  }
}

/** How many rows lie before each from either end: of all rows, and of the steps of its own member. */
interface Places {
  readonly all: Ends;
  readonly inRow: Ends;
}

interface Ends {
  readonly fromHighest: readonly number[];
  readonly fromLowest: readonly number[];
}

const NO_ENDS: Ends = { fromHighest: [], fromLowest: [] };
const NO_PLACES: Places = { all: NO_ENDS, inRow: NO_ENDS };

function placesOf(values: readonly number[], cells: Cells): Places {
  const real = values.map((value, row) => (cells.isRest[row] ? NaN : value));
  const all = endsOf(real);
  if (!cells.steps) return { all, inRow: all };
  // The steps of a member follow one another.
  const inRow = { fromHighest: [] as number[], fromLowest: [] as number[] };
  for (let from = 0; from < cells.count;) {
    let to = from + 1;
    while (to < cells.count && cells.steps[to]! > cells.steps[to - 1]!) to++;
    const ends = endsOf(values.slice(from, to));
    inRow.fromHighest.push(...ends.fromHighest);
    inRow.fromLowest.push(...ends.fromLowest);
    from = to;
  }
  return { all, inRow };
}

/** Places from either end; equal values share one, blanks have none. */
function endsOf(values: readonly number[]): Ends {
  const real = values.filter((value) => !Number.isNaN(value)).sort((a, b) => a - b);
  const first = new Map<number, number>();
  const last = new Map<number, number>();
  real.forEach((value, i) => {
    if (!first.has(value)) first.set(value, i + 1);
    last.set(value, real.length - i);
  });
  return {
    fromHighest: values.map((value) => last.get(value) ?? Infinity),
    fromLowest: values.map((value) => first.get(value) ?? Infinity),
  };
}

function fits(
  { when }: HighlightRule,
  { on }: Highlight,
  cells: Cells,
  row: number,
  value: number,
  places: Places,
): boolean {
  if ('standing' in when) return on === 'standing' && judgementAt(cells, row).standing === when.standing;
  if ('members' in when) return cells.members.some((names) => when.members.includes(names[row]!));
  if ('highest' in when) return (when.within ? places.inRow : places.all).fromHighest[row]! <= when.highest;
  if ('lowest' in when) return (when.within ? places.inRow : places.all).fromLowest[row]! <= when.lowest;
  return value >= (when.from ?? -Infinity) && value < (when.to ?? Infinity);
}
