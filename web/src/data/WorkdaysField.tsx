'use client';

import { useState } from 'react';
import { isoDay, WEEKDAYS, workweekText, type Weekday } from '@bold-ruler/core/calendar';
import { counted } from '@bold-ruler/core/problem';
import { daysIn } from '@bold-ruler/core/reading';
import { DraftText } from '@/fields/DraftText';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { Field, INPUT } from '@/ui/Field';
import { FileButton } from '@/ui/FileButton';
import { Popover } from '@/ui/Popover';

/** On which days somebody works: the days of the week, and the holidays, typed, pasted or from a file. */
export function WorkdaysField() {
  const { workweek = WEEKDAYS.slice(0, 5), holidays = [] } = useReport((state) => state.report!.calendar);
  const [open, setOpen] = useState(false);
  const [unread, setUnread] = useState<readonly string[]>([]);
  const said = `${workweekText({ workweek })}${holidays.length === 0 ? '' : `, ${counted(holidays.length, 'holiday')}`}`;
  const toggle = (day: Weekday) => {
    const next = WEEKDAYS.filter((one) => (one === day ? !workweek.includes(one) : workweek.includes(one)));
    if (next.length > 0) void edit({ edit: 'set-calendar', part: { workweek: next } });
  };
  const take = (text: string) => {
    const { days, unread: odd } = daysIn(text);
    setUnread(odd);
    // What is no day stays to be mended.
    if (odd.length > 0) return false;
    void edit({ edit: 'set-calendar', part: { holidays: days.map(isoDay) } });
    return true;
  };
  return (
    <div>
      <span className="mb-1 block text-xs text-quiet">Workdays are</span>
      <Popover
        open={open}
        onOpenChange={setOpen}
        label="Workdays"
        trigger={
          <Button small className="w-full justify-start truncate" title={said}>
            <span className="truncate">{said}</span>
          </Button>
        }
      >
        <div className="space-y-3 p-3">
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
          <Field
            label="Holidays, one a line"
            hint={
              unread.length === 0
                ? 'On these days nothing is due by workdays'
                : `“${unread[0]!.slice(0, 30)}” is no day, such as 2026-12-25`
            }
          >
            <DraftText
              place="holidays"
              rows={6}
              className={`${INPUT} h-auto py-1.5 font-figure`}
              aria-invalid={unread.length > 0 ? true : undefined}
              base={holidays.join('\n')}
              onTake={take}
            />
          </Field>
          <FileButton
            small
            className="w-full"
            label="Holidays from a file"
            onFiles={([file]) =>
              void file!.text().then((text) => {
                const { days } = daysIn(text);
                const all = [...new Set([...holidays, ...days.map(isoDay)])].sort();
                void edit({ edit: 'set-calendar', part: { holidays: all } });
              })
            }
          >
            Add those of a file
          </FileButton>
        </div>
      </Popover>
    </div>
  );
}
