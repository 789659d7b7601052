import { BAND_TINTS } from '../../highlight';
import { tidy } from '../../number';
import { listed, Problem } from '../../problem';
import { judgedBy, rowSource, statisticOf, type Cells } from '../../query';
import type { Aim, Look, MemberEdge } from '../../report';
import type { Paint } from '../../scene';

/** A stretch of a row's ruler, [from, to); tint 0 is the worst and darkest. */
export interface Band {
  readonly from: number;
  readonly to: number;
  readonly tint: string;
  readonly name: string;
}

/** Bands whose edges are known: shares of what each row is judged by, or numbers. */
export interface ResolvedBands {
  readonly of: 'benchmark' | 'fixed';
  readonly edges: readonly number[];
  readonly names?: readonly string[];
  /** What the edges are, where they are the members' own. */
  readonly words?: readonly string[];
  /** Edges of each row, where they are expressions, one array an edge. */
  readonly ofRows?: readonly Float64Array[];
  /** They fit the aim of whatever row they stand behind. */
  readonly fitting?: true;
}

const FITTING: Record<Aim, readonly number[]> = { raise: [0.75, 0.9], cut: [1.25, 1.1], hold: [0.25, 0.1] };
const NAMES: Readonly<Record<number, readonly string[]>> = {
  2: ['short', 'in reach'],
  3: ['far off', 'short', 'in reach'],
  4: ['far off', 'short', 'near', 'in reach'],
  5: ['far off', 'off', 'short', 'near', 'in reach'],
};

const NAMES_AMONG: typeof NAMES = {
  2: ['weaker', 'stronger'],
  3: ['weak', 'middle', 'strong'],
  4: ['weakest', 'weak', 'strong', 'strongest'],
  5: ['weakest', 'weak', 'middle', 'strong', 'strongest'],
};

/** The bands a figure bears: those of its look, or where there is a benchmark three that fit the aim. Throws for edges in the wrong order. */
export function bandsOf(cells: Cells, look: Look): ResolvedBands | null {
  if (look.bands === null) return null;
  if (look.bands === undefined)
    return cells.benchmarks ? { of: 'benchmark', edges: FITTING[cells.measure.aim], fitting: true } : null;
  if (look.bands.of === 'benchmark' && !cells.benchmarks) return null;
  if (look.bands.of === 'members') return amongMembers(cells, look.bands.edges, look.bands.names);
  if (look.bands.of === 'expression')
    return cells.extras.edges
      ? {
          of: 'fixed',
          edges: look.bands.edges.map((_, i) => i),
          words: look.bands.edges,
          ofRows: cells.extras.edges,
          ...(look.bands.names ? { names: look.bands.names } : {}),
        }
      : null;
  const rising = cells.measure.aim === 'raise';
  const inOrder = look.bands.edges.every(
    (edge, i, all) => i === 0 || (rising ? edge > all[i - 1]! : edge < all[i - 1]!),
  );
  if (!inOrder) {
    throw new Problem(
      'band-edges',
      `the band edges ${listed(look.bands.edges.map(String), 'and')} do not ${rising ? 'rise' : 'fall'}`,
      { in: 'bands of the figure' },
      `“${cells.measure.name}” has the aim ${cells.measure.aim}, so put them in ${rising ? 'rising' : 'falling'} order, the worst first`,
    );
  }
  return { ...look.bands, of: look.bands.of };
}

/** The bands behind a row; null where an edge of it is blank, or where its edges are in the wrong order. */
export function bandsAt(bands: ResolvedBands, cells: Cells, row: number): ResolvedBands | null {
  const { aim } = rowSource(cells, row)[0].measure;
  if (bands.fitting) return bands.edges === FITTING[aim] ? bands : { ...bands, edges: FITTING[aim] };
  if (!bands.ofRows) return bands;
  const edges = bands.ofRows.map((edge) => edge[row]!);
  const inOrder = edges.every((edge, i) => i === 0 || (aim === 'raise' ? edge > edges[i - 1]! : edge < edges[i - 1]!));
  return inOrder && !edges.some(Number.isNaN) ? { ...bands, edges } : null;
}

/** Every value at which the bands behind a row change. */
export function bandEdgesAt(bands: ResolvedBands | null, cells: Cells, row: number): number[] {
  const here = bands && bandsAt(bands, cells, row);
  return here ? edgeValues(here, judgedBy(cells, row), rowSource(cells, row)[0].measure.aim) : [];
}

const EDGE_WORDS = { lowest: 'the lowest', mean: 'the mean', median: 'the median', highest: 'the highest' } as const;

/** Edges where the members' values have them: percentiles, mean, …, in the order the aim asks for. “The rest” is no member. */
function amongMembers(
  cells: Cells,
  edges: readonly MemberEdge[],
  names: readonly string[] | undefined,
): ResolvedBands | null {
  const { aim } = cells.measure;
  const values = Array.from(cells.actual)
    .map((value, row) => (aim === 'hold' ? Math.abs(value - (judgedBy(cells, row) || 0)) : value))
    .filter((value, row) => !Number.isNaN(value) && cells.isRest[row] === 0)
    .sort((a, b) => a - b);
  if (values.length === 0) return null;
  const placed = edges
    .map((edge) => ({
      value: statisticOf(values, edge, cells.decimals),
      words: typeof edge === 'number' ? `the ${ordinal(edge)} percentile` : EDGE_WORDS[edge],
    }))
    .sort((a, b) => (aim === 'raise' ? a.value - b.value : b.value - a.value));
  return {
    of: 'fixed',
    edges: placed.map(({ value }) => value),
    words: placed.map(({ words }) => words),
    ...(names ? { names } : {}),
  };
}

