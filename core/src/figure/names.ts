import { sayPeriod, stepName, writtenDay } from '../calendar';
import { writeNumber, writePercent, writingFor, writingOf, type Writing } from '../format';
import { judgementAt, rowSource, stepOfRow, type Cells } from '../query';
import type { Aim } from '../report';

export const BLANK_MEMBER = '(blank)';

/** How a row is called: its members (but those of a field that is named elsewhere), its step, or the measure where it has neither. */
export function rowName(cells: Cells, row: number, without: string | null = null): string {
  const lists = cells.members.filter((_, f) => cells.fields[f] !== without);
  const parts = cells.isRest[row] ? [cells.members[0]![row]!] : lists.map((list) => list[row] || BLANK_MEMBER);
  if (cells.steps && cells.grain) parts.push(stepName(cells.grain, cells.steps[row]!, cells.calendar));
  return parts.length === 0 ? cells.measure.name : parts.join(' · ');
}

/** The key of a row, for marks. */
export function rowKey(cells: Cells, row: number): { key: Record<string, string | null>; step: string | null } {
  const key: Record<string, string | null> = {};
  for (let f = 0; f < cells.fields.length; f++) key[cells.fields[f]!] = cells.members[f]![row] || null;
  return { key, step: stepOfRow(cells, row) };
}

const STANDING_WORDS: Record<Aim, Record<'ahead' | 'level' | 'behind', string>> = {
  raise: { ahead: 'ahead of', level: 'level with', behind: 'behind' },
  cut: { ahead: 'better than', level: 'level with', behind: 'worse than' },
  hold: { ahead: 'near', level: 'near', behind: 'away from' },
};

/** A row in words: value, benchmark, what was due, gap and standing. */
export function rowWords(cells: Cells, row: number, writing?: Writing): string {
  const [source, at] = rowSource(cells, row);
  return wordsOf(source, at, rowName(cells, row), source === cells && writing ? writing : writingOf(source));
}

function wordsOf(cells: Cells, row: number, name: string, writing: Writing): string {
  const write = (value: number) => writeNumber(value, writing);
  const actual = cells.actual[row]!;
  const parts = [`${name}: ${Number.isNaN(actual) ? `no ${cells.measure.name}` : write(actual)}`];
  if (cells.benchmarks && cells.benchmark) {
    const benchmark = cells.benchmarks[row]!;
    if (Number.isNaN(benchmark)) parts.push(`no ${cells.benchmark.name}`);
    else {
      parts.push(`${cells.benchmark.name} ${write(benchmark)}`);
      const due = cells.due?.[row] ?? NaN;
      if (!Number.isNaN(due)) parts.push(`due by ${writtenDay(cells.asOf)} ${write(due)}`);
      const { standing, gap, gapPercent, against } = judgementAt(cells, row);
      if (standing) {
        const share = Number.isNaN(gapPercent) ? '' : ` (${writePercent(gapPercent)})`;
        const what = against === 'due' ? `the ${cells.benchmark.name} due by now` : cells.benchmark.name;
        parts.push(
          `${writeNumber(gap, gapWriting(cells, gap, writing), true)}${share}, ${STANDING_WORDS[cells.measure.aim][standing]} ${what}`,
        );
      }
    }
  }
  const landing = cells.landing?.[row] ?? NaN;
  if (!Number.isNaN(landing)) parts.push(`at this pace it lands at ${write(landing)}`);
  if (cells.view.kind === 'rank' && cells.rank) parts.push(`rank ${cells.rank[row]}`);
  return parts.join('; ');
}

/** More rows than this are counted in a description, not told. */
const MOST_TOLD = 40;

/** A figure in words, for those who hear it: its form, its brief, and its rows where they are few. */
export function spoken(called: string, cells: Cells): string {
  const { count, text } = cells;
  const writing = writingOf(cells);
  const rows = count > MOST_TOLD ? [] : Array.from({ length: count }, (_, row) => ` ${rowWords(cells, row, writing)}.`);
  return `${called}: ${text}. ${count} ${count === 1 ? 'row' : 'rows'}.${rows.join('')}`;
}

/** The period in words, with what it is compared with. */
export function periodWords(cells: Cells): string {
  if (!cells.dated) return '';
  const period = sayPeriod(cells.brief.period, cells.period, cells.calendar);
  const { benchmarkPeriod: before } = cells;
  if (!before) return period;
  const days = before.from === before.to ? '' : ` – ${writtenDay(before.to)}`;
  return `${period}, compared with ${writtenDay(before.from)}${days}`;
}

/** A gap is often far smaller than what it lies between: it is written in its own scale where the figure's would show nothing of it. */
function gapWriting({ measure, decimals, view }: Cells, gap: number, writing: Writing): Writing {
  // A difference of percentages is one of percentage points.
  if (measure.format.style === 'percent') return writingFor({ ...measure.format, style: 'points' }, 1);
  const shows = Math.abs(gap) >= 10 * 10 ** -writing.decimals * writing.divisor;
  return gap === 0 || shows || view.kind === 'share' ? writing : writingFor(measure.format, Math.abs(gap), decimals);
}
