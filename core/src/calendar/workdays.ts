import { readIsoDay, weekday, type Day } from './day';
import type { FiscalCalendar, Span } from './fiscal';

/** In the order of the week, as files write them. */
export const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'] as const;
export type Weekday = (typeof WEEKDAYS)[number];

const PLAIN_WEEK: readonly Weekday[] = WEEKDAYS.slice(0, 5);

type Workdays = Pick<FiscalCalendar, 'holidays' | 'workweek'>;

const known = new WeakMap<readonly string[], ReadonlySet<Day>>();

function holidaysOf({ holidays }: Workdays): ReadonlySet<Day> | null {
  if (!holidays || holidays.length === 0) return null;
  let days = known.get(holidays);
  if (!days) known.set(holidays, (days = new Set(holidays.map((day) => readIsoDay(day)!))));
  return days;
}

/** Whether somebody works on a day: one of the workweek, Monday to Friday where nothing is said, that is no holiday. */
export function isWorkday(day: Day, calendar: Workdays): boolean {
  const week = calendar.workweek ?? PLAIN_WEEK;
  return week.includes(WEEKDAYS[weekday(day)]!) && holidaysOf(calendar)?.has(day) !== true;
}

/** How many workdays lie in a span. */
export function workdaysIn({ from, to }: Span, calendar: Workdays): number {
  let count = 0;
  for (let day = from; day <= to; day++) if (isWorkday(day, calendar)) count++;
  return count;
}

/** Whether a report says on which days somebody works. */
export const saysWorkdays = ({ holidays, workweek }: Workdays): boolean =>
  workweek !== undefined || (holidays?.length ?? 0) > 0;

const named = (day: Weekday) => day.charAt(0).toUpperCase() + day.slice(1);

/** The days of the workweek in words: `Monday to Friday`, `Monday, Tuesday and Saturday`. */
export function workweekText({ workweek = PLAIN_WEEK }: Workdays): string {
  const days = WEEKDAYS.filter((day) => workweek.includes(day));
  const [first, last] = [WEEKDAYS.indexOf(days[0]!), WEEKDAYS.indexOf(days.at(-1)!)];
  if (days.length === 7) return 'every day';
  if (days.length > 2 && last - first === days.length - 1) return `${named(days[0]!)} to ${named(days.at(-1)!)}`;
  const names = days.map(named);
  return names.length < 2 ? (names[0] ?? 'no day') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`;
}
