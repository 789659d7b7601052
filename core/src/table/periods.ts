import {
  civilOf,
  firstMonth,
  fiscalYearStart,
  hasOwnMonths,
  isoDay,
  MONTHS,
  monthsOn,
  monthStart,
  PLAIN_CALENDAR,
  NO_DAY,
  withPlainMonths,
  writtenDay,
  type Day,
  type FiscalCalendar,
  type Grain,
} from '../calendar';
import type { Column, DateColumn, Doubt, Table } from './column';

/** Before the name of a pattern: quarters and years are those that begin in January, whatever the report's calendar says. */
export const CALENDAR_READ = 'calendar ';

/** Patterns whose quarters and years are the report's own beyond doubt. */
const FISCAL_READ = /FY/;

/** A column of quarters or years named as `2025-Q1` or `2025`, not of days. */
function namesPeriods({ grain, read }: DateColumn): boolean {
  return (grain === 'quarter' || grain === 'year') && !read.startsWith(CALENDAR_READ) && /Q|^yyyy$|FY/.test(read);
}

/** The calendar whose periods the rows of a date column stand for. */
export function periodCalendar(column: Pick<DateColumn, 'read'>, calendar: FiscalCalendar): FiscalCalendar {
  if (!column.read.startsWith(CALENDAR_READ)) return calendar;
  return { ...withPlainMonths(calendar), fiscalYearStart: 1 };
}

/** First day of the report's quarter or year of the name that a file writes, which is read as if years began in January. */
function fiscalDay(written: Day, grain: Grain, calendar: FiscalCalendar): Day {
  const { year, month } = civilOf(written);
  const start = fiscalYearStart(year, calendar);
  return grain === 'year' ? start : monthsOn(start, month - 1, calendar);
}

/** Whether a date column is of months, or of what begins with them, that the fiscal calendar has on other days. */
const isOfMonths = ({ grain, read }: DateColumn, calendar: FiscalCalendar): boolean =>
  hasOwnMonths(calendar) && grain !== 'day' && grain !== 'week' && !read.startsWith(CALENDAR_READ);

/**
 * A table with its quarters and years placed as the report's calendar has them: `2025-Q1` is the first quarter of fiscal 2025, and in
 * fiscal years of weeks `2025-09` is the month of weeks that is called September. Where calendar periods are another reading, that is
 * a doubt, until the report says how the column is read.
 * @param settled columns whose reading the report says.
 */
export function withPeriods(table: Table, calendar: FiscalCalendar, settled: ReadonlyMap<string, string>): Table {
  if (firstMonth(calendar) === 1 && !hasOwnMonths(calendar)) return table;
  const doubts: Doubt[] = [];
  const columns = table.columns.map((column): Column => {
    if (column.kind !== 'date' || column.written) return column;
    const read = settled.get(column.name) ?? column.read;
    const said: DateColumn = { ...column, read };
    const isNamed = namesPeriods(said);
    if (!isNamed && !isOfMonths(said, calendar)) return said.read === column.read ? column : said;
    const place = (day: Day) => (isNamed ? fiscalDay(day, said.grain, calendar) : monthStart(civilOf(day), calendar));
    if (!settled.has(column.name) && !(isNamed && FISCAL_READ.test(read))) {
      const doubt = doubtOf(said, place, calendar);
      if (doubt) doubts.push(doubt);
    }
    return { ...said, days: column.days.map((day) => (day === NO_DAY ? day : place(day))), written: column.days };
  });
  return { ...table, columns, doubts: [...table.doubts, ...doubts] };
}

const MONTHS_OF: Partial<Record<Grain, number>> = MONTHS;

function doubtOf(column: DateColumn, place: (written: Day) => Day, calendar: FiscalCalendar): Doubt | null {
  const { name, days, grain, read } = column;
  const written = days.find((day) => day !== NO_DAY);
  if (written === undefined) return null;
  const { year, month } = civilOf(written);
  const raw = !namesPeriods(column)
    ? isoDay(written).slice(0, 7)
    : grain === 'year'
      ? String(year)
      : `${year}-Q${Math.ceil(month / 3)}`;
  const span = (from: Day, of: FiscalCalendar) =>
    `${writtenDay(from)} – ${writtenDay(monthsOn(from, MONTHS_OF[grain] ?? 1, of) - 1)}`;
  return {
    column: name,
    kind: 'date',
    readings: [
      { read, raw, as: span(place(written), calendar) },
      { read: `${CALENDAR_READ}${read}`, raw, as: span(written, PLAIN_CALENDAR) },
    ],
  };
}
