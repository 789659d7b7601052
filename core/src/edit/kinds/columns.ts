import { current, original } from 'mutative';
import { listed, Problem } from '../../problem';
import { measureOf, targetsFrom, useOf, type Benchmark, type Named, type Report, type TableUse } from '../../report';
import type { Joining, TableFacts } from '../../table';
import type { EditKinds, Names, ReportDraft } from '../edit';
import { followColumn, followMembers } from '../columns';
import { usersOfColumn } from '../columnUse';
import { addLookup, dropLookups } from '../lookups';
import { followTable } from '../tableName';
import { refuseTaken } from '../taken';
import { takeOut } from '../takeOut';
import { usageOf } from '../usage';

/** Edits of tables that have to know which columns there are, and who uses them. */
export type TableEdit =
  | 'remove-column'
  | 'put-column-back'
  | 'remove-table'
  | 'put-together'
  | 'rename-table'
  | 'rename-column'
  | 'remove-lookup'
  | 'use-table'
  | 'read-as';

/** What a table is for, as undoing names it. */
const USES: Readonly<Record<TableUse, string>> = {
  rows: 'as rows to measure',
  targets: 'as targets',
  lookup: 'as a lookup',
  other: 'for nothing yet',
};

export const columns: EditKinds<TableEdit> = {
  'remove-column': {
    say: ({ column }) => `remove ${column}`,
    apply: (draft, { table, column }, names) => {
      const entry = draft.tables.find(({ id }) => id === table);
      const known = names.facts(table);
      if (!entry) return;
      const isComputed = entry.derived?.some(({ name }) => name === column) === true;
      if (!isComputed && (!known?.columns.has(column) || isLookedUp(known, column))) return;
      const users = usersOfColumn(original(draft) as Report, table, column, names);
      if (known?.date === column && !users.includes('the rows’ date')) users.unshift('the rows’ date');
      refuseUsers(table, column, users);
      if (isComputed) {
        entry.derived = entry.derived!.filter(({ name }) => name !== column);
        if (entry.derived.length === 0) delete entry.derived;
        if (entry.columns?.some(({ name }) => name === column))
          entry.columns = entry.columns.filter(({ name }) => name !== column);
        return;
      }
      const said = entry.columns?.find(({ name }) => name === column);
      if (said) said.out = true;
      else entry.columns = [...(entry.columns ?? []), { name: column, out: true }];
    },
  },

  'put-column-back': {
    say: ({ column }) => `put ${column} back`,
    apply: (draft, { table, column }) => {
      const entry = draft.tables.find(({ id }) => id === table);
      const said = entry?.columns?.find(({ name }) => name === column);
      if (!entry || !said?.out) return;
      delete said.out;
      // Nothing else was said of it.
      if (Object.keys(said).length > 1) return;
      entry.columns = entry.columns!.filter(({ name }) => name !== column);
      if (entry.columns.length === 0) delete entry.columns;
    },
  },

  'rename-table': {
    say: ({ table }) => `rename the table ${table}`,
    apply: (draft, { table, name }) => {
      const others = draft.tables.map(({ id }) => id).filter((id) => id !== table);
      if (others.length === draft.tables.length) return;
      refuseTaken('table', name, others);
      followTable(draft, table, name);
    },
  },

  'remove-table': {
    say: ({ table }) => `remove the table ${table}`,
    apply: (draft, { table }, names) => removeTable(draft, table, names),
  },

  'put-together': {
    say: ({ entry, gone }) => `put ${listed(gone, 'and')} under ${entry.id}`,
    apply: (draft, { entry, gone }, names) => {
      const at = draft.tables.findIndex(({ id }) => id === entry.id);
      if (at < 0) return;
      draft.tables[at] = structuredClone(entry) as ReportDraft['tables'][number];
      for (const table of gone) if (table !== entry.id) removeTable(draft, table, names);
    },
  },

  'rename-column': {
    say: ({ column }) => `rename ${column}`,
    apply: (draft, { table, column, to }, names) => {
      const entry = draft.tables.find(({ id }) => id === table);
      const known = names.facts(table);
      if (!entry || !known?.columns.has(column) || column === to) return;
      if (isLookedUp(known, column))
        throw new Problem(
          'looked-up',
          `“${column}” is looked up in another table`,
          { in: `table ${table}` },
          'rename it there',
        );
      refuseTaken(
        'column',
        to,
        [...known.columns.keys(), ...leftOutOf(entry)].filter((name) => name !== column),
      );
      const derived = entry.derived?.find(({ name }) => name === column);
      followColumn(draft, table, column, to, names);
      if (derived) {
        derived.name = to;
        return;
      }
      if (entry.long?.name === column) {
        entry.long.name = to;
        return;
      }
      let said = entry.columns?.find(({ name }) => name === to);
      if (!said) {
        entry.columns = [...(entry.columns ?? []), { name: to }];
        said = entry.columns.at(-1)!;
      }
      said.header ??= column;
      if (said.header === to) delete said.header;
    },
  },

  'remove-lookup': {
    say: ({ join: { to } }) => `look nothing up in ${to}`,
    apply: (draft, { table, join }, names) => {
      const entry = draft.tables.find(({ id }) => id === table);
      if (!entry) return;
      refuseInUse(original(draft) as Report, table, join, names);
      dropLookups(entry, isSameLookup(join));
    },
  },

  'use-table': {
    say: ({ table, use }) => `use ${table} ${USES[use]}`,
    apply: (draft, { table, use, join }, names) => {
      const report = original(draft) as Report;
      const known = names.facts(table);
      const now = useOf(report, table);
      if (now === use || !known) return;
      const lookedUp = new Set(known.joined?.flatMap((one) => one.names.map(({ name }) => name)));
      const numbers = [...known.columns].flatMap(([name, kind]) => {
        if (lookedUp.has(name)) return [];
        const unit = known.units?.get(name);
        return kind === 'number' ? [{ name, ...(unit ? { unit } : {}) }] : [];
      });
      const inUse = (kind: Named, name: string) => {
        const { figures, looks } = usageOf(report, names.vocabulary, kind, name);
        const users = report.figures.filter(({ id }) => figures.includes(id) || looks.includes(id));
        refuseUsers(
          table,
          name,
          users.map(({ brief }) => `the figure “${brief}”`),
        );
      };
      const measures = report.measures.filter((one) => one.table === table).map(({ name }) => name);
      const benchmarks = report.benchmarks.flatMap((one) =>
        one.kind === 'table' && one.table === table ? [one.name] : [],
      );
      for (const name of measures) inUse('measure', name);
      for (const name of benchmarks) inUse('benchmark', name);
      takeOut(draft, { measures, benchmarks }, names);
      for (const entry of draft.tables) {
        for (const one of entry.joins ?? []) if (one.to === table) refuseInUse(report, entry.id, one, names);
        dropLookups(entry, ({ to }) => to === table);
      }
      if (use === 'targets')
        draft.benchmarks.push(
          ...(targetsFrom(
            table,
            numbers.map(({ name }) => name),
            draft.benchmarks as readonly Benchmark[],
          ) as ReportDraft['benchmarks']),
        );
      if (use === 'rows')
        for (const column of numbers) {
          const taken = draft.measures.map(({ name }) => name.toLowerCase());
          const name = taken.includes(column.name.toLowerCase()) ? `${table} ${column.name}` : column.name;
          if (!taken.includes(name.toLowerCase()))
            draft.measures.push({ ...measureOf(table, column), name } as ReportDraft['measures'][number]);
        }
      if (use === 'lookup' && join) addLookup(draft, join.table, join.join);
    },
  },

  'read-as': {
    say: ({ same }) => {
      const pairs = Object.entries(same);
      const [first] = pairs;
      if (pairs.length !== 1 || !first) return 'match names';
      return first[1] === null ? `read ${first[0]} as it is written` : `read ${first[0]} as ${first[1]}`;
    },
    apply: (draft, { table, column, same }, names) => {
      const entry = draft.tables.find(({ id }) => id === table);
      if (!entry) return;
      const of: Record<string, string> = { ...entry.same?.[column] };
      for (const [member, meant] of Object.entries(same)) {
        if (meant === null || meant === member) delete of[member];
        else of[member] = meant;
      }
      const others = Object.fromEntries(Object.entries(entry.same ?? {}).filter(([name]) => name !== column));
      const all = Object.keys(of).length > 0 ? { ...others, [column]: of } : others;
      if (Object.keys(all).length > 0) entry.same = all;
      else delete entry.same;
      followMembers(draft, table, column, same, names);
    },
  },
};

