'use client';

import { isoDay, WEEKDAYS, workweekText, type Weekday } from '@bold-ruler/core/calendar';
import { counted } from '@bold-ruler/core/problem';
import { daysIn } from '@bold-ruler/core/reading';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { ListedText } from './ListedText';
import { SaidPopover } from './SaidPopover';

/** On which days somebody works: the days of the week, and the holidays, typed, pasted or from a file. */
export function WorkdaysField() {
  const { workweek = WEEKDAYS.slice(0, 5), holidays = [] } = useReport((state) => state.report!.calendar);
  const said = `${workweekText({ workweek })}${holidays.length === 0 ? '' : `, ${counted(holidays.length, 'holiday')}`}`;
  const toggle = (day: Weekday) => {
    const next = WEEKDAYS.filter((one) => (one === day ? !workweek.includes(one) : workweek.includes(one)));
    if (next.length > 0) void edit({ edit: 'set-calendar', part: { workweek: next } });
  };
  const take = (text: string, from: 'field' | 'file') => {
    const { days, unread } = daysIn(text);
    // In a field what is no day stays to be mended; a file may have a line above its days.
    if (from === 'field' && unread.length > 0) return `“${unread[0]!.slice(0, 30)}” is no day, such as 2026-12-25`;
    const all = from === 'field' ? days.map(isoDay) : [...new Set([...holidays, ...days.map(isoDay)])].sort();
    void edit({ edit: 'set-calendar', part: { holidays: all } });
    return null;
  };
  return (
    <SaidPopover label="Workdays are" name="Workdays" said={said}>
      <fieldset>
        <legend className="mb-1 text-xs text-quiet">Days of the week</legend>
        <div className="grid grid-cols-2 gap-1">
          {WEEKDAYS.map((day) => (
            <label key={day} className="flex items-center gap-2 text-[13px] capitalize">
              <input
                type="checkbox"
                className="accent-ink"
                checked={workweek.includes(day)}
                onChange={() => toggle(day)}
              />
              {day}
            </label>
          ))}
        </div>
      </fieldset>
      <ListedText
        place="holidays"
        label="Holidays, one a line"
        hint="On these days nothing is due by workdays"
        lines={holidays}
        file={{ label: 'Holidays from a file', button: 'Add those of a file' }}
        onTake={take}
      />
    </SaidPopover>
  );
}
