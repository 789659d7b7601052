import { writeView, type View } from '../../brief';
import { stepName, type Day } from '../../calendar';
import { percentIn, shownShares, writeNumber, writePercent, writingFor, writingOf, type Writing } from '../../format';
import { judgementAt, judgementOf, type Cells } from '../../query';
import type { CellFigure, Look, Measure } from '../../report';
import { BLANK_MEMBER } from '../../table';
import { rowName } from '../names';
import { gapPercentText } from '../texts';
import type { Series } from '../time/series';
import { endsOf, moodEdges, SCORED, type CellEnds, type MoodEdges } from './scores';

/** A column of numbers, and how its cells are drawn. */
export interface FigureNumbers {
  readonly kind: 'number';
  /** What a look calls it. */
  readonly id: string;
  readonly heading: string;
  readonly measure: Measure | null;
  /** One value a row. */
  readonly values: readonly number[];
  readonly texts: readonly string[];
  readonly total: string;
  readonly cell: CellFigure;
  readonly scale: 'column' | 'shared' | 'row';
  /** What a bullet is held against. */
  readonly references: readonly number[] | null;
  /** Steps behind each row, for sparks: rows of the stepped cells. */
  readonly steps: readonly Series[] | null;
  readonly sorts: 'value' | 'gap percent' | null;
  /** What dots, tints and bars of scores are read against; null for bars from zero and numbers. */
  readonly ends: CellEnds | null;
  /** Where faces change; null where they say how a row stands. */
  readonly moods: MoodEdges | null;
  /** A value as this column writes it. */
  write(value: number): string;
}

export interface FigureTexts {
  readonly kind: 'text';
  readonly id: string;
  readonly heading: string;
  readonly texts: readonly string[];
  readonly numeric: boolean;
}

export type FigureColumn = FigureNumbers | FigureTexts;

/** What a table is made of: rows with their numbers over the period, and where it has steps, those behind each row. */
export interface TableCells {
  /** One row a member (or a step, where there is no field). */
  readonly rows: Cells;
  /** The same over time; null where there are no steps, or where the steps are the rows. */
  readonly stepped: Cells | null;
  readonly series: readonly Series[];
}

const SPARKS: ReadonlySet<CellFigure> = new Set(['spark columns', 'spark line']);

/** Cells a column may have: figures over time need steps, shares whole parts. */
export function cellsFor(hasSteps: boolean): CellFigure[] {
  const plain: CellFigure[] = ['number', 'bar', 'share bar', 'bullet', 'delta', 'dot', 'face', 'ramp'];
  return hasSteps ? [...plain, 'spark columns', 'spark line'] : plain;
}

/**
 * The columns of a table: its fields, then each view, what the first is held against and the gap.
 * @param as rows in whose units amounts are written, where they stand among others
 */
