import { isFigureChanged, type ReportComparison, type FigureChange, type RowChange } from '@bold-ruler/core/comparison';
import { counted } from '@bold-ruler/core/problem';

const amount = new Intl.NumberFormat('en', { maximumFractionDigits: 2 });
const written = (value: number | null) => (value === null ? '–' : amount.format(value));
const MOST_ROWS = 6;
const MOST_MONTHS = 24;

type Numbers = Pick<RowChange, 'before' | 'restated' | 'after'>;

/** `100 → 120 (past +5, new +15)` */
function way({ before, restated, after }: Numbers): string {
  if (before === restated && restated === after) return `${written(after)}, as it was`;
  const step = (from: number | null, to: number | null) => {
    const by = (to ?? 0) - (from ?? 0);
    return `${by < 0 ? '−' : '+'}${amount.format(Math.abs(by))}`;
  };
  return `${written(before)} → ${written(after)} (of the past ${step(before, restated)}, new ${step(restated, after)})`;
}

/** What differs, for people. */
export function comparisonText({ asOf, figures, restated, gone, come }: ReportComparison): string {
  const lines: string[] = [];
  if (asOf[0] !== null || asOf[1] !== null) lines.push(`Complete up to ${asOf[0] ?? '–'}, then ${asOf[1] ?? '–'}.`);
  const changed = figures.filter(isFigureChanged);
  const same = figures.length - changed.length;
  for (const figure of changed) lines.push('', ...figureLines(figure));
  if (same > 0)
    lines.push(
      '',
      `${counted(same, 'figure')} ${same === 1 ? 'says' : 'say'} what ${same === 1 ? 'it' : 'they'} said before.`,
    );
  if (restated.length > 0) {
    lines.push('', `Told otherwise now, of months that were there before:`);
    for (const { measure, month, before, after } of restated.slice(0, MOST_MONTHS))
      lines.push(`  ${month}  ${measure}: ${written(before)} → ${written(after)}`);
    if (restated.length > MOST_MONTHS) lines.push(`  and ${restated.length - MOST_MONTHS} more`);
  }
  for (const brief of gone) lines.push('', `Gone: ${brief}`);
  for (const brief of come) lines.push('', `New: ${brief}`);
  return `${lines.join('\n').trim()}\n`;
}

function figureLines({ id, brief, total, benchmark, rows, problem }: FigureChange): string[] {
  const head = `${id}: ${brief}`;
  if (problem)
    return [
      head,
      `  cannot be answered ${problem.before === null ? 'any more' : 'before'}: ${problem.after ?? problem.before!}`,
    ];
  const lines = [head, `  whole: ${way(total)}`];
  if (benchmark && (benchmark.before !== benchmark.after || benchmark.before !== benchmark.restated))
    lines.push(`  held against: ${way(benchmark)}`);
  for (const row of rows.slice(0, MOST_ROWS)) {
    const name = [...Object.values(row.key).map((member) => member ?? 'blank'), row.step ?? []].flat().join(', ');
    if (name !== '') lines.push(`  ${name}: ${way(row)}`);
  }
  if (rows.length > MOST_ROWS) lines.push(`  and ${rows.length - MOST_ROWS} more rows`);
  return lines;
}
