import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { day, on, school, weeks } from './calendar.fixture';
import {
  dayOf,
  fiscalQuarter,
  fiscalYear,
  fiscalYearStart,
  isoDay,
  resolvePeriod,
  sayPeriod,
  shiftBack,
  spanOf,
  startOf,
  step,
  stepCode,
  stepName,
  weekday,
  type Alignment,
  type Back,
  type FiscalCalendar,
  type PeriodWords,
  writePeriod,
  WEEKDAYS,
} from '.';

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

describe('fiscal months that are listed', () => {
  const listed = fc
    .record({
      from: fc.integer({ min: 18_000, max: 21_000 }),
      unit: fc.constantFrom(1, 7),
      lengths: fc.array(fc.nat(9), { minLength: 12, maxLength: 50 }),
      year: fc.integer({ min: 2018, max: 2026 }),
      month: fc.integer({ min: 1, max: 12 }),
    })
    .map(({ from, unit, lengths, year, month }) => {
      const days = lengths.map((n) => (unit === 7 ? 7 * (3 + (n % 4)) : 20 + n));
      const starts = days.reduce((all, length) => [...all, all.at(-1)! + length], [from]);
      const first = `${year}-${String(month).padStart(2, '0')}`;
      return { starts, unit, calendar: { ...school, months: { first, from: starts.map(isoDay) } } };
    });

  test('law: every day lies in one month, which is as listed; years have twelve, and go on beyond the list', () => {
    fc.assert(
      fc.property(listed, fc.integer({ min: -4000, max: 6000 }), ({ starts, calendar }, off) => {
        const d = starts[0]! + off;
        const { from, to } = spanOf('month', d, calendar);
        expect(from <= d && d <= to).toBe(true);
        expect(spanOf('month', from, calendar)).toEqual({ from, to });
        expect(spanOf('month', to + 1, calendar).from).toBe(to + 1);
        const place = starts.findIndex((start) => start > d) - 1;
        if (place >= 0) expect([from, to + 1]).toEqual([starts[place], starts[place + 1]]);
        const year = spanOf('year', d, calendar);
        let months = 0;
        for (let at = year.from; at <= year.to; at = step('month', at, 1, calendar)) months++;
        expect(months).toBe(12);
        const [first, all] = [starts[0]!, starts.length - 1];
        expect(startOf('year', first, calendar)).toBe(first);
        expect(step('month', first, all, calendar)).toBe(starts[all]);
      }),
    );
  });

  test('law: weeks begin with the months where these are of weeks', () => {
    fc.assert(
      fc.property(listed, ({ starts, unit, calendar }) => {
        if (unit === 7) for (const start of starts) expect(startOf('week', start, calendar)).toBe(start);
        else expect(weekday(startOf('week', starts[0]!, calendar))).toBe(0);
      }),
    );
  });

  test('from the 26th to the 25th, named after the month they end in', () => {
    const from = Array.from({ length: 25 }, (_, i) =>
      isoDay(dayOf(2023 + Math.floor((i + 11) / 12), ((i + 11) % 12) + 1, 26)),
    );
    const calendar: FiscalCalendar = { ...school, months: { first: '2024-01', from } };
    const at = (text: string) => [
      stepCode('month', startOf('month', on(text), calendar), calendar),
      stepCode('quarter', startOf('quarter', on(text), calendar), calendar),
      stepCode('year', startOf('year', on(text), calendar), calendar),
    ];
    expect(at('2023-12-26')).toEqual(['2024-01', '2024-Q1', '2024']);
    expect(at('2024-03-25')).toEqual(['2024-03', '2024-Q1', '2024']);
    expect(at('2024-03-26')).toEqual(['2024-04', '2024-Q2', '2024']);
    // Beyond the list, as its last year was.
    expect(at('2026-01-25')).toEqual(['2026-01', '2026-Q1', '2026']);
    const words: PeriodWords = { kind: 'months', from: { year: 2024, month: 2 }, to: { year: 2024, month: 3 } };
    const period = resolvePeriod(words, calendar, on('2025-12-25'), { from: 0, to: on('2025-12-25') });
    expect([isoDay(period.from), isoDay(period.to)]).toEqual(['2024-01-26', '2024-03-25']);
    expect(sayPeriod(words, period, calendar)).toBe('fiscal February to March 2024');
    expect(writePeriod(words)).toBe('2024-02 to 2024-03');
    const { from: then, to } = shiftBack(period, { periods: 1 }, 'date', on('2025-12-25'), calendar);
    expect([isoDay(then), isoDay(to)]).toEqual(['2023-11-26', '2024-01-25']);
  });
});
