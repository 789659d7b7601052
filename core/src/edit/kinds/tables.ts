import { original } from 'mutative';
import { withColumns, type Report } from '../../report';
import type { EditKinds, ReportDraft } from '../edit';
import { refuseTaken } from '../taken';
import { addLookup, dropLookups } from '../lookups';
import { addTo, BENCHMARK, TABLE } from './lists';

/** Edits of tables: how they are read, what is derived, in what order their members stand. */
export const tables: EditKinds<
  'add-tables' | 'read-table' | 'date-rows' | 'order-members' | 'derive-column' | 'add-lookup' | 'match-field'
> = {
  'add-tables': {
    say: ({ tables: [first, ...more] }) => (more.length === 0 ? `add the table ${first?.id ?? ''}` : 'add tables'),
    apply: (draft, { tables: entries, benchmarks }) => {
      for (const entry of entries) addTo(draft.tables, entry, TABLE);
      for (const benchmark of benchmarks) addTo(draft.benchmarks, benchmark, BENCHMARK);
    },
  },

  'read-table': {
    say: ({ entry }) => `read ${entry.id} anew`,
    apply: (draft, { entry, columns }) => {
      const at = draft.tables.findIndex(({ id }) => id === entry.id);
      if (at < 0) return;
      const next = withColumns(original(draft) as Report, entry.id, columns);
      draft.tables[at] = structuredClone(entry) as ReportDraft['tables'][number];
      // Meanwhile a table it looks up in may have gone.
      dropLookups(draft.tables[at]!, ({ to }) => !draft.tables.some(({ id }) => id === to));
      draft.measures = structuredClone(next.measures) as ReportDraft['measures'];
      draft.benchmarks = structuredClone(next.benchmarks) as ReportDraft['benchmarks'];
    },
  },

  'date-rows': {
    say: ({ column }) => `date rows by ${column}`,
    apply: (draft, { table, column }) => {
      const entry = entryOf(draft, table);
      if (entry) entry.date = column;
    },
  },

  'order-members': {
    say: ({ column, order, orderBy }) =>
      order ? `order ${column} by hand` : orderBy === undefined ? `put ${column} in natural order` : `order ${column}`,
    apply: (draft, { table, column, order, orderBy }) => {
      const entry = entryOf(draft, table);
      if (!entry) return;
      let said = entry.columns?.find(({ name }) => name === column);
      if (!said) {
        if (!order && orderBy === undefined) return;
        said = { name: column };
        entry.columns = [...(entry.columns ?? []), said];
        said = entry.columns.at(-1)!;
      }
      delete said.order;
      delete said.orderBy;
      if (order) said.order = [...order];
      if (orderBy !== undefined) said.orderBy = orderBy;
    },
  },

  'derive-column': {
    say: ({ old, column }) => (old === null ? `derive ${column.name}` : `change ${old}`),
    apply: (draft, { table, old, column }) => {
      const entry = entryOf(draft, table);
      if (!entry) return;
      const at = entry.derived?.findIndex(({ name }) => name === old) ?? -1;
      const others = (entry.derived ?? []).filter((_, i) => i !== at);
      refuseTaken(
        'column',
        column.name,
        others.map(({ name }) => name),
      );
      if (at >= 0) entry.derived![at] = { ...column };
      else entry.derived = [...(entry.derived ?? []), { ...column }];
    },
  },

  'add-lookup': {
    say: ({ join }) => `look up in ${join.to}`,
    apply: (draft, { table, join }) => addLookup(draft, table, join),
  },

  'match-field': {
    say: ({ field, column }) => `match ${field} with ${column ?? 'nothing'}`,
    apply: (draft, { targets, field, column }) => {
      for (const benchmark of draft.benchmarks) {
        if (benchmark.kind !== 'table' || benchmark.table !== targets) continue;
        const next: Record<string, string> = { ...benchmark.match };
        if (column === field) delete next[field];
        // A name that no column has matches nothing.
        else next[field] = column ?? '–';
        if (Object.keys(next).length === 0) delete benchmark.match;
        else benchmark.match = next;
      }
    },
  },
};

function entryOf(draft: ReportDraft, table: string): ReportDraft['tables'][number] | undefined {
  return draft.tables.find(({ id }) => id === table);
}
