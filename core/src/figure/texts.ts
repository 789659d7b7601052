import { shownShares, writeNumber, writePercent, writingOf, type Writing } from '../format';
import { judgementAt, newOrGone, rowSource, type Cells } from '../query';

/** The numbers of every row as its figure writes them; empty where there is no benchmark, no percentage. */
export interface RowTexts {
  readonly writing: Writing;
  readonly actual: readonly string[];
  readonly benchmark: readonly string[];
  readonly gapPercent: readonly string[];
}

const known = new WeakMap<Cells, RowTexts>();

/** Columns, labels and spoken words all say the same numbers: they are written once for each answer. */
export function textsOf(cells: Cells): RowTexts {
  let texts = known.get(cells);
  if (!texts) known.set(cells, (texts = cells.stacked ? writtenEach(cells) : written(cells)));
  return texts;
}

/** A row's gap in percent, or that the row is new or gone since the period it is held against; null where there is neither. */
export function gapPercentText(cells: Cells, row: number): string | null {
  const { benchmarks, benchmarkKind, grain, fields, view, measure, actual } = cells;
  const isSince = benchmarkKind === 'period' && grain === null && fields.length > 0 && view.kind === 'plain';
  const { gap, gapPercent } = judgementAt(cells, row);
  const mark =
    isSince && benchmarks && !cells.isRest[row] && !Number.isNaN(gap)
      ? newOrGone(actual[row]!, benchmarks[row]!)
      : null;
  return mark ?? (Number.isNaN(gapPercent) ? null : writePercent(gapPercent, 1, true, measure.format));
}

function written(cells: Cells): RowTexts {
  const { count, benchmarks } = cells;
  const actual: string[] = [];
  const benchmark: string[] = [];
  const gapPercent: string[] = [];
  const writing = writingOf(cells);
  // Shares that are shown add up to what is shown of their sum.
  const isShare = cells.view.kind === 'share';
  const values = isShare ? shownShares(cells, cells.actual) : cells.actual;
  const held = isShare && benchmarks ? shownShares(cells, benchmarks) : benchmarks;
  for (let row = 0; row < count; row++) {
    actual.push(writeNumber(values[row]!, writing));
    benchmark.push(held ? writeNumber(held[row]!, writing) : '');
    gapPercent.push(gapPercentText(cells, row) ?? '');
  }
  return { writing, actual, benchmark, gapPercent };
}

/** Rows that are measures of their own are written as each measure asks. */
function writtenEach(cells: Cells): RowTexts {
  const each = Array.from({ length: cells.count }, (_, row) => {
    const [source, at] = rowSource(cells, row);
    const { actual, benchmark, gapPercent } = textsOf(source);
    return { actual: actual[at]!, benchmark: benchmark[at]!, gapPercent: gapPercent[at]! };
  });
  return {
    writing: writingOf(cells),
    actual: each.map(({ actual }) => actual),
    benchmark: each.map(({ benchmark }) => benchmark),
    gapPercent: each.map(({ gapPercent }) => gapPercent),
  };
}
