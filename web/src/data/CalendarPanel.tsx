'use client';

import {
  dayOf,
  firstMonth,
  fiscalYear,
  hasOwnMonths,
  hasWholeWeeks,
  isoDay,
  MONTH_NAMES,
  PATTERNS,
  spanOf,
  WEEKDAYS,
  writtenDay,
  type Day,
  type FiscalCalendar,
  type FiscalWeeks,
} from '@bold-ruler/core/calendar';
import type { EditData } from '@bold-ruler/core/edit';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Field, INPUT } from '@/ui/Field';
import { listedAsNow, MonthsField } from './MonthsField';
import { WorkdaysField } from './WorkdaysField';
import { useSpan } from './useAsOf';

const change = (part: EditData['set-calendar']['part']) => void edit({ edit: 'set-calendar', part });

/** Years of weeks that end where those of months have ended. */
const begun = (calendar: FiscalCalendar): FiscalWeeks => ({
  pattern: '4-4-5',
  ends: calendar.weekStart === 'sunday' ? 'saturday' : 'sunday',
  on: 'last',
  of: ((firstMonth(calendar) + 10) % 12) + 1,
});

/** Days for a list of months where there are none: this year's. */
function thisYear() {
  const year = new Date().getFullYear();
  return { from: dayOf(year, 1, 1), to: dayOf(year, 12, 31) };
}

/** In which fiscal year a day lies, and of one of weeks how many it has. */
function yearHint(day: Day, calendar: FiscalCalendar): string {
  const name = `${writtenDay(day)} lies in fiscal ${fiscalYear(day, calendar)}`;
  if (!hasOwnMonths(calendar)) return name;
  const { from, to } = spanOf('year', day, calendar);
  const weeks = hasWholeWeeks(calendar) ? `, ${(to - from + 1) / 7} weeks` : '';
  return `${name}: ${writtenDay(from)} – ${writtenDay(to)}${weeks}`;
}

/** How time is counted: fiscal year, week, and the day up to which actuals are complete. */
export function CalendarPanel() {
  const report = useReport((state) => state.report);
  const calendar = report!.calendar;
  const { weeks, months } = calendar;
  const measured = report!.measures[0]?.table ?? report!.tables[0]?.id;
  const span = useSpan(measured);
  const fixed = calendar.asOf !== 'auto';
  return (
    <section aria-labelledby="calendar" className="space-y-3">
      <h2 id="calendar" className="text-xs font-semibold text-quiet">
        Calendar
      </h2>
      <Field label="Fiscal years are of">
        <select
          className={INPUT}
          value={months ? 'listed' : weeks ? 'weeks' : 'months'}
          onChange={(event) => {
            const made = event.target.value;
            if (made === 'listed') change({ months: listedAsNow(calendar, span ?? thisYear()) });
            else change(made === 'weeks' ? { weeks: begun(calendar) } : { weeks: undefined, months: undefined });
          }}
        >
          <option value="months">months of the calendar</option>
          <option value="weeks">52 or 53 weeks</option>
          <option value="listed">months that are listed</option>
        </select>
      </Field>
      {months ? (
        <MonthsField months={months} />
      ) : weeks ? (
        <WeeksFields weeks={weeks} onChange={(part) => change({ weeks: { ...weeks, ...part } })} />
      ) : (
        <Field label="The fiscal year starts in">
          <MonthSelect value={calendar.fiscalYearStart} onChoose={(fiscalYearStart) => change({ fiscalYearStart })} />
        </Field>
      )}
      <Field label="and is named by the year it" {...(span ? { hint: yearHint(span.to, calendar) } : {})}>
        <select
          className={INPUT}
          value={calendar.fiscalYearNamed}
          onChange={(event) => change({ fiscalYearNamed: event.target.value as 'end' | 'start' })}
        >
          <option value="end">ends in</option>
          <option value="start">starts in</option>
        </select>
      </Field>
      {!hasWholeWeeks(calendar) && (
        <Field label="The week starts on">
          <select
            className={INPUT}
            value={calendar.weekStart}
            onChange={(event) => change({ weekStart: event.target.value as 'monday' | 'sunday' })}
          >
            <option value="monday">Monday</option>
            <option value="sunday">Sunday</option>
          </select>
        </Field>
      )}
      <WorkdaysField />
      <Field
        label="Actuals are complete up to"
        {...(span && !fixed ? { hint: `${writtenDay(span.to)}, the last day with data` } : {})}
      >
        <select
          className={INPUT}
          value={fixed ? 'fixed' : 'auto'}
          onChange={(event) => {
            const asOf = event.target.value === 'auto' || !span ? 'auto' : isoDay(span.to);
            change({ asOf });
          }}
        >
          <option value="auto">the last day with data</option>
          <option value="fixed">a fixed day</option>
        </select>
      </Field>
      {fixed && (
        <input
          type="date"
          aria-label="As-of date"
          className={INPUT}
          value={calendar.asOf}
          onChange={(event) => {
            const asOf = event.target.value;
            if (asOf) change({ asOf });
          }}
        />
      )}
    </section>
  );
}

function MonthSelect({ value, label, onChoose }: { value: number; label?: string; onChoose: (month: number) => void }) {
  return (
    <select
      className={INPUT}
      aria-label={label}
      value={value}
      onChange={(event) => onChoose(Number(event.target.value))}
    >
      {MONTH_NAMES.map((name, i) => (
        <option key={name} value={i + 1}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** When a year of weeks ends, and how its months divide it. */
function WeeksFields({ weeks, onChange }: { weeks: FiscalWeeks; onChange: (part: Partial<FiscalWeeks>) => void }) {
  return (
    <>
      <Field label="The months of a quarter have">
        <select
          className={INPUT}
          value={weeks.pattern}
          onChange={(event) => onChange({ pattern: event.target.value as FiscalWeeks['pattern'] })}
        >
          {PATTERNS.map((pattern) => (
            <option key={pattern} value={pattern}>
              {pattern.replace('-', ', ').replace('-', ' and ')} weeks
            </option>
          ))}
        </select>
      </Field>
      <fieldset className="space-y-1.5">
        <legend className="mb-1 text-xs text-quiet">The year ends on</legend>
        <select
          className={INPUT}
          aria-label="Which one"
          value={weeks.on}
          onChange={(event) => onChange({ on: event.target.value as FiscalWeeks['on'] })}
        >
          <option value="last">the last of the month</option>
          <option value="nearest">nearest to the month’s end</option>
        </select>
        <div className="grid grid-cols-2 gap-1.5">
          <select
            className={INPUT}
            aria-label="Weekday on which the year ends"
            value={weeks.ends}
            onChange={(event) => onChange({ ends: event.target.value as FiscalWeeks['ends'] })}
          >
            {WEEKDAYS.map((day) => (
              <option key={day} value={day}>
                {day.charAt(0).toUpperCase() + day.slice(1)}
              </option>
            ))}
          </select>
          <MonthSelect label="Month in which the year ends" value={weeks.of} onChoose={(of) => onChange({ of })} />
        </div>
      </fieldset>
    </>
  );
}
