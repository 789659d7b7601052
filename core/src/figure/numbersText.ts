import { writeView, type SortKey } from '../brief';
import { exactWriting, gapWritingOf, shownShares, writeNumber, writePercent, writingFor } from '../format';
import { judgementAt, judgementOf, type Cells } from '../query';
import { rowName } from './names';

export interface NumbersText {
  readonly headings: readonly string[];
  /** What the brief sorts by for each column; null where it cannot. */
  readonly sorts: readonly (SortKey | null)[];
  readonly lines: readonly (readonly string[])[];
  readonly whole: readonly string[];
}

const COUNT = writingFor({ style: 'number', scale: 'none', decimals: 0 }, 0);

/** The numbers behind a figure, unrounded, as text for a table. */
export function numbersText(cells: Cells): NumbersText {
  const common = { ...exactWriting(cells), unit: '' };
  const { benchmark, due, rank, share, total, stacked, values } = cells;
  const writingAt = (row: number) => (stacked && row >= 0 ? exactWriting(stacked[row]!) : common);
  const number = (value: number, row = -1) => writeNumber(value, writingAt(row));
  const difference = (value: number, row = -1) =>
    writeNumber(
      value,
      { ...gapWritingOf(stacked?.[row] ?? cells, writingAt(row)), unit: '', decimals: writingAt(row).decimals },
      true,
    );
  const further = values.map(({ view, measure, of }) => {
    const like = { ...cells, view, measure, actual: of, benchmarks: null, decimals: null };
    return view.kind === 'rank' ? COUNT : { ...exactWriting(like), unit: '' };
  });
  const percent = (value: number) => (Number.isNaN(value) ? '–' : writePercent(value, 2, true, cells.measure.format));
  const headings = ['', stacked ? 'actual' : cells.measure.name];
  const sorts: (SortKey | null)[] = ['name', 'value'];
  if (benchmark) {
    headings.push(benchmark.name, ...(due ? ['due by now'] : []), 'gap', 'gap %');
    sorts.push('benchmark', ...(due ? [null, null, null] : (['gap', 'gap percent'] as const)));
  }
  if (share) headings.push('share');
  if (rank) headings.push('rank');
  headings.push(...values.map(({ view }) => writeView(view)), 'rows');
  while (sorts.length < headings.length) sorts.push(null);
  const shares = share && shownShares(cells, share, 2);
  const isShare = cells.view.kind === 'share';
  const [actuals, helds] = [
    isShare ? shownShares(cells, cells.actual, 3) : cells.actual,
    isShare && cells.benchmarks ? shownShares(cells, cells.benchmarks, 3) : cells.benchmarks,
  ];
  const others = values.map(({ view, of }) => (view.kind === 'share' ? shownShares(cells, of, 3) : of));
  const lines = Array.from({ length: cells.count }, (_, i) => {
    const line = [rowName(cells, i), number(actuals[i]!, i)];
    if (benchmark) {
      // While a step or the period runs, a gap is to what is due by now; else to the benchmark.
      const { gap, gapPercent } = judgementAt(cells, i);
      line.push(number(helds![i]!, i), ...(due ? [number(due[i]!, i)] : []));
      line.push(difference(gap, i), percent(gapPercent));
    }
    if (shares) line.push(Number.isNaN(shares[i]!) ? '–' : writePercent(shares[i]!, 2, false, cells.measure.format));
    if (rank) line.push(Number.isNaN(rank[i]!) ? '–' : String(rank[i]));
    line.push(...further.map((writing, v) => writeNumber(others[v]![i]!, writing)), writeNumber(cells.rows[i]!, COUNT));
    return line;
  });
  if (stacked) return { headings, sorts: headings.map(() => null), lines, whole: [] };
  // Where only some are shown, all are said to be as many as they are.
  const whole = [cells.isSelection ? `all ${cells.everyone}` : 'all', number(total.actual)];
  if (benchmark) {
    const { gap, gapPercent } = judgementOf(total);
    whole.push(number(total.benchmark), ...(due ? [number(total.due)] : []), difference(gap), percent(gapPercent));
  }
  if (share) whole.push('');
  if (rank) whole.push('');
  whole.push(
    ...further.map((writing, v) => (Number.isNaN(values[v]!.total) ? '' : writeNumber(values[v]!.total, writing))),
  );
  whole.push(writeNumber(total.rows, COUNT));
  return { headings, sorts, lines, whole };
}
