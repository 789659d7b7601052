'use client';

import {
  fiscalYear,
  listedSpan,
  monthOf,
  monthStart,
  startOf,
  endOf,
  isoDay,
  writtenDay,
  type Day,
  type FiscalCalendar,
  type FiscalMonths,
} from '@bold-ruler/core/calendar';
import { Problem, counted } from '@bold-ruler/core/problem';
import { fiscalMonthsIn, writeFiscalMonths } from '@bold-ruler/core/reading';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { ListedText } from './ListedText';
import { SaidPopover } from './SaidPopover';

/** The months of all fiscal years that the days touch, as a calendar has them: what a list of them can begin with. */
export function listedAsNow(calendar: FiscalCalendar, span: { readonly from: Day; readonly to: Day }): FiscalMonths {
  const { year, month } = monthOf(startOf('year', span.from, calendar), calendar);
  const end = endOf('year', span.to, calendar) + 1;
  const from: string[] = [];
  for (let i = 0, day = 0; day < end; i++) {
    day = monthStart({ year, month: month + i }, calendar);
    from.push(isoDay(day));
  }
  return { first: `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}`, from };
}

/** The fiscal months as the company lists them: typed, pasted or from a file. */
export function MonthsField({ months }: { months: FiscalMonths }) {
  const calendar = useReport((state) => state.report!.calendar);
  const { from, to } = listedSpan(months);
  const said = `${counted(months.from.length - 1, 'month')}, ${writtenDay(from)} – ${writtenDay(to)}`;
  const take = (text: string) => {
    try {
      void edit({ edit: 'set-calendar', part: { months: fiscalMonthsIn(text) } });
      return null;
    } catch (problem) {
      if (problem instanceof Problem) return problem.message;
      throw problem;
    }
  };
  return (
    <SaidPopover label="The months are" name="Fiscal months" said={said}>
      <ListedText
        place="months"
        label="Fiscal months, one a line: name and first day"
        hint={`The first begins fiscal ${fiscalYear(from, calendar)}; the last line is the day after the last month. A list of weeks or days with their month will do, too`}
        lines={writeFiscalMonths(months).split('\n')}
        rows={10}
        file={{ label: 'Fiscal months from a file', button: 'Take those of a file' }}
        onTake={take}
      />
    </SaidPopover>
  );
}
