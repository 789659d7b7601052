import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { day, on, school, weeks } from './calendar.fixture';
import {
  addMonths,
  civilOf,
  dayOf,
  fiscalQuarter,
  fiscalYear,
  GRAINS,
  isoDay,
  readIsoDay,
  resolvePeriod,
  shiftBack,
  spanOf,
  startOf,
  step,
  stepCode,
  weekday,
  type FiscalCalendar,
  isWorkday,
  saysWorkdays,
  WEEKDAYS,
  workdaysIn,
  workweekText,
} from '.';

const months = {
  fiscalYearStart: fc.integer({ min: 1, max: 12 }),
  fiscalYearNamed: fc.constantFrom('end', 'start'),
  weekStart: fc.constantFrom('monday', 'sunday'),
} as const;
const calendar = fc.oneof(fc.record<FiscalCalendar>(months), fc.record<FiscalCalendar>({ ...months, weeks }));

test('days agree with the platform’s calendar', () => {
  fc.assert(
    fc.property(day, (d) => {
      const date = new Date(d * 86_400_000);
      expect(civilOf(d)).toEqual({
        year: date.getUTCFullYear(),
        month: date.getUTCMonth() + 1,
        day: date.getUTCDate(),
      });
      expect(weekday(d)).toBe((date.getUTCDay() + 6) % 7);
    }),
  );
});

test('a day is read back as it was written', () => {
  fc.assert(fc.property(fc.integer({ min: 0, max: 40_000 }), (d) => readIsoDay(isoDay(d)) === d));
  expect(readIsoDay('2025-02-29')).toBeNull();
});

test('every day lies in exactly one period of each grain, and periods follow one another without gap', () => {
  fc.assert(
    fc.property(day, calendar, fc.constantFrom(...GRAINS), (d, c, grain) => {
      const { from, to } = spanOf(grain, d, c);
      expect(from <= d && d <= to).toBe(true);
      expect(startOf(grain, to, c)).toBe(from);
      expect(step(grain, from, 1, c)).toBe(to + 1);
      expect(startOf(grain, to + 1, c)).toBe(to + 1);
    }),
  );
});

describe('fiscal years that start in September', () => {
  test('bear the year in which they end', () => {
    expect(fiscalYear(on('2025-08-31'), school)).toBe(2025);
    expect(fiscalYear(on('2025-09-01'), school)).toBe(2026);
    expect(fiscalQuarter(on('2026-03-18'), school)).toBe(3);
    expect(stepCode('quarter', on('2026-03-01'), school)).toBe('2026-Q3');
  });
  test('or the year in which they start, when so named; a year from January is its own either way', () => {
    expect(fiscalYear(on('2025-09-01'), { ...school, fiscalYearNamed: 'start' })).toBe(2025);
    expect(fiscalYear(on('2025-09-01'), { ...school, fiscalYearStart: 1 })).toBe(2025);
  });
});

describe('periods', () => {
  const asOf = on('2026-03-18');
  const known = { from: on('2022-09-01'), to: asOf };
  const span = (words: Parameters<typeof resolvePeriod>[0]) => {
    const period = resolvePeriod(words, school, asOf, known);
    return `${isoDay(period.from)} ${isoDay(period.to)}${period.partial ? ' partial' : ''}`;
  };
  test.each<[Parameters<typeof resolvePeriod>[0], string]>([
    [{ kind: 'all time' }, '2022-09-01 2026-03-18'],
    [{ kind: 'latest', grain: 'month' }, '2026-03-01 2026-03-31 partial'],
    [{ kind: 'latest', grain: 'day' }, '2026-03-18 2026-03-18'],
    [{ kind: 'previous', grain: 'quarter' }, '2025-12-01 2026-02-28'],
    [{ kind: 'last', count: 3, grain: 'month' }, '2026-01-01 2026-03-31 partial'],
    [{ kind: 'last', count: 28, grain: 'day' }, '2026-02-19 2026-03-18'],
    [{ kind: 'to date', grain: 'year' }, '2025-09-01 2026-03-18'],
    [{ kind: 'fiscal', year: 2026 }, '2025-09-01 2026-08-31 partial'],
    [{ kind: 'fiscal', year: 2026, toDate: true }, '2025-09-01 2026-03-18'],
    [{ kind: 'fiscal', year: 2025, toDate: true }, '2024-09-01 2025-08-31'],
    [{ kind: 'fiscal', year: 2026, quarter: 1 }, '2025-09-01 2025-11-30'],
    [{ kind: 'quarter', year: 2026, quarter: 2 }, '2025-12-01 2026-02-28'],
    [{ kind: 'month', year: 2024, month: 2 }, '2024-02-01 2024-02-29'],
  ])('%o', (words, expected) => expect(span(words)).toBe(expected));
});

