'use client';

import { listed } from '@bold-ruler/core/problem';
import { linesNamed, type FieldsProfile } from '@bold-ruler/core/table';
import type { Lookups } from '@bold-ruler/core/desk';
import { Button } from '@/ui/Button';
import { lookUp, offerText } from './LookupPanel';
import { goesWith } from './goesWith';
import { columnIn, LEAVE_REPEATS_OUT, propose, proposeTogether, setRepeats } from './proposals';
import { amount, plural } from '@/ui/words';
import { likelyMeasure, type Accepted } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { CURRENCIES, Currencies } from './Currencies';
import { Item, Stands } from './SettleItem';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';

/** Lines at the beginning of a sentence. */
function lines(rows: readonly number[], files: readonly string[] | undefined, count = rows.length): string {
  const named = linesNamed({ lines: rows, ...(files ? { files } : {}) }, count, 6);
  return `${named[0]!.toUpperCase()}${named.slice(1)}`;
}

const shortened = (text: string) => {
  const line = text.split('\n')[0]!;
  return line.length > 60 ? `${line.slice(0, 60)} …` : line;
};

/** What the level checks call rows that stand twice. */
const TWICE = 'double-rows';

/** What tables of the same columns are called that are meant to stay apart. */
const ALIKE = 'tables-alike';

const isOf = (code: string, tableId: string, fact?: string) => (one: Accepted) =>
  one.code === code && one.about === 'table' && one.id === tableId && (one.fact ?? fact) === fact;

/** What rows hold in the number that matters most. */
function amountOf(sums: Readonly<Record<string, number>>): string {
  const of = likelyMeasure(Object.keys(sums));
  return of === undefined ? '' : `, with ${amount.format(sums[of]!)} in ${of}`;
}

interface Props {
  readonly tableId: string;
  readonly profile: FieldsProfile;
  /** Lookups that fit. */
  readonly offers: Lookups['offers'];
  /** Tables of the same columns. */
  readonly alike: Lookups['alike'];
}

