'use client';

import { counted } from '@bold-ruler/core/problem';
import {
  addMonths,
  endOf,
  firstMonth,
  fiscalYear,
  monthOf,
  startOf,
  step,
  writtenDay,
  type Day,
} from '@bold-ruler/core/calendar';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';

/** The rows of each month over a ruler of the fiscal years; what of the running year is still to come is hatched. */
export function CalendarRuler({
  tableId,
  asOf,
  expected,
}: {
  tableId: string;
  asOf: Day | null;
  /** The rows lie in several months, as far as is known before they are counted. */
  expected: boolean;
}) {
  const calendar = useReport((state) => state.report!.calendar);
  const version = useReport((state) => state.tablesVersion);
  const { value: months } = useAnswer([tableId, version], (now) => desk().months(now, tableId));
  // The ruler’s place is kept, so that nothing below moves when it comes.
  if (!months) return expected ? <div aria-hidden className="mt-4 h-20 shrink-0" /> : null;
  if (months.length < 2) return null;
  const yearly = months.length > 1 && months[1]!.month - months[0]!.month > 300;
  if (yearly) return null;
  const first = startOf('quarter', months[0]!.month, calendar);
  const running = asOf ?? months[months.length - 1]!.month;
  const last = Math.max(endOf('year', running, calendar), addMonths(months[months.length - 1]!.month, 1) - 1) + 1;
  const at = (day: Day) => `${((day - first) / (last - first)) * 100}%`;
  const highest = Math.max(...months.map(({ rows }) => rows));
  const years: Day[] = [];
  for (let day = startOf('year', first, calendar); day < last; day = step('year', day, 1, calendar)) years.push(day);
  const ticks: Day[] = [];
  for (let day = first; day < last; day = step('month', day, 1, calendar)) ticks.push(day);
  const isQuarter = (day: Day) => startOf('quarter', day, calendar) === day;
  const isYear = (day: Day) => startOf('year', day, calendar) === day;
  const fewTicks = ticks.length <= 120;
  return (
    <figure
      className="mt-4 mb-0"
      aria-label={`Rows a month; fiscal ${fiscalYear(first, calendar)} to ${fiscalYear(running, calendar)}${asOf === null ? '' : `, complete up to ${writtenDay(asOf)}`}`}
    >
      <div className="relative h-9">
        {months.map(({ month, rows }) => (
          <span
            key={month}
            title={`${writtenDay(month).slice(2)}: ${counted(rows, 'row')}`}
            className="absolute bottom-0 bg-[#8d979f]"
            style={{
              left: at(month),
              width: `calc(${at(addMonths(month, 1))} - ${at(month)} - 1px)`,
              height: `${rows === 0 ? 0 : Math.max(3, (rows / highest) * 100)}%`,
            }}
          />
        ))}
      </div>
      <div className="relative h-6 overflow-hidden bg-boxwood" aria-hidden>
        {asOf !== null && (
          <span
            className="absolute inset-y-0 right-0"
            style={{
              left: at(asOf + 1),
              background:
                'repeating-linear-gradient(-45deg, rgb(250 250 247 / 0.75) 0 3px, rgb(250 250 247 / 0.3) 3px 6px)',
            }}
          />
        )}
        {ticks.map((day) =>
          isYear(day) || isQuarter(day) || fewTicks ? (
            <span
              key={day}
              className="absolute top-0 bg-engraved"
              style={{
                left: at(day),
                width: isYear(day) ? 2 : 1,
                height: isYear(day) ? '100%' : isQuarter(day) ? 10 : 5,
                opacity: isYear(day) ? 1 : 0.7,
              }}
            />
          ) : null,
        )}
        {years.map((day) => (
          <span
            key={day}
            className="absolute bottom-0 pl-1.5 text-xs leading-4 font-semibold whitespace-nowrap text-engraved"
            style={{ left: at(Math.max(day, first)) }}
          >
            {widthOf(day, step('year', day, 1, calendar), first, last) > 0.05 && fiscalYear(day, calendar)}
          </span>
        ))}
        {asOf !== null && (
          <span className="absolute inset-y-0 w-[3px] bg-engraved" style={{ left: `calc(${at(asOf + 1)} - 1px)` }} />
        )}
      </div>
      <figcaption className="mt-1 flex justify-between text-xs text-quiet">
        <span>
          Rows a month over fiscal years
          {calendar.weeks
            ? ` of 52 or 53 weeks that end with ${monthName(calendar.weeks.of)}`
            : ` that start ${calendar.months ? 'with' : 'in'} ${monthName(firstMonth(calendar))}`}
        </span>
        {asOf !== null && (
          <span>
            fiscal {fiscalYear(asOf, calendar)} is complete up to {writtenDay(asOf)}
            {endOf('month', asOf, calendar) !== asOf && `, a day within ${monthName(monthOf(asOf, calendar).month)}`}
          </span>
        )}
      </figcaption>
    </figure>
  );
}

/** The share of the ruler a year takes. */
function widthOf(from: Day, to: Day, first: Day, last: Day): number {
  return (Math.min(to, last) - Math.max(from, first)) / (last - first);
}

function monthName(month: number): string {
  return new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2024, month - 1, 1));
}
