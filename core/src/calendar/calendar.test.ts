import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  addMonths,
  civilOf,
  dayOf,
  fiscalQuarter,
  fiscalYear,
  fiscalYearStart,
  GRAINS,
  isoDay,
  readIsoDay,
  resolvePeriod,
  shiftBack,
  spanOf,
  startOf,
  step,
  PATTERNS,
  stepCode,
  stepName,
  weekday,
  type Alignment,
  type Back,
  type FiscalCalendar,
  type FiscalWeeks,
  isWorkday,
  saysWorkdays,
  WEEKDAYS,
  workdaysIn,
  workweekText,
} from '.';

const day = fc.integer({ min: -200_000, max: 200_000 });
const weeks = fc.record<FiscalWeeks>({
  pattern: fc.constantFrom(...PATTERNS),
  ends: fc.constantFrom(...WEEKDAYS),
  on: fc.constantFrom('last', 'nearest'),
  of: fc.integer({ min: 1, max: 12 }),
});
const months = {
  fiscalYearStart: fc.integer({ min: 1, max: 12 }),
  fiscalYearNamed: fc.constantFrom('end', 'start'),
  weekStart: fc.constantFrom('monday', 'sunday'),
} as const;
const calendar = fc.oneof(fc.record<FiscalCalendar>(months), fc.record<FiscalCalendar>({ ...months, weeks }));
const school: FiscalCalendar = { fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday' };
const on = (text: string) => readIsoDay(text)!;

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

describe('fiscal years of weeks', () => {
  const retail: FiscalCalendar = {
    ...school,
    weeks: { pattern: '4-5-4', ends: 'saturday', on: 'nearest', of: 1 },
  };
  const ends = (c: FiscalCalendar, ...years: number[]) => years.map((year) => isoDay(fiscalYearStart(year + 1, c) - 1));

  test('end on the last such weekday of their month, or on the one nearest to its end', () => {
    // The last Saturday of January, and the Saturday nearest to its end, from a calendar on paper.
    const last: FiscalCalendar = { ...retail, weeks: { ...retail.weeks!, on: 'last' } };
    expect(ends(last, 2023, 2024, 2025, 2026)).toEqual(['2023-01-28', '2024-01-27', '2025-01-25', '2026-01-31']);
    expect(ends(retail, 2023, 2024, 2025, 2026)).toEqual(['2023-01-28', '2024-02-03', '2025-02-01', '2026-01-31']);
  });

  test('law: are 52 or 53 weeks, end on that weekday, and never lie further from the month’s end than they may', () => {
    fc.assert(
      fc.property(weeks, fc.integer({ min: 1900, max: 2200 }), (own, year) => {
        const c: FiscalCalendar = { ...school, weeks: own };
        const [from, next] = [fiscalYearStart(year, c), fiscalYearStart(year + 1, c)];
        expect([364, 371]).toContain(next - from);
        expect(WEEKDAYS[weekday(next - 1)]).toBe(own.ends);
        const monthEnd = dayOf(year + (own.of === 12 ? 1 : 0), (own.of % 12) + 1, 1) - 1;
        const near = own.on === 'last' ? [-6, -5, -4, -3, -2, -1, 0] : [-3, -2, -1, 0, 1, 2, 3];
        expect(near.map((days) => monthEnd + days)).toContain(next - 1);
      }),
    );
  });

  test('law: quarters are 13 weeks of 4, 5 and 4, but for a last one of 14', () => {
    fc.assert(
      fc.property(weeks, day, (own, d) => {
        const c: FiscalCalendar = { ...school, weeks: own };
        const first = startOf('year', d, c);
        const isLong = fiscalYearStart(fiscalYear(d, c) + 1, c) - first === 371;
        const lengths = own.pattern.split('-').map((n) => 7 * Number(n));
        for (let m = 0, at = first; m < 12; m++) {
          const next = step('month', at, 1, c);
          expect(next - at).toBe(lengths[m % 3]! + (isLong && m === 11 ? 7 : 0));
          expect(fiscalQuarter(at, c)).toBe(Math.floor(m / 3) + 1);
          at = next;
        }
      }),
    );
  });

  test('name their months after those of the calendar, in order, and their years as others do', () => {
    const day = on('2025-02-02');
    expect([fiscalYear(day, retail), fiscalQuarter(day, retail), stepCode('month', day, retail)]).toEqual([
      2026,
      1,
      '2025-02',
    ]);
    expect(stepName('month', startOf('month', on('2026-01-31'), retail), retail)).toBe('Jan 2026');
    expect(fiscalYear(day, { ...retail, fiscalYearNamed: 'start' })).toBe(2025);
    const december: FiscalCalendar = { ...retail, weeks: { ...retail.weeks!, of: 12 } };
    // Ends on 3 January, and is 2025 all the same.
    expect([fiscalYear(on('2026-01-03'), december), stepCode('month', on('2026-01-03'), december)]).toEqual([
      2025,
      '2025-12',
    ]);
    expect(fiscalYear(on('2026-01-04'), december)).toBe(2026);
  });

  const back = (
    words: Parameters<typeof resolvePeriod>[0],
    asOf: string,
    by: Back = { years: 1 },
    align: Alignment = 'date',
  ) => {
    const period = resolvePeriod(words, retail, on(asOf), { from: 0, to: on(asOf) });
    const { from, to } = shiftBack(period, by, align, on(asOf), retail);
    return `${isoDay(from)} ${isoDay(to)}`;
  };
  test('are compared week by week; the 53rd week with the last of a year of 52', () => {
    // Fiscal 2024 runs from 29 January 2023 and has 53 weeks.
    expect(back({ kind: 'fiscal', year: 2024 }, '2026-01-31')).toBe('2022-01-30 2023-01-28');
    expect(back({ kind: 'fiscal', year: 2025 }, '2024-03-02')).toBe('2023-01-29 2023-02-25');
    expect(back({ kind: 'latest', grain: 'week' }, '2024-02-03')).toBe('2023-01-22 2023-01-28');
    expect(back({ kind: 'latest', grain: 'week' }, '2024-02-03', { years: 1 }, 'weekday')).toBe(
      '2023-01-29 2023-02-04',
    );
    expect(back({ kind: 'month', year: 2025, month: 3 }, '2025-06-30')).toBe('2024-03-03 2024-04-06');
    expect(back({ kind: 'month', year: 2025, month: 4 }, '2025-06-30', { periods: 1 })).toBe('2025-03-02 2025-04-05');
  });
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
