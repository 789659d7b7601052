import fc from 'fast-check';
import { PATTERNS, readIsoDay, WEEKDAYS, type FiscalCalendar, type FiscalWeeks } from '.';

// What the tests of days, periods and fiscal years are tried on.

export const day = fc.integer({ min: -200_000, max: 200_000 });
export const weeks = fc.record<FiscalWeeks>({
  pattern: fc.constantFrom(...PATTERNS),
  ends: fc.constantFrom(...WEEKDAYS),
  on: fc.constantFrom('last', 'nearest'),
  of: fc.integer({ min: 1, max: 12 }),
});
export const school: FiscalCalendar = { fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday' };
export const on = (text: string) => readIsoDay(text)!;