function ordinal(n: number): string {
  const last = n % 100 > 10 && n % 100 < 14 ? 0 : n % 10;
  return `${n}${['th', 'st', 'nd', 'rd'][last] ?? 'th'}`;
}

/** Name of a band from the worst, 0, to the best. */
export function bandName(bands: ResolvedBands, index: number): string {
  return bands.names?.[index] ?? (bands.words && !bands.ofRows ? NAMES_AMONG : NAMES)[bands.edges.length + 1]![index]!;
}

/** What a band covers in words, from the worst to the best: `below 75% of plan`. */
export function bandRange(
  bands: ResolvedBands,
  index: number,
  aim: Aim,
  benchmark: string,
  write: (value: number) => string,
): string {
  const { edges } = bands;
  const said = (edge: number) => {
    if (bands.of === 'benchmark') return `${Math.round(edge * 1000) / 10}%`;
    const words = bands.words?.[edges.indexOf(edge)];
    return words ? (bands.ofRows ? words : `${words} (${write(edge)})`) : write(edge);
  };
  const of = bands.of === 'benchmark' ? ` of ${benchmark}` : '';
  const [before, after] = [edges[index - 1], edges[index]];
  if (aim === 'hold') {
    if (after !== undefined && before === undefined) return `more than ${said(after)}${of} away`;
    return after === undefined ? `within ${said(before!)}${of}` : `within ${said(before!)}`;
  }
  const [below, above] = aim === 'raise' ? ['below', 'from'] : ['above', 'up to'];
  if (before === undefined) return `${below} ${said(after!)}${of}`;
  return after === undefined
    ? `${above} ${said(before)}`
    : aim === 'raise'
      ? `${said(before)} to ${said(after)}`
      : `${said(after)} to ${said(before)}`;
}

/** The value at which an edge of the bands stands for a row. `side` tells the two edges of `hold` apart. */
function edgeValue(edge: number, bands: ResolvedBands, benchmark: number, aim: Aim, side: -1 | 1 = 1): number {
  if (bands.of === 'fixed') return aim === 'hold' ? benchmark + side * edge : edge;
  if (aim === 'hold') return tidy(benchmark + side * edge * Math.abs(benchmark));
  return tidy(benchmark + (edge - 1) * Math.abs(benchmark));
}

/** All edges of a row as values, for the ruler; blanks among them. */
function edgeValues(bands: ResolvedBands, benchmark: number, aim: Aim): number[] {
  const values: number[] = [];
  for (const edge of bands.edges) {
    if (aim === 'hold') values.push(edgeValue(edge, bands, benchmark, aim, -1));
    values.push(edgeValue(edge, bands, benchmark, aim, 1));
  }
  return values;
}

/**
 * The bands of one row: half-open stretches that cover the domain without gap. None where the benchmark they hang on is blank.
 * @param benchmark what the row is judged by
 */
export function rowBands(
  bands: ResolvedBands,
  benchmark: number,
  aim: Aim,
  [low, high]: readonly [number, number],
): Band[] {
  const count = bands.edges.length + 1;
  const tints = BAND_TINTS[count]!;
  const at = (edge: number, side: -1 | 1 = 1) => edgeValue(edge, bands, benchmark, aim, side);
  if (Number.isNaN(at(bands.edges[0]!))) return [];
  const found: Band[] = [];
  const add = (from: number, to: number, index: number) => {
    const start = Math.max(low, from);
    const end = Math.min(high, to);
    if (end > start) found.push({ from: start, to: end, tint: tints[index]!, name: bandName(bands, index) });
  };
  const { edges } = bands;
  if (aim === 'hold') {
    // Outward from the benchmark: the best in the middle, each worse one on both sides.
    for (let index = 0; index < count; index++) {
      const [outer, inner] = [edges[index - 1], edges[index]];
      if (inner === undefined) add(at(outer!, -1), at(outer!, 1), index);
      else {
        add(outer === undefined ? low : at(outer, -1), at(inner, -1), index);
        add(at(inner, 1), outer === undefined ? high : at(outer, 1), index);
      }
    }
    return found.sort((a, b) => a.from - b.from);
  }
  // From the lowest value up: the worst first where more is better, the best first where less is.
  for (let n = 0; n < count; n++) {
    const index = aim === 'raise' ? n : count - 1 - n;
    const below = edges[aim === 'raise' ? index - 1 : index];
    const above = edges[aim === 'raise' ? index : index - 1];
    add(below === undefined ? low : at(below), above === undefined ? high : at(above), index);
  }
  return found;
}

const TINTED = new Map<string, Paint>();
/** The paint of a tint, the same object each time. */
export function tinted(fill: string): Paint {
  let paint = TINTED.get(fill);
  if (!paint) TINTED.set(fill, (paint = { fill }));
  return paint;
}
