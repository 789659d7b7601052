'use client';

import type { FigureChange, ReportComparison } from '@bold-ruler/core/comparison';
import { isFigureChanged } from '@bold-ruler/core/comparison';
import { isoDay } from '@bold-ruler/core/calendar';
import { writeNumber, writingFor } from '@bold-ruler/core/format';
import { counted } from '@bold-ruler/core/problem';
import type { AddedRows, Overlap } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { INPUT } from '@/ui/Field';
import type { Newer, Proposal } from './proposal';
import { callNewer, proposedReport, rowsThen, takeNewer } from './proposals';
import { amount, count } from '@/ui/words';

const KEEP: readonly (readonly [AddedRows, string])[] = [
  ['new', 'use the newer rows'],
  ['old', 'keep the current rows'],
  ['both', 'count both'],
];

const inBoth = ({ days, from, to, rows: [there, newer] }: Overlap) =>
  `${counted(days, 'day')} ${days === 1 ? 'is' : 'are'} in both, from ${isoDay(from)} to ${isoDay(to)} (${counted(there, 'row')} there, ${count.format(newer)} newer).`;

/**
 * How the rows of a newer file are taken, and what it calls otherwise.
 * @param rows how many there would be as they are taken now; null until they are read
 */
export function NewerRows({ newer, rows }: { newer: Newer; rows: number | null }) {
  const isRead = rows !== null;
  const { file, mode, keep, overlap, sheet, isChosen } = newer;
  const counts = { replace: rowsThen(newer, 'replace'), add: rowsThen(newer, 'add'), [mode]: rows };
  return (
    <div className="space-y-2 border-t border-hairline px-4 py-2.5 text-[13px]">
      {isRead && (
        <fieldset className="flex flex-wrap items-center gap-x-5 gap-y-1">
          <legend className="sr-only">How the rows of {file.name} are taken</legend>
          {(['replace', 'add'] as const).map((one) => (
            <label key={one} className="flex items-center gap-2">
              <input
                type="radio"
                name="mode"
                className="accent-ink"
                checked={isChosen && mode === one}
                onChange={() => void takeNewer(one, keep)}
              />
              {one === 'replace' ? 'Replace the current rows' : 'Add to the current rows'}
              {counts[one] !== null && <span className="text-quiet">then {counted(counts[one], 'row')}</span>}
            </label>
          ))}
        </fieldset>
      )}
      {isRead && overlap && !isChosen && <p>{inBoth(overlap)}</p>}
      {isRead && overlap && isChosen && mode === 'add' && (
        <p className="flex flex-wrap items-center gap-2">
          {inBoth(overlap)} For these days
          <select
            aria-label="For days that are in both"
            className={`${INPUT} !w-64`}
            value={keep}
            onChange={(event) => void takeNewer('add', event.target.value as AddedRows)}
          >
            {KEEP.map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </select>
        </p>
      )}
      {sheet && (
        <p>
          It has no sheet “{sheet.from}”: <strong className="font-semibold">{sheet.to}</strong> is read in its place.
        </p>
      )}
      <LackingColumns newer={newer} />
    </div>
  );
}

/** How many users of a column are named. */
const NAMED = 4;

/** Columns the newer file lacks, what rests on each, and what it may call them. */
function LackingColumns({ newer: { lacking, come, called } }: { newer: Newer }) {
  if (lacking.length === 0) return null;
  return (
    <table aria-label="Columns it lacks" className="w-full">
      <thead>
        <tr className="text-left text-xs text-quiet">
          <th className="w-40 pb-1 font-medium">column it lacks</th>
          <th className="w-64 pb-1 font-medium">is called there</th>
          <th className="pb-1 font-medium">what rests on it</th>
        </tr>
      </thead>
      <tbody>
        {lacking.map(({ column, uses, match }) => {
          const now = Object.hasOwn(called, column) ? called[column]! : '';
          const { [column]: _, ...others } = called;
          const more = uses.length - NAMED;
          return (
            <tr key={column} className="border-t border-hairline align-baseline">
              <th scope="row" className="max-w-40 truncate py-1.5 pr-3 text-left font-medium" title={column}>
                {column}
              </th>
              <td className="py-1.5 pr-3">
                <select
                  aria-label={`What ${column} is called there`}
                  className={INPUT}
                  value={now}
                  onChange={({ target: { value } }) =>
                    void callNewer(value === '' ? others : { ...others, [column]: value })
                  }
                >
                  <option value="">it is not there</option>
                  {come.map((name) => (
                    <option key={name} value={name}>
                      {name}
                      {match?.to === name ? ` (${Math.round(match.share * 100)} % alike)` : ''}
                    </option>
                  ))}
                </select>
              </td>
              <td className={`py-1.5 ${now === '' && uses.length > 0 ? 'text-behind' : 'text-quiet'}`}>
                {uses.length === 0 ? 'nothing' : uses.slice(0, NAMED).join(', ')}
                {more > 0 && <span title={uses.slice(NAMED).join(', ')}> and {more} more</span>}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Every figure before and after, the most changed first. */
export function FiguresCompared({ proposal }: { proposal: Proposal }) {
  const { newer, difference, entry } = proposal;
  const { value, problem } = useAnswer([newer, difference, entry], (now) =>
    desk().compareProposed(now, proposedReport(now, proposal)),
  );
  if (problem) return <p className="border-t border-hairline px-4 py-2 text-behind">{problem.message}</p>;
  if (!value) return <p className="border-t border-hairline px-4 py-2 text-quiet">Comparing every figure …</p>;
  if (value.figures.length === 0) return null;
  return <Compared comparison={value} />;
}

function Compared({ comparison: { figures, restated, asOf } }: { comparison: ReportComparison }) {
  const changed = figures.filter(isFigureChanged);
  const same = figures.length - changed.length;
  return (
    <div className="border-t border-hairline">
      <table aria-label="Figures before and after" className="w-full text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="px-4 py-1.5 font-medium">figure</th>
            <th className="px-3 text-right font-medium">now{asOf[0] && `, to ${asOf[0]}`}</th>
            <th className="px-3 text-right font-medium">of the past</th>
            <th className="px-3 text-right font-medium">new</th>
            <th className="px-4 text-right font-medium">then{asOf[1] && `, to ${asOf[1]}`}</th>
          </tr>
        </thead>
        <tbody>
          {changed.map((one) => (
            <Figure key={one.id} change={one} />
          ))}
        </tbody>
      </table>
      <p className="border-t border-hairline px-4 py-2 text-[13px] text-quiet">
        {same > 0 &&
          `${counted(same, 'figure')} ${same === 1 ? 'says' : 'say'} what ${same === 1 ? 'it says' : 'they say'} now. `}
        {restated.length === 0
          ? 'No month of the past is told otherwise.'
          : 'Months of the past that are told otherwise: '}
        {restated.slice(0, 6).map(({ measure, month, before, after }, i) => (
          <span key={`${measure} ${month}`} className="text-ink">
            {i > 0 && '; '}
            {measure} in {month} from <Amount measure={measure} value={before} whole /> to{' '}
            <Amount measure={measure} value={after} whole />
          </span>
        ))}
        {restated.length > 6 && ` and ${restated.length - 6} more`}
        {restated.length > 0 && '.'}
      </p>
    </div>
  );
}

function Figure({ change: { brief, measure, total, benchmark, rows, problem } }: { change: FigureChange }) {
  const by = (from: number | null, to: number | null) =>
    from === null && to === null ? null : (to ?? 0) - (from ?? 0);
  const [past, fresh] = [by(total.before, total.restated), by(total.restated, total.after)];
  return (
    <tr className="border-t border-hairline align-baseline">
      <th scope="row" className="w-1/2 max-w-0 px-4 py-1.5 text-left font-normal">
        <span className="block truncate" title={brief}>
          {brief}
        </span>
        {benchmark && benchmark.before !== benchmark.after && (
          <span className="block text-xs">
            held against <Amount measure={measure} value={benchmark.before} /> now,{' '}
            <Amount measure={measure} value={benchmark.after} /> then
          </span>
        )}
        {!problem && rows.length > 0 && (
          <span className="block text-xs text-quiet">{counted(rows.length, 'row')} told otherwise</span>
        )}
      </th>
      {problem ? (
        <td colSpan={4} className="px-3 text-behind">
          {problem.after
            ? `Cannot be answered then: ${problem.after}`
            : `Could not be answered before: ${problem.before}`}
        </td>
      ) : (
        <>
          <td className="px-3 text-right">
            <Amount measure={measure} value={total.before} />
          </td>
          <td className={`px-3 text-right ${past ? 'font-semibold' : 'text-quiet'}`}>
            <Amount measure={measure} value={past} plus />
          </td>
          <td className={`px-3 text-right ${fresh ? '' : 'text-quiet'}`}>
            <Amount measure={measure} value={fresh} plus />
          </td>
          <td className="px-4 text-right font-semibold">
            <Amount measure={measure} value={total.after} />
          </td>
        </>
      )}
    </tr>
  );
}

interface AmountProps {
  readonly measure: string;
  readonly value: number | null;
  readonly plus?: true;
  /** Not in thousands or millions, so that a small change is seen. */
  readonly whole?: true;
}

/** A number in its measure's format. */
function Amount({ measure, value, plus, whole }: AmountProps) {
  const format = useReport((state) => state.report!.measures.find(({ name }) => name === measure)?.format);
  if (value === null || Number.isNaN(value)) return <>–</>;
  if (!format) return <>{amount.format(value)}</>;
  return (
    <>
      {writeNumber(
        value,
        writingFor(whole ? { ...format, scale: 'none' } : format, Math.abs(value), Number.isInteger(value) ? 0 : 2),
        plus,
      )}
    </>
  );
}
