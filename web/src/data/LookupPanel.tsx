'use client';

import { useState } from 'react';
import type { LookupShown, Lookups } from '@bold-ruler/core/desk';
import { counted, listed, type SentProblem } from '@bold-ruler/core/problem';
import type { Joining } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { attempt, edit } from '@/store/edit';
import { Button } from '@/ui/Button';
import { Field, INPUT } from '@/ui/Field';
import { useTableAnswer } from './useTableAnswer';
import { amount, count } from '@/ui/words';

/** What a table looks up in others: what that brings, what it does not find, what could be looked up besides. */
export function LookupPanel({ tableId, columns }: { tableId: string; columns: readonly string[] }) {
  const { value: found, problem } = useTableAnswer([tableId], (now) => desk().lookups(now, tableId));
  if (problem) return <p role="alert">{problem.message}</p>;
  if (!found) return <p role="status">Looking …</p>;
  const own = columns.filter((name) => !found.joined.some(({ brings }) => brings.includes(name)));
  return (
    <div className="max-w-[860px] space-y-5 pb-6">
      {found.joined.map((one) => (
        <Joined key={`${one.to} ${one.columns.join()}`} tableId={tableId} lookup={one} />
      ))}
      {found.offers.length > 0 && (
        <ul aria-label="Lookups that fit" className="border-t border-hairline bg-paper text-[13px]">
          {found.offers.map((offer) => (
            <li
              key={offer.to}
              className="flex items-center gap-3 border-b [border-left-width:4px] border-hairline border-l-boxwood px-3 py-2"
            >
              <p className="min-w-0 grow">{offerText(tableId, offer)}</p>
              <Button small onClick={() => void lookUp(tableId, offer)}>
                Look {offer.brings.length === 1 ? 'it' : 'them'} up
              </Button>
            </li>
          ))}
        </ul>
      )}
      {found.tables.length === 0 ? (
        <p className="text-quiet">
          A lookup says more of what stands in {tableId}: product lines of codes, countries of accounts, teams of
          people. Add its table at the left.
        </p>
      ) : (
        <ByHand tableId={tableId} own={own} tables={found.tables} />
      )}
    </div>
  );
}

/** What a lookup that fits would bring, as a sentence. */
export function offerText(tableId: string, { to, columns, since, brings, lost }: Lookups['offers'][number]): string {
  const all = brings.length > 4 ? [...brings.slice(0, 4), `${brings.length - 4} more`] : brings;
  const rows = lost === 0 ? 'every row finds one' : `${counted(lost, 'row')} of ${tableId} would find none`;
  return `${to} has one row for each ${listed(columns, 'and')}${since === undefined ? '' : `, valid from the day in “${since}”`}: its ${listed(all, 'and')} can be looked up here; ${rows}.`;
}

/** Takes an offered lookup. */
export function lookUp(tableId: string, { columns, to, on, since }: Joining): Promise<boolean> {
  const join = { columns, to, on, ...(since === undefined ? {} : { since }) };
  return edit({ edit: 'add-lookup', table: tableId, join });
}

/** A lookup that is there. */
function Joined({ tableId, lookup }: { tableId: string; lookup: LookupShown }) {
  const { columns, to, on, since, brings, twice, undated, notFound, amountOf } = lookup;
  const [problem, setProblem] = useState<SentProblem | null>(null);
  const remove = async () =>
    setProblem(await attempt({ edit: 'remove-lookup', table: tableId, join: { columns, to } }));
  const by = columns.map((name, i) => (name === on[i] ? name : `${name} = ${on[i]!}`));
  const sum = amountOf === null ? undefined : notFound?.sums[amountOf];
  return (
    <section aria-label={`Lookup in ${to}`} className="border-t border-hairline bg-paper text-[13px]">
      <div className="flex items-center gap-3 border-b border-hairline px-3 py-2">
        <p className="min-w-0 grow">
          <strong className="font-semibold">{to}</strong> is looked up by {listed(by, 'and')}
          {since !== undefined && `, valid from ${since}`}, and brings {listed(brings, 'and')}.
        </p>
        <Button small look="bare" onClick={() => void remove()}>
          Look nothing up there
        </Button>
      </div>
      {problem && (
        <p role="alert" className="border-b border-hairline px-3 py-2 text-behind">
          {problem.message}
        </p>
      )}
      {twice.length > 0 ? (
        <div className="px-3 py-2">
          <p className="text-behind">
            {to} has more than one row for {twice.length === 1 ? 'a key' : `${count.format(twice.length)} keys`}, so
            nothing can be looked up: rows must not be multiplied. Mend {to}
            {since === undefined ? ', leave rows that stand twice out there, or say from which day each is valid' : ''}.
          </p>
          <Keys
            keys={twice.map((one) => ({ ...one, amount: undefined }))}
            amountOf={null}
            label={`Keys that stand twice in ${to}`}
          />
        </div>
      ) : undated ? (
        <p className="px-3 py-2">
          Rows of {tableId} have no date of their own. A table that looks them up gets the row of {to} that is valid on
          the day of its own row.
        </p>
      ) : notFound ? (
        <div className="px-3 py-2">
          <p>
            <span className="text-behind">{counted(notFound.rows, 'row')}</span>
            {sum !== undefined && `, with ${amount.format(sum)} in ${amountOf!},`}{' '}
            {notFound.rows === 1 ? 'finds' : 'find'} nothing, for {counted(notFound.keys, 'key')}
            {since !== undefined && ' that are not there, or not yet on their day'}. In the columns above they are
            blank.
          </p>
          <Keys
            keys={notFound.first.map(({ key, rows, sums }) => ({
              key,
              rows,
              amount: amountOf === null ? undefined : sums[amountOf],
            }))}
            amountOf={amountOf}
            label={`Keys that are not found in ${to}`}
          />
        </div>
      ) : (
        <p className="px-3 py-2 text-quiet">Every row finds one.</p>
      )}
    </section>
  );
}