/** Takes a table away with everything that rests on it. */
function removeTable(draft: ReportDraft, table: string, names: Names): void {
  const report = current(draft) as Report;
  const isIn = (id: string, field: string) => names.facts(id)?.columns.has(field) === true;
  const isGone = (field: string) =>
    isIn(table, field) && !report.tables.some(({ id }) => id !== table && isIn(id, field));
  for (const { id, joins = [] } of report.tables)
    for (const join of joins) if (join.to === table) refuseInUse(report, id, join, names);
  takeOut(
    draft,
    {
      measures: report.measures.filter((one) => one.table === table).map(({ name }) => name),
      benchmarks: report.benchmarks
        .filter(
          (one) =>
            ((one.kind === 'table' || one.kind === 'expression') && one.table === table) ||
            (one.kind === 'fixed' && one.per.some(isGone)),
        )
        .map(({ name }) => name),
    },
    names,
  );
  draft.tables = draft.tables.filter(({ id }) => id !== table);
  // Without its rates amounts are what they are in their rows, which is told.
  for (const one of [...draft.measures, ...draft.benchmarks])
    if ('currency' in one && one.currency?.rates === table) delete one.currency;
  for (const entry of draft.tables) dropLookups(entry, ({ to }) => to === table);
  for (const page of draft.pages)
    if (page.filters.some(({ field }) => isGone(field)))
      page.filters = page.filters.filter(({ field }) => !isGone(field));
}

function refuseUsers(table: string, column: string, users: readonly string[]): void {
  if (users.length > 0)
    throw new Problem(
      'in-use',
      `“${column}” is used by ${users.slice(0, 4).join(', ')}${users.length > 4 ? ` and ${users.length - 4} more` : ''}`,
      { in: `table ${table}` },
      'change or remove them first',
    );
}

/** Throws a `Problem` where something uses a column that a lookup brings. */
function refuseInUse(report: Report, table: string, join: Pick<Joining, 'columns' | 'to'>, names: Names): void {
  for (const one of names.facts(table)?.joined ?? [])
    if (isSameLookup(join)(one))
      for (const { name } of one.names) refuseUsers(table, name, usersOfColumn(report, table, name, names));
}

const isSameLookup = (join: Pick<Joining, 'columns' | 'to'>) => (one: Pick<Joining, 'columns' | 'to'>) =>
  one.to === join.to && one.columns.join('\n') === join.columns.join('\n');

const isLookedUp = ({ joined = [] }: Pick<TableFacts, 'joined'>, column: string) =>
  joined.some(({ names }) => names.some(({ name }) => name === column));

/** Columns of the file that are left out. */
const leftOutOf = ({ columns = [] }: Pick<ReportDraft['tables'][number], 'columns'>) =>
  columns.flatMap(({ name, out }) => (out ? [name] : []));
