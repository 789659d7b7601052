'use client';

import { counted, type Sent } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import type { Match } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import type { Answer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import { NamesList } from './NamesList';
import { useTableAnswer } from './useTableAnswer';
import { INPUT } from '@/ui/Field';
import { amount, count, plural } from '@/ui/words';

const NONE = '';

/** How targets fit the table that they are held against, as their benchmarks match them; null where there are no targets. */
export function useMatch(of: string, targets: string | null): Answer<Match | null> {
  return useTableAnswer([of, targets], async (now): Promise<Sent<Match | null>> => {
    if (targets === null) return { ok: true, value: null };
    return desk().match(now, of, targets, matchOf(now, targets));
  });
}

/** The benchmarks of a table of targets, and the fields by which they are matched. */
const benchmarksOf = (report: Report, targets: string) =>
  report.benchmarks.filter((benchmark) => benchmark.kind === 'table' && benchmark.table === targets);
function matchOf(report: Report, targets: string): Readonly<Record<string, string>> {
  const [first] = benchmarksOf(report, targets);
  return first?.kind === 'table' ? (first.match ?? {}) : {};
}

interface Props {
  readonly of: string;
  readonly targets: string;
  readonly fields: readonly string[];
  readonly match: Answer<Match | null>;
}

/** How a table of targets fits the table it is held against: fields, members, time, doubles, sums. */
export function MatchPanel({ of, targets, fields, match: { value: found, problem } }: Props) {
  const report = useReport((state) => state.report)!;
  const benchmarks = benchmarksOf(report, targets);
  const { value: alike } = useTableAnswer([of, targets], (now) => desk().fieldsAlike(now, of, targets));
  if (problem) return <p role="alert">{problem.message}</p>;
  if (!found) return <p role="status">Looking …</p>;
  const { time, duplicates, sums, addedUp } = found;

  function rematch(field: string, other: string): void {
    void edit({ edit: 'match-field', targets, field, column: other === NONE ? null : other });
  }

  return (
    <div className="max-w-[820px] pb-6">
      <table className="w-full border-t border-hairline bg-paper text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="py-1.5 pr-2 pl-3 font-medium">in {of}</th>
            <th className="px-2 font-medium">in {targets}</th>
            <th className="px-2 text-right font-medium">in both</th>
            <th className="px-2 font-medium">only in {of}</th>
            <th className="px-2 font-medium">only in {targets}</th>
          </tr>
        </thead>
        <tbody>
          <tr className="border-t border-hairline align-baseline">
            <th scope="row" className="py-1.5 pr-2 pl-3 text-left font-medium">
              {time.here ? `${time.here.column}, by ${time.here.grain}` : 'no date'}
            </th>
            <td className="px-2">{time.there ? `${time.there.column}, by ${time.there.grain}` : 'no date'}</td>
            <td />
            <td className="px-2">{time.here ? `${time.here.from} to ${time.here.to}` : '–'}</td>
            <td className="px-2">{time.there ? `${time.there.from} to ${time.there.to}` : '–'}</td>
          </tr>
          {found.fields.map(({ field, other, both, onlyHere, onlyThere }) => (
            <tr key={field} className="border-t border-hairline align-baseline">
              <th scope="row" className="max-w-44 truncate py-1.5 pr-2 pl-3 text-left font-medium">
                {field}
              </th>
              <td className="px-2 py-1">
                {benchmarks.length === 0 ? (
                  (other ?? 'nothing')
                ) : (
                  <select
                    aria-label={`${field} is matched with`}
                    className={`${INPUT} max-w-44`}
                    value={other ?? NONE}
                    onChange={(event) => rematch(field, event.target.value)}
                  >
                    <option value={NONE}>nothing</option>
                    {fields.map((name) => (
                      <option key={name} value={name}>
                        {name}
                      </option>
                    ))}
                  </select>
                )}
              </td>
              {other === null ? (
                <td colSpan={3} className="px-2 text-quiet">
                  its targets are for all members of {field} together
                  {alike?.[field] !== undefined && benchmarks.length > 0 && (
                    <Button small className="ml-3" onClick={() => rematch(field, alike[field]!)}>
                      Match it with {alike[field]}
                    </Button>
                  )}
                </td>
              ) : (
                <>
                  <td className="px-2 text-right">{count.format(both)}</td>
                  <Strangers names={onlyHere} />
                  <Strangers names={onlyThere} />
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {found.fields
        .filter(({ other, onlyThere, both }) => {
          const isRead = other !== null && report.tables.find(({ id }) => id === targets)?.same?.[other];
          return isRead || (other !== null && onlyThere.length > 0 && both + onlyThere.length > 1);
        })
        .map(({ field, other }) => (
          <div key={field} className="mt-5">
            <h2 className="mb-1 font-semibold">Names of {other}</h2>
            <NamesList tableId={targets} column={other!} other={{ table: of, column: field }} />
          </div>
        ))}
      <ul className="mt-4 space-y-1.5 text-[13px]">
        {addedUp.length > 0 && (
          <li>
            {targets} also has {addedUp.join(', ')}: its targets are added up over{' '}
            {addedUp.length === 1 ? 'it' : 'them'}.
          </li>
        )}
        {sums.map(({ column, all, unmatched }) => (
          <li key={column}>
            <strong className="font-semibold">{column}</strong> sums to {amount.format(all)}
            {unmatched === 0
              ? ', all of it for members that are in both.'
              : `, of which ${amount.format(unmatched)} are for members that ${of} does not have.`}
          </li>
        ))}
        <li className={duplicates.keys > 0 ? 'text-behind' : ''}>
          {duplicates.keys === 0
            ? 'No two targets are for the same members and time.'
            : `${plural(duplicates.keys, 'key')} stand${duplicates.keys === 1 ? 's' : ''} there more than once, and all of the rows count: ${duplicates.first
                .slice(0, 5)
                .map(({ key: name, rows }) => `${name} (${counted(rows, 'row')})`)
                .join('; ')}${duplicates.keys > 5 ? ' …' : '.'}`}
        </li>
      </ul>
    </div>
  );
}

function Strangers({ names }: { names: readonly string[] }) {
  if (names.length === 0) return <td className="px-2 text-quiet">none</td>;
  return (
    <td className="max-w-56 px-2 text-behind" title={names.join(', ')}>
      {names.slice(0, 4).join(', ')}
      {names.length > 4 && ` and ${count.format(names.length - 4)} more`}
    </td>
  );
}
