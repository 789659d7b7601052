import {
  addMonths,
  civilOf,
  fiscalYearStart,
  NO_DAY,
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
  return column.read.startsWith(CALENDAR_READ) ? { ...calendar, fiscalYearStart: 1 } : calendar;
}

/** First day of the report's quarter or year of the name that a file writes, which is read as if years began in January. */
function fiscalDay(written: Day, grain: Grain, calendar: FiscalCalendar): Day {
  const { year, month } = civilOf(written);
  const start = fiscalYearStart(year, calendar);
  return grain === 'year' ? start : addMonths(start, month - 1);
}

const isPlain = ({ fiscalYearStart: start }: FiscalCalendar) => start === 1;

/**
 * A table with its quarters and years placed as the report's calendar has them: `2025-Q1` is the first quarter of fiscal 2025.
 * Where calendar years are another reading, that is a doubt, until the report says how the column is read.
 * @param settled columns whose reading the report says.
 */
export function withPeriods(table: Table, calendar: FiscalCalendar, settled: ReadonlyMap<string, string>): Table {
  if (isPlain(calendar)) return table;
  const doubts: Doubt[] = [];
  const columns = table.columns.map((column): Column => {
    if (column.kind !== 'date' || column.written) return column;
    const read = settled.get(column.name) ?? column.read;
    const said: DateColumn = { ...column, read };
    if (!namesPeriods(said)) return said.read === column.read ? column : said;
    if (!settled.has(column.name) && !FISCAL_READ.test(read)) {
      const doubt = doubtOf(said, calendar);
      if (doubt) doubts.push(doubt);
    }
    const days = column.days.map((day) => (day === NO_DAY ? day : fiscalDay(day, column.grain, calendar)));
    return { ...said, days, written: column.days };
  });
  return { ...table, columns, doubts: [...table.doubts, ...doubts] };
}

function doubtOf({ name, days, grain, read }: DateColumn, calendar: FiscalCalendar): Doubt | null {
  const written = days.find((day) => day !== NO_DAY);
  if (written === undefined) return null;
  const months = grain === 'year' ? 12 : 3;
  const { year, month } = civilOf(written);
  const raw = grain === 'year' ? String(year) : `${year}-Q${Math.ceil(month / 3)}`;
  const span = (from: Day) => `${writtenDay(from)} – ${writtenDay(addMonths(from, months) - 1)}`;
  return {
    column: name,
    kind: 'date',
    readings: [
      { read, raw, as: span(fiscalDay(written, grain, calendar)) },
      { read: `${CALENDAR_READ}${read}`, raw, as: span(written) },
    ],
  };
}
