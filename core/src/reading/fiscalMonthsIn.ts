import {
  FEWEST_MONTHS,
  isoDay,
  LISTED_LENGTH,
  monthOf,
  PLAIN_CALENDAR,
  type Day,
  type FiscalMonths,
} from '../calendar';
import { Problem } from '../problem';
import { DATE_PATTERNS, patternsFor } from './readDate';

/** A line of a list of months: the month it names, and the days that stand in it. */
interface Line {
  readonly at: number;
  readonly text: string;
  /** Months from the year 0 on; null where it names none. */
  readonly month: number | null;
  readonly days: readonly Day[];
}

const readAs = (text: string, grain: 'day' | 'month'): Day | null => {
  const trimmed = text.trim().replace(/^"(.*)"$/, '$1');
  for (const i of patternsFor(trimmed)) {
    const pattern = DATE_PATTERNS[i]!;
    const day = pattern.grain === grain ? pattern.take(trimmed) : NaN;
    if (!Number.isNaN(day)) return day;
  }
  return null;
};

const placeOf = (day: Day) => {
  const { year, month } = monthOf(day, PLAIN_CALENDAR);
  return year * 12 + month - 1;
};
const nameOf = (place: number) =>
  `${String(Math.floor(place / 12)).padStart(4, '0')}-${String((place % 12) + 1).padStart(2, '0')}`;

function linesIn(text: string): Line[] {
  return text.split(/\r?\n/).flatMap((line, i): Line[] => {
    if (line.trim() === '') return [];
    const cells = line.split(/[,;\t]/);
    const months = cells.flatMap((cell) => readAs(cell, 'month') ?? []);
    const days = cells.flatMap((cell) => readAs(cell, 'day') ?? []);
    return [{ at: i + 1, text: line.trim(), month: months.length > 0 ? placeOf(months[0]!) : null, days }];
  });
}

/** A month that is listed; `next` is the day after it, where its lines say so. */
interface Listed {
  readonly at: number;
  readonly month: number | null;
  readonly from: Day;
  readonly next: Day | null;
}

/** Lines of one month are one: lists of weeks or days say their month in each. */
function monthsOf(lines: readonly Line[]): Listed[] {
  const groups: Line[][] = [];
  for (const line of lines) {
    const last = groups.at(-1);
    if (last && line.month !== null && last[0]!.month === line.month) last.push(line);
    else groups.push([line]);
  }
  return groups.map((group): Listed => {
    const [first] = group;
    const last = group.at(-1)!;
    const from = first!.days[0]!;
    // From one line of a month to the next, a day or a week.
    const pitch = group.length > 1 ? last.days[0]! - group.at(-2)!.days[0]! : null;
    const next = last.days.length > 1 ? last.days.at(-1)! + 1 : pitch === null ? null : last.days[0]! + pitch;
    return { at: first!.at, month: first!.month, from, next };
  });
}

/**
 * The fiscal months of a list: one a line, with its name, its first day and its last, as `2025-02, 2025-02-02, 2025-03-01`; or a line for
 * each week or day, with the month it belongs to. Without names months are called after the calendar's month that holds their middle;
 * without last days the last line is the day after the list. Throws a `Problem` that names the line.
 */
export function fiscalMonthsIn(text: string, file = 'months'): FiscalMonths {
  const problem = (at: number | null, sentence: string, remedy: string) =>
    new Problem('months', sentence, at === null ? { in: file } : { in: file, line: at }, remedy);
  const [top, ...others] = linesIn(text);
  // The first line may say what stands in the columns.
  const lines = [...(top && top.days.length > 0 ? [top] : []), ...others];
  const odd = lines.find(({ days }) => days.length === 0);
  if (odd)
    throw problem(odd.at, `“${odd.text.slice(0, 30)}” names no day`, 'write such as 2025-02, 2025-02-02, 2025-03-01');
  const months = monthsOf(lines);
  const last = months.at(-1);
  const ends = last?.next ?? last?.from;
  // A last line without an end is no month of the list, but the day after it.
  const saysEnd = typeof last?.next === 'number';
  const listed = saysEnd ? months : months.slice(0, -1);
  if (ends === undefined || listed.length < FEWEST_MONTHS)
    throw problem(
      null,
      `${listed.length === 1 ? '1 month is' : `${listed.length} months are`} listed, and a year has ${FEWEST_MONTHS}`,
      `list a year at least${saysEnd ? '' : ', and the day after it'}`,
    );
  const starts = [...listed.map(({ from }) => from), ends];
  const named = listed.every(({ month }) => month !== null);
  listed.forEach(({ at, month, from, next }, i) => {
    const length = starts[i + 1]! - from;
    if (next !== null && next !== starts[i + 1])
      throw problem(
        listed[i + 1]!.at,
        `the month before ends on ${isoDay(next - 1)}, and this one begins on ${isoDay(starts[i + 1]!)}`,
        'let each begin on the day after the one before',
      );
    if (length < LISTED_LENGTH.min || length > LISTED_LENGTH.max)
      throw problem(
        at,
        `the month from ${isoDay(from)} has ${length} days`,
        `list months of ${LISTED_LENGTH.min} to ${LISTED_LENGTH.max} days, in order`,
      );
    if (named && month !== listed[0]!.month! + i)
      throw problem(
        at,
        `${nameOf(month!)} follows ${nameOf(listed[0]!.month! + i - 1)}`,
        'list each month once, in order',
      );
  });
  const first = named ? listed[0]!.month! : placeOf(Math.floor((starts[0]! + starts[1]! - 1) / 2));
  return { first: nameOf(first), from: starts.map(isoDay) };
}

/** A list of months as text, which `fiscalMonthsIn` reads back. */
export function writeFiscalMonths({ first, from }: FiscalMonths): string {
  const place = Number(first.slice(0, 4)) * 12 + Number(first.slice(5)) - 1;
  return from.map((day, i) => (i === from.length - 1 ? day : `${nameOf(place + i)}, ${day}`)).join('\n');
}
