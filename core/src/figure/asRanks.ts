import type { Cells } from '../query';

/** How ranks are written and judged: whole numbers, and the first is the best. */
const RANKS = {
  format: { style: 'number', scale: 'none', decimals: 0 },
  aim: 'cut',
  tolerance: 0,
} as const;

/**
 * The cells of a view of ranks with the ranks as what is shown, for forms that draw values. Held against something they are
 * compared with the ranks that its values have among the members. There is no whole of ranks.
 */
export function asRanks(cells: Cells): Cells {
  const { rank, benchmarkRank, count } = cells;
  if (cells.view.kind !== 'rank' || !rank) return cells;
  const gap = benchmarkRank && rank.map((one, row) => one - benchmarkRank[row]!);
  const blank = new Float64Array(count).fill(NaN);
  const standing =
    gap && Uint8Array.from(gap, (places) => (Number.isNaN(places) ? 0 : places < 0 ? 1 : places === 0 ? 2 : 3));
  const nothing = {
    actual: NaN,
    benchmark: NaN,
    due: NaN,
    gap: NaN,
    gapPercent: NaN,
    standing: null,
    dueGap: NaN,
    dueGapPercent: NaN,
    dueStanding: null,
  };
  return {
    ...cells,
    measure: { ...cells.measure, ...RANKS },
    actual: rank,
    benchmarks: benchmarkRank,
    due: null,
    low: null,
    high: null,
    gap,
    gapPercent: gap && blank,
    standing,
    dueGap: null,
    dueGapPercent: null,
    dueStanding: null,
    landing: null,
    total: { ...cells.total, ...nothing },
    shown: { ...cells.shown, ...nothing },
    decimals: 0,
    additive: false,
    state: Array.from(rank, (one) => (Number.isNaN(one) ? 'blank' : 'actual')),
  };
}
