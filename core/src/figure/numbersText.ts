import { writeView, type SortKey } from '../brief';
import { exactWriting, writeNumber, writePercent, writingFor } from '../format';
import type { Cells } from '../query';
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
  const number = (value: number, signed = false, row = -1) =>
    writeNumber(value, stacked && row >= 0 ? exactWriting(stacked[row]!) : common, signed);
  const further = values.map(({ view, measure, of }) => ({
    view,
    writing: { ...exactWriting({ ...cells, view, measure, actual: of, decimals: null }), unit: '' },
  }));
  const percent = (value: number) => (Number.isNaN(value) ? '–' : writePercent(value, 2));
  const headings = ['', stacked ? 'actual' : cells.measure.name];
  const sorts: (SortKey | null)[] = ['name', 'value'];
  if (benchmark) {
    headings.push(benchmark.name, ...(due ? ['due by now', 'gap to due'] : ['gap']), 'gap %');
    sorts.push('benchmark', ...(due ? [null, null, null] : (['gap', 'gap percent'] as const)));
  }
  if (share) headings.push('share');
  if (rank) headings.push('rank');
  headings.push(...further.map(({ view }) => writeView(view)), 'rows');
  while (sorts.length < headings.length) sorts.push(null);
  const lines = Array.from({ length: cells.count }, (_, i) => {
    const line = [rowName(cells, i), number(cells.actual[i]!, false, i)];
    if (benchmark) {
      line.push(number(cells.benchmarks![i]!, false, i));
      if (due)
        line.push(number(due[i]!, false, i), number(cells.dueGap![i]!, true, i), percent(cells.dueGapPercent![i]!));
      else line.push(number(cells.gap![i]!, true, i), percent(cells.gapPercent![i]!));
    }
    if (share) line.push(Number.isNaN(share[i]!) ? '–' : writePercent(share[i]!, 2, false));
    if (rank) line.push(Number.isNaN(rank[i]!) ? '–' : String(rank[i]));
    line.push(
      ...further.map(({ writing }, v) => writeNumber(values[v]!.of[i]!, writing)),
      writeNumber(cells.rows[i]!, COUNT),
    );
    return line;
  });
  if (stacked) return { headings, sorts: headings.map(() => null), lines, whole: [] };
  const whole = ['all', number(total.actual)];
  if (benchmark) {
    whole.push(number(total.benchmark));
    if (due) whole.push(number(total.due), number(total.dueGap, true), percent(total.dueGapPercent));
    else whole.push(number(total.gap, true), percent(total.gapPercent));
  }
  if (share) whole.push('');
  if (rank) whole.push('');
  whole.push(...further.map(({ writing }, v) => writeNumber(values[v]!.total, writing)));
  whole.push(writeNumber(total.rows, COUNT));
  return { headings, sorts, lines, whole };
}
