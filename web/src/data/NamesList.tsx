'use client';

import { useId, useState } from 'react';
import type { NameShown } from '@bold-ruler/core/desk';
import { counted } from '@bold-ruler/core/problem';
import { writeCsv, type Likeness } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { attempt } from '@/store/edit';
import { saveFile } from '@/store/saveFile';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { useTableAnswer } from './useTableAnswer';
import { amount, count } from '@/ui/words';

const WHY: Readonly<Record<Likeness, string>> = {
  spelling: 'spelled otherwise',
  initials: 'by its initials',
  letters: 'but for a letter or two',
  part: 'a part of the name',
};

interface Props {
  readonly tableId: string;
  readonly column: string;
  /** Where the right names stand; null merges the names of one column. */
  readonly other: { readonly table: string; readonly column: string } | null;
}

/** Names that may be one, side by side with what hangs on each: every match is accepted or chosen by hand. */
export function NamesList({ tableId, column, other }: Props) {
  const { value: found, problem } = useTableAnswer([tableId, column, other?.table, other?.column], (now) =>
    desk().names(now, tableId, column, other),
  );
  const [refused, setRefused] = useState<string | null>(null);
  const listId = useId();
  if (problem) return <p role="alert">{problem.message}</p>;
  if (!found) return <p role="status">Looking …</p>;
  const { names, count: all, known, same, amountOf, knownAmountOf } = found;
  const proposed = names.flatMap(({ name, proposed: one }) => (one ? [[name, one.meant] as const] : []));
  const read = async (pairs: readonly (readonly [string, string | null])[]) =>
    setRefused(
      (await attempt({ edit: 'read-as', table: tableId, column, same: Object.fromEntries(pairs) }))?.message ?? null,
    );
  const weights = new Map(known.map((one) => [one.name, one.amount ?? one.rows]));
  if (names.length === 0 && same.length === 0)
    return other ? (
      <p className="text-quiet">
        Every name of {tableId} stands in {other.table}.
      </p>
    ) : null;
  return (
    <section aria-label={`Names in ${column}`} className="text-[13px]">
      {names.length > 0 && (
        <>
          <div className="mb-1.5 flex items-center gap-3">
            <p className="grow text-quiet">
              {other
                ? `${counted(all, 'name')} of ${tableId} ${all === 1 ? 'is' : 'are'} not in ${other.table}.`
                : `${counted(all, 'name')} may be another one of ${column}.`}
              {all > names.length && ` The ${names.length} with the most come first.`}
            </p>
            {proposed.length > 1 && (
              <Button small look="main" onClick={() => void read(proposed)}>
                Accept all {proposed.length}
              </Button>
            )}
          </div>
          <datalist id={listId}>
            {known.slice(0, 1000).map(({ name }) => (
              <option key={name} value={name} />
            ))}
          </datalist>
          {other ? (
            <div className="max-h-96 overflow-y-auto border-t border-hairline bg-paper">
              <table className="w-full">
                <thead>
                  <tr className="text-left text-xs text-quiet">
                    <th className="py-1.5 pr-2 pl-3 font-medium">in {tableId}</th>
                    <th className="px-2 text-right font-medium">{amountOf ?? 'rows'}</th>
                    <th className="px-2 font-medium">is, in {other.table}</th>
                    <th className="px-2 text-right font-medium">{knownAmountOf ?? 'rows'}</th>
                    <th className="px-3 font-medium" />
                  </tr>
                </thead>
                <tbody>
                  {names.map((one) => (
                    <NameRow
                      key={`${one.name} ${one.proposed?.meant ?? ''}`}
                      one={one}
                      listId={listId}
                      weightOf={(name) => weights.get(name)}
                      onRead={(meant) => void read([[one.name, meant]])}
                    />
                  ))}
                </tbody>
              </table>
            </div>
          ) : (
            <ul className="max-h-72 overflow-y-auto border border-hairline">
              {names.map((one) => (
                <li key={one.name} className="border-b border-hairline px-2 py-1 last:border-b-0">
                  <NameRow
                    key={one.proposed?.meant}
                    one={one}
                    listId={listId}
                    weightOf={(name) => weights.get(name)}
                    onRead={(meant) => void read([[one.name, meant]])}
                    stacked
                  />
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      {refused && (
        <p role="alert" className="mt-2 border-l-4 border-behind pl-2">
          {refused}
        </p>
      )}
      {same.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer text-quiet">
            {counted(same.length, 'name')} of {column} {same.length === 1 ? 'is' : 'are'} read as another, also in newer
            files
          </summary>
          <ul aria-label="Names read as others" className="mt-1 max-h-56 overflow-y-auto">
            {same.map(({ name, meant }) => (
              <li key={name} className="flex items-center gap-2 py-0.5">
                <span className="min-w-0 grow truncate">
                  {name} <span className="text-quiet">is</span> {meant}
                </span>
                <Button small look="bare" onClick={() => void read([[name, null]])}>
                  Undo this match
                </Button>
              </li>
            ))}
          </ul>
          <Button
            small
            className="mt-1"
            onClick={() => {
              const lines = [['written', 'is'], ...same.map(({ name, meant }) => [name, meant])];
              saveFile(`${tableId} ${column} names.csv`, writeCsv(lines), 'text/csv');
            }}
          >
            Save as CSV
          </Button>
        </details>
      )}
    </section>
  );
}

interface RowProps {
  readonly one: NameShown;
  readonly listId: string;
  readonly weightOf: (name: string) => number | undefined;
  readonly onRead: (meant: string) => void;
  /** Below one another, for narrow places. */
  readonly stacked?: true;
}

function NameRow({ one: { name, rows, amount: sum, proposed }, listId, weightOf, onRead, stacked }: RowProps) {
  const [written, setWritten] = useState(proposed?.meant ?? '');
  const weight = weightOf(written);
  const isKnown = weight !== undefined && written !== name;
  const field = (
    <input
      className={`${INPUT} min-w-0`}
      aria-label={`${name} is`}
      list={listId}
      placeholder="nobody known"
      value={written}
      onChange={(event) => setWritten(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && isKnown) onRead(written);
      }}
    />
  );
  const accept = (
    <Button small disabled={!isKnown} aria-label={`Read ${name} as ${written}`} onClick={() => onRead(written)}>
      Accept
    </Button>
  );
  const held = sum === null ? count.format(rows) : amount.format(sum);
  if (stacked)
    return (
      <>
        <p className="flex gap-2">
          <span className="min-w-0 grow truncate font-medium">{name}</span>
          <span className="text-quiet">{held}</span>
        </p>
        <p className="mt-0.5 flex items-center gap-2">
          <span className="text-quiet">is</span>
          <span className="w-44 shrink-0">{field}</span>
          {accept}
        </p>
      </>
    );
  return (
    <tr className="border-t border-hairline">
      <th
        scope="row"
        className="max-w-48 truncate py-1 pr-2 pl-3 text-left font-medium"
        title={`${name}: ${counted(rows, 'row')}`}
      >
        {name}
      </th>
      <td className="px-2 text-right">{held}</td>
      <td className="px-2">
        <span className="flex items-center gap-2 py-1">
          {field}
          {proposed?.meant === written && (
            <span className="text-xs whitespace-nowrap text-quiet">{WHY[proposed.why]}</span>
          )}
        </span>
      </td>
      <td className="px-2 text-right">{weight === undefined ? '–' : amount.format(weight)}</td>
      <td className="px-3 text-right">{accept}</td>
    </tr>
  );
}