describe('like for like', () => {
  const back = (
    words: Parameters<typeof resolvePeriod>[0],
    asOf: string,
    by: Parameters<typeof shiftBack>[1],
    align: 'date' | 'weekday' = 'date',
  ) => {
    const period = resolvePeriod(words, school, on(asOf), { from: 0, to: on(asOf) });
    const { from, to } = shiftBack(period, by, align, on(asOf), school);
    return `${isoDay(from)} ${isoDay(to)}`;
  };
  test('a running year is cut at the same day of the month last year', () => {
    expect(back({ kind: 'fiscal', year: 2026 }, '2026-03-18', { years: 1 })).toBe('2024-09-01 2025-03-18');
    expect(back({ kind: 'fiscal', year: 2026, toDate: true }, '2026-03-18', { years: 1 })).toBe(
      '2024-09-01 2025-03-18',
    );
  });
  test('29 February looks back to the 28th', () => {
    expect(back({ kind: 'to date', grain: 'month' }, '2024-02-29', { years: 1 })).toBe('2023-02-01 2023-02-28');
  });
  test('a whole month is compared with a whole month, leap day included', () => {
    expect(back({ kind: 'month', year: 2025, month: 2 }, '2026-03-18', { years: 1 })).toBe('2024-02-01 2024-02-29');
  });
  test('a running month is compared with as many days of the month before', () => {
    expect(back({ kind: 'latest', grain: 'month' }, '2026-03-18', { periods: 1 })).toBe('2026-02-01 2026-02-18');
    expect(back({ kind: 'latest', grain: 'month' }, '2026-03-31', { periods: 1 })).toBe('2026-02-01 2026-02-28');
  });
  test('weekdays stay weekdays when asked: 364 days a year', () => {
    expect(back({ kind: 'latest', grain: 'day' }, '2026-03-18', { years: 1 }, 'weekday')).toBe('2025-03-19 2025-03-19');
  });
  test('a range of days looks back by its own length', () => {
    expect(back({ kind: 'days', from: on('2026-03-01'), to: on('2026-03-10') }, '2026-03-18', { periods: 1 })).toBe(
      '2026-02-19 2026-02-28',
    );
  });
});

test('adding months and taking them away again never leaves the month', () => {
  fc.assert(
    fc.property(day, fc.integer({ min: -500, max: 500 }), (d, n) => {
      const there = civilOf(addMonths(d, n));
      const wanted = civilOf(d).year * 12 + civilOf(d).month - 1 + n;
      expect(there.year * 12 + there.month - 1).toBe(wanted);
    }),
  );
  expect(addMonths(dayOf(2024, 1, 31), 1)).toBe(dayOf(2024, 2, 29));
});

test('like for like by workdays: cut where as many workdays have gone by', () => {
  const c: FiscalCalendar = { ...school, holidays: ['2026-03-04', '2025-03-03'] };
  const back = (asOf: string) => {
    const period = resolvePeriod({ kind: 'to date', grain: 'month' }, c, on(asOf), { from: 0, to: on(asOf) });
    const { from, to } = shiftBack(period, { years: 1 }, 'workday', on(asOf), c);
    expect(workdaysIn({ from, to }, c)).toBe(workdaysIn({ from: period.from, to: on(asOf) }, c));
    return `${isoDay(from)} ${isoDay(to)}`;
  };
  // March 2026 begins on a Sunday, March 2025 on a Saturday.
  expect(back('2026-03-06')).toBe('2025-03-01 2025-03-07');
  expect(back('2026-03-08')).toBe('2025-03-01 2025-03-09');
  expect(back('2026-03-01')).toBe('2025-03-01 2025-03-03');
  // A whole month is held against a whole month.
  expect(back2('2026-03-31')).toBe('2025-03-01 2025-03-31');
  function back2(asOf: string) {
    const period = resolvePeriod({ kind: 'to date', grain: 'month' }, c, on(asOf), { from: 0, to: on(asOf) });
    const { from, to } = shiftBack(period, { years: 1 }, 'workday', on(asOf), c);
    return `${isoDay(from)} ${isoDay(to)}`;
  }
});

describe('workdays', () => {
  test('are those of the workweek less the holidays, and named as people name them', () => {
    const at = (text: string) => readIsoDay(text)!;
    const march = { from: at('2026-03-01'), to: at('2026-03-31') };
    expect(workdaysIn(march, {})).toBe(22);
    expect(workdaysIn(march, { holidays: ['2026-03-06', '2026-03-07', '2026-03-09'] })).toBe(20);
    expect(workdaysIn(march, { workweek: ['sunday', 'monday'] })).toBe(10);
    expect(isWorkday(at('2026-03-08'), { workweek: ['sunday'] })).toBe(true);
    expect(isWorkday(at('2026-03-08'), { workweek: ['sunday'], holidays: ['2026-03-08'] })).toBe(false);
    expect(workweekText({})).toBe('Monday to Friday');
    expect(workweekText({ workweek: ['saturday', 'tuesday', 'monday'] })).toBe('Monday, Tuesday and Saturday');
    expect(workweekText({ workweek: [...WEEKDAYS] })).toBe('every day');
    expect([saysWorkdays({}), saysWorkdays({ holidays: [] }), saysWorkdays({ holidays: ['2026-01-01'] })]).toEqual([
      false,
      false,
      true,
    ]);
  });
});
