import { sayPeriod, stepName, writtenDay, writtenSpan } from '../calendar';
import { gapWritingOf, writeNumber, writingFor, type Writing } from '../format';
import { judgementAt, rowSource, namesOfRow, stepOfRow, type Cells, standingAt } from '../query';
import type { Aim } from '../report';
import { BLANK_MEMBER } from '../table';
import { textsOf } from './texts';

/** How a row is called: its members (but those of a field that is named elsewhere), its step, or the measure where it has neither. */
export function rowName(cells: Cells, row: number, without: string | null = null): string {
  const { members, fields } = cells;
  if (fields.length === 1 && without === null && !cells.steps) return members[0]![row] || BLANK_MEMBER;
  const parts = namesOfRow(cells, row, without);
  if (cells.steps && cells.grain) parts.push(stepName(cells.grain, cells.steps[row]!, cells.calendar));
  return parts.length === 0 ? cells.measure.name : parts.join(' · ');
}

/** The key of a row, for marks. */
export function rowKey(cells: Cells, row: number): { key: Record<string, string | null>; step: string | null } {
  const key: Record<string, string | null> = {};
  for (let f = 0; f < cells.fields.length; f++) {
    const field = cells.fields[f]!;
    const value = cells.members[f]![row] || null;
    // To give an object a key of this name sets what it inherits from.
    if (field === '__proto__') Object.defineProperty(key, field, { value, enumerable: true });
    else key[field] = value;
  }
  return { key, step: stepOfRow(cells, row) };
}

const STANDING_WORDS: Record<Aim, Record<'ahead' | 'level' | 'behind', string>> = {
  raise: { ahead: 'ahead of', level: 'level with', behind: 'behind' },
  cut: { ahead: 'better than', level: 'level with', behind: 'worse than' },
  hold: { ahead: 'near', level: 'near', behind: 'away from' },
};

/** A row in words: value, benchmark, what was due, gap and standing. */
export function rowWords(cells: Cells, row: number): string {
  const [source, at] = rowSource(cells, row);
  return wordsOf(source, at, rowName(cells, row));
}

function wordsOf(cells: Cells, row: number, name: string): string {
  if (cells.view.kind === 'rank' && cells.actual === cells.rank) return ranksInWords(cells, row, name);
  const texts = textsOf(cells);
  const { writing } = texts;
  let words = `${name}: ${Number.isNaN(cells.actual[row]!) ? `no ${cells.measure.name}` : texts.actual[row]!}`;
  if (cells.benchmarks && cells.benchmark) {
    if (Number.isNaN(cells.benchmarks[row]!)) words += `; no ${cells.benchmark.name}`;
    else {
      words += `; ${cells.benchmark.name} ${texts.benchmark[row]!}`;
      const due = cells.due?.[row] ?? NaN;
      if (!Number.isNaN(due)) words += `; due by ${writtenDay(cells.asOf)} ${writeNumber(due, writing)}`;
      const { standing, gap, against } = judgementAt(cells, row);
      if (standing) {
        const percent = texts.gapPercent[row]!;
        const share = percent === '' ? '' : ` (${percent})`;
        const what = against === 'due' ? `the ${cells.benchmark.name} due by now` : cells.benchmark.name;
        words += `; ${writeNumber(gap, gapWriting(cells, gap, writing), true)}${share}, ${STANDING_WORDS[cells.measure.aim][standing]} ${what}`;
      }
    }
  }
  const landing = cells.landing?.[row] ?? NaN;
  if (!Number.isNaN(landing)) words += `; at this pace it lands at ${writeNumber(landing, writing)}`;
  if (cells.view.kind === 'rank' && cells.rank) words += `; ${rankWords(cells.rank[row]!)}`;
  return words;
}

const rankWords = (rank: number): string => (Number.isNaN(rank) ? 'no rank' : `rank ${rank}`);

/** A row of ranks in words: its own, and the one its benchmark would have. */
function ranksInWords(cells: Cells, row: number, name: string): string {
  const held = cells.benchmarks?.[row] ?? NaN;
  const rank = cells.actual[row]!;
  const words = `${name}: ${rankWords(rank)}`;
  if (!cells.benchmark || Number.isNaN(held)) return words;
  const standing = standingAt(cells, row);
  const judged = standing === null ? '' : `, ${STANDING_WORDS.cut[standing]} ${cells.benchmark.name}`;
  return `${words}; rank ${held} by ${cells.benchmark.name}${judged}`;
}

/** More rows than this are counted in a description, not told. */
const MOST_TOLD = 40;

/** A figure in words, for those who hear it: its form, its brief, and its rows where they are few. */
export function spoken(called: string, cells: Cells): string {
  const { count, text } = cells;
  const rows = count > MOST_TOLD ? [] : Array.from({ length: count }, (_, row) => ` ${rowWords(cells, row)}.`);
  return `${called}: ${text}. ${count} ${count === 1 ? 'row' : 'rows'}.${rows.join('')}`;
}

/** The period in words, with what it is compared with if that is wished. */
export function periodWords(cells: Cells, isCompared = true): string {
  if (!cells.dated) return '';
  const { benchmarkPeriod: before, brief, period: whole, asOf, calendar, view } = cells;
  // What is cut on the other side is as short on this one.
  const isCut = before !== null && isCompared && whole.from <= asOf && asOf < whole.to && view.kind !== 'cumulative';
  const period = sayPeriod(brief.period, whole, calendar, isCut ? asOf : undefined);
  if (!before || !isCompared) return period;
  return `${period}, compared with ${writtenSpan(before)}`;
}

/** A gap is often far smaller than what it lies between: it is written in its own scale where the figure's would show nothing of it. */
function gapWriting({ measure, decimals, view }: Cells, gap: number, writing: Writing): Writing {
  const own = gapWritingOf({ measure, view }, writing);
  if (own !== writing) return own;
  const shows = Math.abs(gap) >= 10 * 10 ** -writing.decimals * writing.divisor;
  return gap === 0 || shows ? writing : writingFor(measure.format, Math.abs(gap), decimals);
}
