import { GRAINS, readIsoDay, type Grain, type PeriodWords } from '../calendar';
import { thousands } from '../problem';
import type { BriefParser } from './parser';

export function startsWith(reader: BriefParser, phrase: string): boolean {
  const before = reader.place;
  const taken = reader.quietly(phrase);
  reader.place = before;
  return taken;
}

/** One of some words for a grain of time. Throws a `Problem` where none stands there. */
export function grain<T extends string>(reader: BriefParser, words: readonly T[], kind: string): T {
  const taken = reader.oneOf(words);
  if (taken === null) throw reader.misplaced(words, kind);
  return taken;
}

const PERIOD_OFFERS = [
  'all time',
  'latest month',
  'latest day',
  'previous month',
  'last 12 months',
  'last 28 days',
  'month to date',
  'quarter to date',
  'year to date',
  'fiscal',
];
/** How far back a period may go: a century of days, and ten of what is longer. */
const MOST_BACK: Readonly<Record<Grain, number>> = {
  day: 40_000,
  week: 40_000,
  month: 12_000,
  quarter: 4_000,
  year: 1_000,
};
const PLURALS = GRAINS.map((word) => `${word}s`);

/** What stands behind “during”. Throws a `Problem` where that is no period. */
export function readPeriod(reader: BriefParser): PeriodWords {
  reader.offer('period', ...PERIOD_OFFERS);
  if (reader.quietly('all time')) return { kind: 'all time' };
  if (reader.quietly('latest')) return { kind: 'latest', grain: grain(reader, GRAINS, 'a grain of time') };
  if (reader.quietly('previous')) return { kind: 'previous', grain: grain(reader, GRAINS, 'a grain of time') };
  if (reader.quietly('last')) {
    const one = GRAINS.find((word) => reader.quietly(word));
    if (one) return { kind: 'previous', grain: one };
    const count = reader.count();
    if (count === null) throw reader.misplaced(['3 months', 'month'], 'a number of periods');
    const from = reader.position;
    const word = grain(reader, [...PLURALS, ...GRAINS], 'a grain of time');
    const of = word.replace(/s$/, '') as Grain;
    if (count > MOST_BACK[of])
      throw reader.problem(
        'period-too-long',
        `“last ${count} ${word}” goes back further than ${thousands(MOST_BACK[of])} ${of}s`,
        from,
        reader.position,
        'write fewer, or “all time”',
      );
    return { kind: 'last', count, grain: of };
  }
  if (reader.quietly('fiscal')) return readFiscal(reader);
  const toDate = GRAINS.find((word) => startsWith(reader, word));
  if (toDate) {
    reader.quietly(toDate);
    if (!reader.phrase('to date')) throw reader.misplaced(['to date'], 'what follows a grain of time');
    return { kind: 'to date', grain: toDate };
  }
  const from = reader.position;
  const first = reader.word(/^(\d{4})-(\d{2})-(\d{2})$/);
  if (first) {
    const start = dayOrProblem(reader, first[0], from);
    if (!reader.phrase('to')) throw reader.misplaced(['to'], '“to” with the last day');
    const lastFrom = reader.position;
    const last = reader.word(/^\d{4}-\d{2}-\d{2}$/);
    if (!last) throw reader.misplaced(['2026-03-31'], 'a day');
    const end = dayOrProblem(reader, last[0], lastFrom);
    forwards(reader, from, end >= start, 'day');
    return { kind: 'days', from: start, to: end };
  }
  const quarter = reader.word(/^(\d{4})-q([1-4])$/i);
  if (quarter) return { kind: 'quarter', year: Number(quarter[1]), quarter: Number(quarter[2]) };
  const month = reader.word(/^(\d{4})-(0[1-9]|1[0-2])$/);
  if (month) return readMonths(reader, from, Number(month[1]), Number(month[2]));
  const year = reader.word(/^\d{4}$/);
  if (year)
    throw reader.problem(
      'bare-year',
      `“${year[0]}” alone is not a period`,
      from,
      from + 4,
      `write “fiscal ${year[0]}”`,
      [`fiscal ${year[0]}`],
    );
  throw reader.misplaced(PERIOD_OFFERS, 'a period');
}

/** A problem where a period, written from `from` on, would end before it begins. */
function forwards(reader: BriefParser, from: number, isForwards: boolean, unit: 'day' | 'month'): void {
  if (isForwards) return;
  throw reader.problem(
    'period-backwards',
    'the period ends before it begins',
    from,
    reader.tokens[reader.place - 1]!.to,
    `put the earlier ${unit} first`,
  );
}

/** A month, or with `to` several. */
function readMonths(reader: BriefParser, from: number, year: number, month: number): PeriodWords {
  if (!reader.phrase('to')) return { kind: 'month', year, month };
  const last = reader.word(/^(\d{4})-(0[1-9]|1[0-2])$/);
  if (!last) throw reader.misplaced([`${year}-12`], 'a month');
  const to = { year: Number(last[1]), month: Number(last[2]) };
  forwards(reader, from, to.year * 12 + to.month >= year * 12 + month, 'month');
  return { kind: 'months', from: { year, month }, to };
}

function dayOrProblem(reader: BriefParser, text: string, from: number): number {
  const day = readIsoDay(text);
  if (day === null)
    throw reader.problem('not-a-day', `“${text}” is not a day`, from, from + text.length, 'write it as YYYY-MM-DD');
  return day;
}

function readFiscal(reader: BriefParser): PeriodWords {
  const year = reader.word(/^(\d{4})$/);
  if (!year) throw reader.misplaced(['2026'], 'a fiscal year');
  const quarter = reader.word(/^q([1-4])$/i);
  const toDate = reader.phrase('to date');
  return {
    kind: 'fiscal',
    year: Number(year[1]),
    ...(quarter ? { quarter: Number(quarter[1]) } : {}),
    ...(toDate ? { toDate: true } : {}),
  };
}
