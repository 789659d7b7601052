import { writeView } from '../../brief';
import { stepName } from '../../calendar';
import { exactWriting, writeNumber, writePercent, writingFor, writingOf, type Writing } from '../../format';
import { judgementAt, type Cells } from '../../query';
import type { CellFigure, Look, Measure } from '../../report';
import { BLANK_MEMBER, rowName } from '../names';
import type { Series } from '../time/series';

/** A column of numbers, and how its cells are drawn. */
export interface NumberColumn {
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
}

export interface TextColumn {
  readonly kind: 'text';
  readonly id: string;
  readonly heading: string;
  readonly texts: readonly string[];
  readonly numeric: boolean;
}

export type Column = NumberColumn | TextColumn;

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

/** The columns of a table: its fields, then each view, what the first is held against and the gap. */
export function columnsOf(
  { rows, stepped, series }: TableCells,
  look: Look,
  { ranked }: { ranked: boolean },
): Column[] {
  const { fields, members, count, measure, benchmark, benchmarks } = rows;
  const all = Array.from({ length: count }, (_, row) => row);
  const wished = new Map(look.columns?.map((one) => [one.of, one]));
  const columns: Column[] = [];
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
    more: Partial<NumberColumn> = {},
  ): NumberColumn => {
    const wish = wished.get(id);
    const cell = wish && !(SPARKS.has(wish.cell) && !stepped) ? wish.cell : first;
    return {
      kind: 'number',
      id,
      heading,
      measure: of,
      values,
      texts: values.map((value) => writeNumber(value, writing)),
      total: Number.isNaN(total) ? '' : writeNumber(total, writing),
      cell,
      scale: wish?.scale ?? 'column',
      references: null,
      steps: null,
      sorts: null,
      ...more,
    };
  };
  const writing = writingOf(rows);
  const isShare = rows.view.kind === 'share';
  const isRank = rows.view.kind === 'rank';
  const first = isShare ? 'share bar' : stepped ? 'spark columns' : fields.length > 0 || rows.steps ? 'bar' : 'number';
  columns.push(
    column(
      writeView(rows.view),
      isRank ? measure.name : writeView(rows.view),
      measure,
      Array.from(rows.actual),
      writing,
      rows.total.actual,
      first,
      { references: benchmarks ? Array.from(benchmarks) : null, steps: stepped ? series : null, sorts: 'value' },
    ),
  );
  if (benchmark && benchmarks && !(stepped && ranked)) {
    columns.push(
      column(benchmark.name, benchmark.name, measure, Array.from(benchmarks), writing, rows.total.benchmark, 'number'),
    );
  }
  if (benchmark && benchmarks) {
    const gaps = all.map((row) => judgementAt(rows, row).gapPercent);
    const against = rows.due?.some((due) => !Number.isNaN(due)) ? 'due' : benchmark.name;
    columns.push({
      ...column('gap %', `to ${against}`, measure, gaps, writingFor({ style: 'percent' }, 1), NaN, 'delta', {
        sorts: 'gap percent',
      }),
      texts: gaps.map((gap) => (Number.isNaN(gap) ? '–' : writePercent(gap))),
      total: Number.isNaN(rows.total.gapPercent) ? '' : writePercent(rows.total.dueGapPercent || rows.total.gapPercent),
    });
  }
  for (const { view, measure: other, of, total } of rows.values) {
    const like = { ...rows, view, measure: other, actual: of, benchmarks: null, decimals: null };
    const style =
      view.kind === 'share'
        ? writingFor({ style: 'percent' }, 1)
        : view.kind === 'rank'
          ? exactWriting({ ...like, measure: { ...other, format: { style: 'number', decimals: 0 } } })
          : writingOf(like);
    const cell = view.kind === 'share' ? 'share bar' : view.kind === 'change' ? 'delta' : 'number';
    columns.push(column(writeView(view), writeView(view), other, Array.from(of), style, total, cell));
  }
  return columns;
}