/** What is unclear about a table, each with what can be done about it. */
export function Settle({ tableId, profile, offers: fitting, alike }: Props) {
  const accepted = useReport((state) => state.report!.accepted) ?? [];
  const stands = (code: string, fact = code) => accepted.some(isOf(code, tableId, fact));
  const unless = <T, N>(code: string, found: T, none: N) => (stands(code) ? none : found);
  const below = unless(ALIKE, alike, []);
  const duplicates = unless(TWICE, profile.duplicates, undefined);
  const doubts = profile.doubts.filter(({ column }) => !stands('reading-unclear', column));
  const totalsRows = unless('totals-among-rows', profile.totalsRows, []);
  const noteRows = unless('notes-among-rows', profile.noteRows, []);
  const wide = unless('periods-as-columns', profile.wide, null);
  const far = unless('far-days', profile.farDays, undefined);
  const offers = fitting.filter(({ to }) => !stands('lookup-offered', to));
  const { told = [] } = profile;
  const report = useReport((state) => state.report);
  const several = useAnswer([tableId, report], (now) => desk().severalCurrencies(now, tableId)).value ?? null;
  const money = unless(CURRENCIES, several, null);
  const isSettled =
    [doubts, totalsRows, noteRows, told, offers, below].every(({ length }) => length === 0) &&
    !wide &&
    !far &&
    !money &&
    !duplicates;
  if (isSettled) return null;
  const leaveOut = (what: 'totals' | 'notes') =>
    propose(tableId, `rows that are ${what}`, `leave out rows that are ${what}`, (entry) => {
      entry.leaveOut = [...new Set([...(entry.leaveOut ?? []), what])];
    });
  return (
    <section aria-labelledby="settle" className="mt-4">
      <h2 id="settle" className="mb-1.5 font-semibold">
        To be settled
      </h2>
      <ul className="border-t border-hairline bg-paper">
        {doubts.map(({ column, kind, readings }) => (
          <Item
            key={column}
            actions={readings.map(({ read, as }, i) => (
              <Button
                key={read}
                small
                {...(i === 0 ? { 'aria-pressed': true } : {})}
                onClick={() =>
                  void propose(tableId, `read ${column}`, `read “${column}” as ${read}`, (entry) => {
                    Object.assign(columnIn(entry, column), { type: kind, read });
                  })
                }
              >
                {as}
              </Button>
            ))}
          >
            In <strong className="font-semibold">{column}</strong> no row tells whether “{readings[0]!.raw}” is{' '}
            {readings.map(({ as }) => as).join(' or ')}; now it is read as the first.
          </Item>
        ))}
        {told.map(({ what, count, first }) => (
          <Item key={what}>
            {lines(
              first.map(({ line }) => line),
              first[0]?.file === undefined ? undefined : first.map(({ file }) => file!),
              count,
            )}
            :{' '}
            {what === 'stray quote' ? (
              <>
                {count === 1 ? 'the quote before' : 'quotes such as that before'} “
                {shortened(first[0]!.raw.replace(/^"/, ''))}” {count === 1 ? 'encloses' : 'enclose'} no cell and{' '}
                {count === 1 ? 'is read as a letter' : 'are read as letters'}, so that no row is lost.
              </>
            ) : what === 'no result' ? (
              <>
                {count === 1 ? 'the formula' : 'formulas such as that'} in {first[0]!.raw}{' '}
                {count === 1 ? 'has no stored result and is' : 'have no stored result and are'} blank. Open the workbook
                in a spreadsheet program and save it.
              </>
            ) : what === 'no text' ? (
              <>
                the workbook lacks the text of {first[0]!.raw}
                {count > 1 && ' and others'}: {count === 1 ? 'it is' : 'they are'} blank.
              </>
            ) : what === 'bad bytes' ? (
              <>
                in “{shortened(first[0]!.raw)}” {count === 1 ? 'a byte is' : 'bytes are'} not valid in the file’s
                encoding, UTF-8, and {count === 1 ? 'is' : 'are'} read as “�”. Save the file as UTF-8 once more.
              </>
            ) : (
              <>
                “{shortened(first[0]!.raw)}” is a cell of several lines. If rows are missing, a quote in it is not
                closed.
              </>
            )}
          </Item>
        ))}
        {far && (
          <Item>
            {lines(far.lines, far.files, far.count)}: {far.from === far.to ? far.from : `${far.from} to ${far.to}`} is
            far from all other days, which lie between {far.othersFrom} and {far.othersTo}. The as-of date does not go
            there.
          </Item>
        )}
        {totalsRows.length > 0 && (
          <Item
            actions={
              <Button small onClick={() => void leaveOut('totals')}>
                Leave {totalsRows.length === 1 ? 'it' : 'them'} out
              </Button>
            }
          >
            {lines(totalsRows, profile.totalsFiles)}{' '}
            {totalsRows.length === 1 ? 'looks like a total' : 'look like totals'} among the rows, and would be counted
            twice.
          </Item>
        )}
        {noteRows.length > 0 && (
          <Item
            actions={
              <Button small onClick={() => void leaveOut('notes')}>
                Leave {noteRows.length === 1 ? 'it' : 'them'} out
              </Button>
            }
          >
            {lines(noteRows, profile.noteFiles)} {noteRows.length === 1 ? 'looks like a note' : 'look like notes'} below
            the rows.
          </Item>
        )}
        {duplicates && (
          <Item
            actions={
              <>
                <Button
                  small
                  onClick={() =>
                    void propose(tableId, 'repeats', LEAVE_REPEATS_OUT, (draft) =>
                      setRepeats(draft, duplicates.key ?? [], true),
                    )
                  }
                >
                  Leave {duplicates.count === 1 ? 'it' : 'them'} out
                </Button>
                <Stands code={TWICE} tableId={tableId} reason="equal rows are meant" saying="let equal rows stand">
                  {duplicates.count === 1 ? 'It is meant' : 'They are meant'}
                </Stands>
              </>
            }
          >
            {lines(duplicates.lines, duplicates.files, duplicates.count)}:{' '}
            {duplicates.count === 1 ? 'a row that is' : 'rows that are'} equal to one above in{' '}
            {duplicates.key ? duplicates.key.join(', ') : 'all columns'}
            {amountOf(duplicates.sums)}. If {duplicates.count === 1 ? 'it was' : 'they were'} sent twice,{' '}
            {duplicates.count === 1 ? 'it counts' : 'they count'} twice.
          </Item>
        )}
        {money && <Currencies tableId={tableId} several={money} />}
        {offers.map((offer) => (
          <Item
            key={offer.to}
            actions={
              <Button small onClick={() => void lookUp(tableId, offer)}>
                Look {offer.brings.length === 1 ? 'it' : 'them'} up
              </Button>
            }
          >
            {offerText(tableId, offer)}
          </Item>
        ))}
        {below.length > 0 && <Alike tableId={tableId} alike={below} />}
        {wide && (
          <Item
            actions={
              <Button
                small
                onClick={() =>
                  void propose(tableId, 'periods', `make a row of each ${wide.grain}`, (entry) => {
                    entry.long = { name: wide.name };
                    if (wide.dated) entry.date = wide.name;
                  })
                }
              >
                Make rows of them
              </Button>
            }
          >
            {plural(
              wide.values.reduce((n, { columns }) => n + columns.length, 0),
              'column',
            )}{' '}
            are named after {wide.grain}s, such as “{wide.values[0]!.columns[0]}”. As rows they can be placed in time.
          </Item>
        )}
      </ul>
    </section>
  );
}

/** Tables of the same columns, such as sheets of one workbook: under one another they are one, with their names as a column. */
function Alike({ tableId, alike }: { tableId: string; alike: readonly string[] }) {
  const report = useReport((state) => state.report)!;
  const entry = report.tables.find(({ id }) => id === tableId)!;
  const { value } = useAnswer([report, tableId, alike.join('\n')], (now) =>
    desk().edited(now, { edit: 'put-together', entry, gone: alike }),
  );
  const goes = value ? goesWith(report, value.report) : [];
  const names = listed(
    alike.map((id) => `“${id}”`),
    'and',
  );
  return (
    <Item
      actions={
        <>
          <Button small onClick={() => void proposeTogether(tableId, alike)}>
            Put {alike.length === 1 ? 'it' : 'them'} under this one
          </Button>
          <Stands
            code={ALIKE}
            tableId={tableId}
            reason="tables of the same columns are meant to stay apart"
            saying="keep tables apart"
          >
            They stay apart
          </Stands>
        </>
      }
    >
      {names} {alike.length === 1 ? 'has' : 'have'} the same columns. Under one another they are one table, with the
      name of each as a column “sheet”
      {goes.length > 0 && (
        <>
          ; what rests on {alike.length === 1 ? 'it' : 'them'} goes: {listed(goes, 'and')}
        </>
      )}
      .
    </Item>
  );
}