interface KeysProps {
  readonly keys: readonly { readonly key: string; readonly rows: number; readonly amount: number | undefined }[];
  readonly amountOf: string | null;
  readonly label: string;
}

function Keys({ keys, amountOf, label }: KeysProps) {
  return (
    <div className="mt-2 max-h-56 overflow-y-auto">
      <table aria-label={label} className="w-full max-w-[480px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="py-1 font-medium">key</th>
            <th className="px-3 text-right font-medium">rows</th>
            {amountOf !== null && <th className="text-right font-medium">{amountOf}</th>}
          </tr>
        </thead>
        <tbody>
          {keys.map(({ key, rows, amount: sum }) => (
            <tr key={key} className="border-t border-hairline">
              <th scope="row" className="max-w-60 truncate py-1 text-left font-normal" title={key}>
                {key}
              </th>
              <td className="px-3 text-right">{count.format(rows)}</td>
              {amountOf !== null && <td className="text-right">{sum === undefined ? '–' : amount.format(sum)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface ByHandProps {
  readonly tableId: string;
  readonly own: readonly string[];
  readonly tables: Lookups['tables'];
}

/** A lookup by columns of one's own choice: up to two pairs, and the day from which a row is valid. */
function ByHand({ tableId, own, tables }: ByHandProps) {
  const [to, setTo] = useState(tables[0]!.id);
  const [pairs, setPairs] = useState<readonly (readonly [string, string])[]>([['', '']]);
  const [since, setSince] = useState('');
  const other = tables.find(({ id }) => id === to) ?? tables[0]!;
  const whole = pairs.filter(([here, there]) => here !== '' && there !== '');
  const set = (at: number, pair: readonly [string, string]) => setPairs(pairs.map((one, i) => (i === at ? pair : one)));
  return (
    <details className="border-t border-hairline bg-paper px-3 py-2 text-[13px]" open={false}>
      <summary className="cursor-pointer">Look up by columns of your choice</summary>
      <div className="mt-2 max-w-[560px] space-y-2">
        <Field label="In the table">
          <select
            className={INPUT}
            value={other.id}
            onChange={(event) => {
              setTo(event.target.value);
              setPairs([['', '']]);
              setSince('');
            }}
          >
            {tables.map(({ id }) => (
              <option key={id}>{id}</option>
            ))}
          </select>
        </Field>
        {pairs.map(([here, there], i) => (
          <div key={i} className="grid grid-cols-2 gap-2">
            <Field label={i === 0 ? `this column of ${tableId}` : 'and this one'}>
              <select className={INPUT} value={here} onChange={(event) => set(i, [event.target.value, there])}>
                <option value="">choose …</option>
                {own.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </Field>
            <Field label={i === 0 ? `stands in this one of ${other.id}` : 'in this one'}>
              <select className={INPUT} value={there} onChange={(event) => set(i, [here, event.target.value])}>
                <option value="">choose …</option>
                {other.columns.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </Field>
          </div>
        ))}
        {other.dates.length > 0 && (
          <Field label="valid from the day in">
            <select className={INPUT} value={since} onChange={(event) => setSince(event.target.value)}>
              <option value="">always valid</option>
              {other.dates.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </Field>
        )}
        <div className="flex gap-2">
          <Button
            small
            look="main"
            disabled={whole.length === 0}
            onClick={() =>
              void lookUp(tableId, {
                columns: whole.map(([here]) => here),
                to: other.id,
                on: whole.map(([, there]) => there),
                ...(since === '' ? {} : { since }),
              })
            }
          >
            Look up
          </Button>
          {pairs.length < 3 && (
            <Button small look="bare" onClick={() => setPairs([...pairs, ['', '']])}>
              A further key column
            </Button>
          )}
        </div>
      </div>
    </details>
  );
}
