import { expect, test } from 'vitest';
import { isoDay } from '../calendar';
import { daysIn } from '.';

test('a list of days is read as people write it, each day once, and what is no day is told', () => {
  const { days, unread } = daysIn(
    '2026-12-25\nHoliday,Date\n26.12.2026;Second day\n\nNew year,2027-01-01\n2026-12-25\n6 January 2027\nsoon',
  );
  expect(days.map(isoDay)).toEqual(['2026-12-25', '2026-12-26', '2027-01-01', '2027-01-06']);
  expect(unread).toEqual(['Holiday,Date', 'soon']);
  expect(daysIn('')).toEqual({ days: [], unread: [] });
});
