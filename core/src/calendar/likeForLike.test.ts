import fc from 'fast-check';
import { expect, test } from 'vitest';
import { isoDay, isWorkday, shiftBack, WEEKDAYS, type Day, type FiscalCalendar, type Grain, type Period } from '.';

// Weeks and workdays are held against whole weeks and workdays, by the platform's dates.

const plain: FiscalCalendar = { fiscalYearStart: 4, fiscalYearNamed: 'end', weekStart: 'monday' } as never;
const day = fc.integer({ min: 15_000, max: 25_000 });
const lasting = (from: Day, days: number, grain: Grain, count = 1): Period => ({
  from,
  to: from + days - 1,
  partial: false,
  whole: true,
  unit: { grain, count },
});
const yearsBefore = (one: Day, years: number): Day => {
  const there = new Date(one * 86_400_000);
  const { month } = { month: there.getUTCMonth() };
  there.setUTCFullYear(there.getUTCFullYear() - years);
  if (there.getUTCMonth() !== month) there.setUTCDate(0);
  return there.getTime() / 86_400_000;
};

test('weeks of any calendar of months are held against whole weeks, the nearest to the same days', () => {
  fc.assert(
    fc.property(day, fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 9 }), (from, weeks, years) => {
      const there = shiftBack(lasting(from, 7 * weeks, 'week', weeks), { years }, 'date', from + 400, plain);
      expect((from - there.from) % 7).toBe(0);
      expect(there.to - there.from).toBe(7 * weeks - 1);
      expect(Math.abs(there.from - yearsBefore(from, years))).toBeLessThanOrEqual(3);
    }),
  );
});

test('a week that runs is held against as many days of a week', () => {
  const monday = Date.UTC(2026, 2, 16) / 86_400_000;
  const running = { ...lasting(monday, 7, 'week'), partial: true };
  const there = shiftBack(running, { years: 1 }, 'date', monday + 2, plain);
  expect([isoDay(there.from), isoDay(there.to)]).toEqual(['2025-03-17', '2025-03-19']);
});

test('by workdays a day is held against the one workday, or the one free day, of its number in the month', () => {
  const workweek = fc.uniqueArray(fc.constantFrom(...WEEKDAYS), { minLength: 1 });
  fc.assert(
    fc.property(day, fc.integer({ min: 1, max: 3 }), workweek, (one, years, days) => {
      const calendar = { ...plain, workweek: days };
      const { from, to } = shiftBack(lasting(one, 1, 'day'), { years }, 'workday', one + 400, calendar);
      const firstOf = (any: Day) => any - new Date(any * 86_400_000).getUTCDate() + 1;
      const numberOf = (any: Day) => {
        let number = 0;
        for (let other = firstOf(any); other <= any; other++)
          if (isWorkday(other, calendar) === isWorkday(any, calendar)) number++;
        return number;
      };
      const month = firstOf(yearsBefore(firstOf(one), years));
      if (from > to) {
        // Its number is not there: the month has fewer of its kind.
        const kind = isWorkday(one, calendar);
        const all = Array.from({ length: 31 }, (_, i) => month + i).filter((other) => firstOf(other) === month);
        expect(all.filter((other) => isWorkday(other, calendar) === kind).length).toBeLessThan(numberOf(one));
        return;
      }
      expect(to).toBe(from);
      expect(firstOf(from)).toBe(month);
      expect(isWorkday(from, calendar)).toBe(isWorkday(one, calendar));
      expect(numberOf(from)).toBe(numberOf(one));
    }),
  );
});

test('some days back, a workday is held against as many workdays before', () => {
  const monday = Date.UTC(2026, 2, 16) / 86_400_000;
  const before = (one: Day, periods: number, calendar = plain) => {
    const { from, to } = shiftBack(lasting(one, 1, 'day'), { periods }, 'workday', one, calendar);
    return from > to ? null : `${isoDay(from)} ${isoDay(to)}`;
  };
  expect(before(monday, 1)).toBe('2026-03-13 2026-03-13');
  expect(before(monday, 6)).toBe('2026-03-06 2026-03-06');
  expect(before(monday - 1, 2)).toBe('2026-03-08 2026-03-08');
  expect(before(monday, 1, { ...plain, workweek: ['tuesday', 'monday'] })).toBe('2026-03-10 2026-03-10');
  const free = { ...plain, workweek: WEEKDAYS, holidays: ['2026-03-16'] };
  expect(before(monday, 1, free)).toBe(null);
});
