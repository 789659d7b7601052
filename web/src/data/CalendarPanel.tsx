'use client';

import { fiscalYear, isoDay, MONTH_NAMES, writtenDay } from '@bold-ruler/core/calendar';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Field, INPUT } from '@/ui/Field';
import { WorkdaysField } from './WorkdaysField';
import { useSpan } from './useAsOf';

/** How time is counted: fiscal year, week, and the day up to which actuals are complete. */
export function CalendarPanel() {
  const report = useReport((state) => state.report);
  const calendar = report!.calendar;
  const measured = report!.measures[0]?.table ?? report!.tables[0]?.id;
  const span = useSpan(measured);
  const fixed = calendar.asOf !== 'auto';
  return (
    <section aria-labelledby="calendar" className="space-y-3">
      <h2 id="calendar" className="text-xs font-semibold text-quiet">
        Calendar
      </h2>
      <Field label="The fiscal year starts in">
        <select
          className={INPUT}
          value={calendar.fiscalYearStart}
          onChange={(event) =>
            void edit({ edit: 'set-calendar', part: { fiscalYearStart: Number(event.target.value) } })
          }
        >
          {MONTH_NAMES.map((name, i) => (
            <option key={name} value={i + 1}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      <Field
        label="and is named by the year it"
        {...(span ? { hint: `${writtenDay(span.to)} lies in fiscal ${fiscalYear(span.to, calendar)}` } : {})}
      >
        <select
          className={INPUT}
          value={calendar.fiscalYearNamed}
          onChange={(event) =>
            void edit({ edit: 'set-calendar', part: { fiscalYearNamed: event.target.value as 'end' | 'start' } })
          }
        >
          <option value="end">ends in</option>
          <option value="start">starts in</option>
        </select>
      </Field>
      <Field label="The week starts on">
        <select
          className={INPUT}
          value={calendar.weekStart}
          onChange={(event) =>
            void edit({ edit: 'set-calendar', part: { weekStart: event.target.value as 'monday' | 'sunday' } })
          }
        >
          <option value="monday">Monday</option>
          <option value="sunday">Sunday</option>
        </select>
      </Field>
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
            void edit({ edit: 'set-calendar', part: { asOf } });
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
            if (asOf) void edit({ edit: 'set-calendar', part: { asOf } });
          }}
        />
      )}
    </section>
  );
}
