import { writeView } from '../brief';
import { NO_EXTRAS, type Cells } from './cells';

/** What the rows of stacked measures are called together. */
const MEASURE_FIELD = 'measure';

/** Answers without fields or steps put under one another: each is a row, called by its view. */
export function stacked(list: readonly Cells[]): Cells {
  const [first] = list;
  const column = (of: (cells: Cells) => ArrayLike<number> | null): Float64Array | null =>
    list.some((cells) => of(cells)) ? Float64Array.from(list, (cells) => of(cells)?.[0] ?? NaN) : null;
  const codes = (of: (cells: Cells) => ArrayLike<number> | null): Uint8Array | null =>
    list.some((cells) => of(cells)) ? Uint8Array.from(list, (cells) => of(cells)?.[0] ?? 0) : null;
  return {
    ...first!,
    fields: [MEASURE_FIELD],
    count: list.length,
    members: [list.map(({ view }) => writeView(view))],
    isRest: new Uint8Array(list.length),
    actual: column(({ actual }) => actual)!,
    benchmark: list.find(({ benchmark }) => benchmark)?.benchmark ?? null,
    benchmarks: column(({ benchmarks }) => benchmarks),
    due: column(({ due }) => due),
    low: null,
    high: null,
    gap: column(({ gap }) => gap),
    gapPercent: column(({ gapPercent }) => gapPercent),
    standing: codes(({ standing }) => standing),
    dueGap: column(({ dueGap }) => dueGap),
    dueGapPercent: column(({ dueGapPercent }) => dueGapPercent),
    dueStanding: codes(({ dueStanding }) => dueStanding),
    rank: null,
    benchmarkRank: null,
    isPart: null,
    cutBefore: null,
    share: null,
    rankChange: null,
    landing: column(({ landing }) => landing),
    lit: null,
    extras: NO_EXTRAS,
    isUnknown: Uint8Array.from(list, ({ isUnknown }) => isUnknown[0] ?? 0),
    state: list.map(({ state }) => state[0] ?? 'blank'),
    rows: column(({ rows }) => rows)!,
    values: [],
    checks: list.flatMap(({ checks }, i) =>
      checks.filter(({ text }) => !list.slice(0, i).some((before) => before.checks.some((c) => c.text === text))),
    ),
    stacked: list,
  };
}

/** The answer a row was taken from, and its place there. */
export function rowSource(cells: Cells, row: number): readonly [Cells, number] {
  return cells.stacked ? [cells.stacked[row]!, 0] : [cells, row];
}
