'use client';

import { DATE_PATTERNS, STYLE_READ } from '@bold-ruler/core/reading';
import type { ColumnKind, ColumnProfile, FieldsProfile } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useShallow } from 'zustand/react/shallow';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';
import { INPUT } from '@/ui/Field';
import { Button } from '@/ui/Button';
import { ColumnName } from './ColumnName';
import { NamesList } from './NamesList';
import { MemberOrder } from './MemberOrder';
import { DistributionPlot } from './DistributionPlot';
import { columnIn, propose } from './proposals';
import { amount, count, KINDS } from '@/ui/words';

interface Props {
  readonly tableId: string;
  readonly column: ColumnProfile;
  readonly profile: FieldsProfile;
  /** Computed from other columns, or made of columns' names: its kind is not read from text. */
  readonly made: boolean;
  /** Its name is that of another table's column. */
  readonly isLookedUp: boolean;
  readonly onRenamed: (name: string) => void;
}

/** One column: what it is, what is in it, how its rows are spread, and in what order its members stand. */
export function ColumnPanel({ tableId, column, profile, made, isLookedUp, onRenamed }: Props) {
  const { report, tablesVersion } = useReport(useShallow(({ report, tablesVersion }) => ({ report, tablesVersion })));
  const entry = report!.tables.find(({ id }) => id === tableId);
  const entryKey = JSON.stringify(entry);
  const { value, of } = useAnswer([column.name, tableId, tablesVersion, entryKey], (now) =>
    desk().column(now, tableId, column.name),
  );
  const isDate = profile.date === column.name;
  const shown = of?.[0] === column.name ? value : null;
  const show = (value: number | string | null) =>
    value === null ? '–' : typeof value === 'number' ? amount.format(value) : value;
  const facts: [string, string][] = [
    ['different', count.format(column.members)],
    ['blank', count.format(column.blank)],
    ...(column.unread > 0 ? ([['not read', count.format(column.unread)]] as [string, string][]) : []),
    [column.type === 'text' ? 'first by name' : 'lowest', show(column.lowest)],
    [column.type === 'text' ? 'last by name' : 'highest', show(column.highest)],
    ...(column.sum === undefined ? [] : ([['sum', amount.format(column.sum)]] as [string, string][])),
  ];
  return (
    <section aria-label={`Column ${column.name}`} className="border-t border-hairline bg-paper px-4 pt-3 pb-4">
      <h2 className="mb-2 truncate font-semibold" title={column.name}>
        {column.name}
      </h2>
      {!isLookedUp && <ColumnName key={column.name} tableId={tableId} name={column.name} onRenamed={onRenamed} />}
      {made ? (
        <p className="mt-1 text-[13px] text-quiet">
          {KINDS[column.type]}, {column.convention}
        </p>
      ) : (
        <KindChoice tableId={tableId} column={column} />
      )}
      {column.type === 'date' && (
        <div className="mt-2">
          {isDate ? (
            <p className="text-[13px] text-quiet">
              Places the rows in time, {profile.grain} by {profile.grain}.
            </p>
          ) : (
            <Button small onClick={() => void edit({ edit: 'date-rows', table: tableId, column: column.name })}>
              Place rows in time by it
            </Button>
          )}
        </div>
      )}
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-[13px]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-quiet">{name}</dt>
            <dd className="m-0 truncate text-right" title={value}>
              {value}
            </dd>
          </div>
        ))}
      </dl>
      {column.type === 'text' && !made && (
        <div className="mt-4">
          <NamesList key={column.name} tableId={tableId} column={column.name} other={null} />
        </div>
      )}
      {!shown && (column.type === 'number' || column.type === 'date') && <div aria-hidden className="mt-3 h-[152px]" />}
      {shown && shown.distribution.bars.length > 0 && (
        <div className="mt-3">
          <h3 className="mb-1 text-xs text-quiet">
            {column.type === 'number'
              ? 'Rows by size'
              : column.type === 'date'
                ? `Rows a ${shown.distribution.bars[0]!.label.length === 4 ? 'year' : 'month'}`
                : shown.distribution.others > 0
                  ? `Rows of the ${shown.distribution.bars.length} most frequent; ${count.format(shown.distribution.others)} have others`
                  : 'Rows by member'}
          </h3>
          <DistributionPlot
            distribution={shown.distribution}
            names={column.type === 'text' || column.type === 'yesno'}
            label={`Distribution of ${column.name}`}
          />
        </div>
      )}
      {column.type === 'text' && shown && (
        <MemberOrder
          key={column.name}
          tableId={tableId}
          column={column.name}
          members={shown.members}
          others={profile.columns.map(({ name }) => name).filter((name) => name !== column.name)}
        />
      )}
      {!isLookedUp && !made && (
        <Button
          small
          look="bare"
          className="mt-4 -ml-2"
          onClick={() => void edit({ edit: 'remove-column', table: tableId, column: column.name })}
        >
          Leave this column out
        </Button>
      )}
    </section>
  );
}

const READS: Partial<Record<ColumnKind, readonly { read: string; words: string }[]>> = {
  number: [
    { read: STYLE_READ.point, words: STYLE_READ.point },
    { read: STYLE_READ.comma, words: STYLE_READ.comma },
  ],
  date: DATE_PATTERNS.map(({ read }) => ({ read, words: read })),
};

/** The kind a column is read as; a change is tried first, and its effect shown. */
function KindChoice({ tableId, column }: { tableId: string; column: ColumnProfile }) {
  const reads = READS[column.type];
  const now = column.type === 'date' ? column.convention.replace(/^dates as /, '') : undefined;
  const change = (type: ColumnKind, read?: string) =>
    propose(
      tableId,
      `read ${column.name}`,
      `read “${column.name}” as ${KINDS[type]}${read ? `, ${read}` : ''}`,
      (entry) => {
        const said = columnIn(entry, column.name);
        said.type = type;
        if (read === undefined) delete said.read;
        else said.read = read;
      },
    );
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      <select
        aria-label={`Kind of ${column.name}`}
        className={INPUT}
        value={column.type}
        onChange={(event) => void change(event.target.value as ColumnKind)}
      >
        {Object.entries(KINDS).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </select>
      {reads && (
        <select
          aria-label={`How ${column.name} is written`}
          className={INPUT}
          value={now ?? reads.find(({ read }) => column.convention.includes(read))?.read ?? ''}
          onChange={(event) => void change(column.type, event.target.value)}
        >
          {!now && <option value="">{column.convention.split(',')[0]}</option>}
          {reads.map(({ read, words }) => (
            <option key={read} value={read}>
              {words}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