export function figureColumns(
  { rows, stepped, series }: TableCells,
  look: Look,
  { ranked, as = rows }: { ranked: boolean; as?: Cells },
): FigureColumn[] {
  const { fields, members, count, measure, benchmark, benchmarks } = rows;
  const all = Array.from({ length: count }, (_, row) => row);
  const wished = new Map(look.columns?.map((one) => [one.of, one]));
  const columns: FigureColumn[] = [];
  if (ranked && rows.rank)
    columns.push({
      kind: 'text',
      id: 'rank',
      heading: '',
      numeric: true,
      texts: all.map((row) => (rows.isRest[row] || Number.isNaN(rows.rank![row]!) ? '' : String(rows.rank![row]))),
    });
  fields.forEach((field, f) =>
    columns.push({
      kind: 'text',
      id: field,
      heading: field,
      numeric: false,
      texts: all.map((row) => (rows.isRest[row] && f > 0 ? '' : members[f]![row] || BLANK_MEMBER)),
    }),
  );
  // Without a field to gather them, steps are the rows.
  if (rows.steps && rows.grain) {
    const { grain, calendar } = rows;
    columns.push({
      kind: 'text',
      id: grain,
      heading: grain,
      numeric: false,
      texts: Array.from(rows.steps, (step) => stepName(grain, step, calendar)),
    });
  }
  if (columns.every(({ kind, id }) => kind !== 'text' || id === 'rank'))
    columns.push({
      kind: 'text',
      id: 'name',
      heading: '',
      numeric: false,
      texts: all.map((row) => rowName(rows, row)),
    });
  const column = (
    id: string,
    heading: string,
    of: Measure | null,
    values: readonly number[],
    writing: Writing,
    total: number,
    first: CellFigure,
    { shown, ...more }: Partial<FigureNumbers> & { readonly shown?: ArrayLike<number> } = {},
  ): FigureNumbers => {
    const wish = wished.get(id);
    const cell = wish && !(SPARKS.has(wish.cell) && !stepped) ? wish.cell : first;
    const ends = endsOf(of, values, wish?.ends);
    const isScored = SCORED.has(cell) || (cell === 'bar' && ends.by !== 'shown');
    const isStanding = cell === 'face' && wish?.faces === undefined && (more.references ?? null) !== null;
    return {
      kind: 'number',
      id,
      heading,
      measure: of,
      values,
      texts: Array.from(shown ?? values, (value) => writeNumber(value, writing)),
      total: Number.isNaN(total) ? '' : writeNumber(total, writing),
      cell,
      scale: wish?.scale ?? 'column',
      references: null,
      steps: null,
      sorts: null,
      ends: isScored ? ends : null,
      moods: cell === 'face' && !isStanding ? moodEdges(ends, of, wish?.faces) : null,
      write: (value) => writeNumber(value, writing),
      ...more,
    };
  };
  const inUnits = as.decimals === rows.decimals ? as : rows;
  const writing = writingOf(inUnits);
  const { shown: whole } = rows;
  const isShare = rows.view.kind === 'share';
  // Ranks that a league draws beside what they rank, which then bears its own name.
  const isRanked = rows.view.kind === 'rank' && ranked;
  const first = isShare ? 'share bar' : stepped ? 'spark columns' : fields.length > 0 || rows.steps ? 'bar' : 'number';
  const headingOf = (view: View, step: Day | null) =>
    step === null || !stepped?.grain
      ? writeView(view)
      : `${writeView(view)}, ${stepName(stepped.grain, step, rows.calendar)}`;
  columns.push(
    column(
      writeView(rows.view),
      isRanked ? measure.name : headingOf(rows.view, whole.step),
      measure,
      Array.from(rows.actual),
      writing,
      rows.view.kind === 'rank' && !ranked ? NaN : whole.actual,
      first,
      {
        references: benchmarks ? Array.from(benchmarks) : null,
        steps: stepped ? series : null,
        sorts: 'value',
        ...(isShare ? { shown: shownShares(rows, rows.actual) } : {}),
      },
    ),
  );
  if (benchmark && benchmarks && !(stepped && ranked)) {
    columns.push(
      column(benchmark.name, benchmark.name, measure, Array.from(benchmarks), writing, whole.benchmark, 'number', {
        ...(isShare ? { shown: shownShares(rows, benchmarks) } : {}),
      }),
    );
  }
  if (benchmark && benchmarks && rows.view.kind !== 'rank') {
    const gaps = all.map((row) => judgementAt(rows, row).gapPercent);
    const judged = judgementOf(whole).gapPercent;
    const against = rows.due?.some((due) => !Number.isNaN(due)) ? 'due' : benchmark.name;
    columns.push({
      ...column('gap %', `to ${against}`, measure, gaps, writingFor(percentIn(measure.format), 1), NaN, 'delta', {
        sorts: 'gap percent',
      }),
      texts: all.map((row) => gapPercentText(rows, row) ?? '–'),
      total: Number.isNaN(judged) ? '' : writePercent(judged, 1, true, measure.format),
    });
  }
  for (const [v, { view, measure: other, of, total }] of rows.values.entries()) {
    const like = { ...inUnits, view, measure: other, actual: inUnits.values[v]!.of, benchmarks: null, decimals: null };
    const isPart = view.kind === 'share';
    const style = isPart
      ? writingFor(percentIn(other.format), 1)
      : view.kind === 'rank'
        ? writingFor({ style: 'number', scale: 'none', decimals: 0 }, 1)
        : writingOf(like);
    const cell = isPart ? 'share bar' : view.kind === 'change' ? 'delta' : 'number';
    const step = view.kind === 'change' || view.kind === 'smoothed' ? lastStepOf(stepped, view) : null;
    columns.push(
      column(
        writeView(view),
        headingOf(view, step),
        other,
        Array.from(of),
        style,
        rows.isSelection ? NaN : total,
        cell,
        {
          ...(isPart ? { shown: shownShares(rows, of) } : {}),
        },
      ),
    );
  }
  return columns;
}

/** The step that a column of changes or means speaks of: the last in which anybody has one. */
function lastStepOf(stepped: Cells | null, view: View): Day | null {
  const own = stepped?.values.find((one) => one.view === view || writeView(one.view) === writeView(view));
  if (!own || !stepped?.steps) return null;
  let last: Day | null = null;
  own.of.forEach((value, row) => {
    if (!Number.isNaN(value)) last = Math.max(last ?? -Infinity, stepped.steps![row]!);
  });
  return last;
}
