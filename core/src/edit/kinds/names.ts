import { original } from 'mutative';
import { briefOrNull, readBrief, writeBrief, writeView, type Brief, type View, type Vocabulary } from '../../brief';
import { withNames } from '../../form';
import { Problem } from '../../problem';
import {
  BUILT_IN_BENCHMARKS,
  measureOf,
  STANDING_HIGHLIGHT,
  targetsFrom,
  useOf,
  type Benchmark,
  type Named,
  type Report,
  type TableUse,
} from '../../report';
import type { Joining } from '../../table';
import type { EditKinds, NamedEdit, Names, ReportDraft } from '../edit';
import { followColumn, followMembers } from '../columns';
import { usersOfColumn } from '../columnUse';
import { addLookup } from '../lookups';
import { withMeasure } from '../columnIds';
import { refuseTaken } from '../taken';
import { takeOut } from '../takeOut';
import { usageOf, uses } from '../usage';

/** What a table is for, as undoing names it. */
const USES: Readonly<Record<TableUse, string>> = {
  rows: 'as rows to measure',
  targets: 'as targets',
  lookup: 'as a lookup',
  other: 'for nothing yet',
};

/** Edits that have to know which names there are: what they change is followed to every place that uses it. */
export const names: EditKinds<NamedEdit> = {
  rename: {
    say: ({ from }) => `rename ${from}`,
    apply: (draft, { kind, from, to }, { vocabulary }) => {
      const report = original(draft) as Report;
      const known = namesOf(report, kind);
      if (!known.includes(from)) throw gone(kind, from);
      const taken = [...known.filter((name) => name !== from), ...OWN[kind]];
      refuseTaken(kind, to, taken);
      rename(draft, kind, from, to, vocabulary);
    },
  },

  remove: {
    say: ({ name }) => `remove ${name}`,
    apply: (draft, { kind, name }, known) => {
      if (!namesOf(original(draft) as Report, kind).includes(name)) throw gone(kind, name);
      takeOut(draft, { [`${kind}s`]: [name] }, known);
    },
  },

  'remove-column': {
    say: ({ column }) => `remove ${column}`,
    apply: (draft, { table, column }, names) => {
      const entry = draft.tables.find(({ id }) => id === table);
      if (!entry?.derived) return;
      refuseUsers(table, column, usersOfColumn(original(draft) as Report, table, column, names));
      entry.derived = entry.derived.filter(({ name }) => name !== column);
      if (entry.derived.length === 0) delete entry.derived;
      if (entry.columns?.some(({ name }) => name === column))
        entry.columns = entry.columns.filter(({ name }) => name !== column);
    },
  },

  'remove-table': {
    say: ({ table }) => `remove the table ${table}`,
    apply: (draft, { table }, names) => {
      const report = original(draft) as Report;
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
      for (const entry of draft.tables) dropLookups(entry, ({ to }) => to === table);
      for (const page of draft.pages)
        if (page.filters.some(({ field }) => isGone(field)))
          page.filters = page.filters.filter(({ field }) => !isGone(field));
    },
  },

  'rename-column': {
    say: ({ column }) => `rename ${column}`,
    apply: (draft, { table, column, to }, names) => {
      const entry = draft.tables.find(({ id }) => id === table);
      const known = names.facts(table);
      if (!entry || !known?.columns.has(column) || column === to) return;
      if (known.joined?.some((join) => join.names.some(({ name }) => name === column)))
        throw new Problem(
          'looked-up',
          `“${column}” is looked up in another table`,
          { in: `table ${table}` },
          'rename it there',
        );
      refuseTaken(
        'column',
        to,
        [...known.columns.keys()].filter((name) => name !== column),
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
          if (!taken.includes(name.toLowerCase())) draft.measures.push({ ...measureOf(table, column), name });
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

  'set-clauses': {
    say: () => 'change the brief',
    apply: (draft, { figure, clauses }, { vocabulary }) => {
      const entry = draft.figures.find(({ id }) => id === figure);
      if (!entry) return;
      const text = writeBrief({ ...readBrief(entry.brief, vocabulary), ...clauses }, vocabulary);
      // Reading it back refuses what cannot be written, before it reaches the report.
      readBrief(text, vocabulary);
      if (text !== entry.brief) entry.brief = text;
    },
  },

  'narrow-figures': {
    say: () => 'the same rows in all figures',
    apply: (draft, { only }, { vocabulary, facts }) => {
      const { measures } = original(draft) as Report;
      for (const figure of draft.figures) {
        // One that cannot be read, or whose table lacks one of the fields, keeps its own.
        const brief = briefOrNull(figure.brief, vocabulary);
        const table = brief && measures.find(({ name }) => name === brief.views[0]!.measure)?.table;
        const known = table ? facts(table)?.columns : undefined;
        if (brief && known && only.every(({ field }) => known.has(field)))
          figure.brief = writeBrief({ ...brief, only }, vocabulary);
      }
    },
  },
};

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

function dropLookups(entry: ReportDraft['tables'][number], isGone: (join: Joining) => boolean): void {
  if (!entry.joins?.some(isGone)) return;
  const left = entry.joins.filter((join) => !isGone(join));
  if (left.length > 0) entry.joins = left;
  else delete entry.joins;
}

const gone = (kind: Named, name: string) =>
  new Problem(
    'unknown-name',
    `there is no ${kind} “${name}” any more`,
    undefined,
    'it may have been renamed or removed',
  );

/** Names that are there without being defined. */
const OWN: Readonly<Record<Named, readonly string[]>> = {
  measure: [],
  benchmark: BUILT_IN_BENCHMARKS.map(({ name }) => name),
  highlight: [STANDING_HIGHLIGHT],
  ruler: [],
};

function namesOf(report: Report, kind: Named): readonly string[] {
  switch (kind) {
    case 'measure':
      return report.measures.map(({ name }) => name);
    case 'benchmark':
      return report.benchmarks.map(({ name }) => name);
    case 'highlight':
      return report.highlights.map(({ name }) => name);
    case 'ruler':
      return report.rulers.map(({ id }) => id);
  }
}

function rename(draft: ReportDraft, kind: Named, from: string, to: string, vocabulary: Vocabulary): void {
  const replace = (all: readonly string[], of: Named) =>
    of === kind ? all.map((name) => (name === from ? to : name)) : all;
  const after: Vocabulary = {
    ...vocabulary,
    measures: replace(vocabulary.measures, 'measure'),
    benchmarks: replace(vocabulary.benchmarks, 'benchmark'),
    highlights: replace(vocabulary.highlights, 'highlight'),
    rulers: replace(vocabulary.rulers, 'ruler'),
  };
  // The words of other names may need quotes beside the new name, and none without the old one.
  for (const figure of draft.figures) {
    const brief = briefOrNull(figure.brief, vocabulary);
    const look = relooked(figure.look, kind, from, to, brief);
    if (look !== figure.look) figure.look = look;
    if (!brief) continue;
    if (uses(brief, kind, from)) figure.brief = writeBrief(renamedIn(brief, kind, from, to), after);
    else if (JSON.stringify(briefOrNull(figure.brief, after)) !== JSON.stringify(brief))
      figure.brief = writeBrief(brief, after);
  }
  for (const one of draft.measures) if (kind === 'measure' && one.name === from) one.name = to;
  for (const one of draft.highlights) if (kind === 'highlight' && one.name === from) one.name = to;
  for (const one of draft.rulers) if (kind === 'ruler' && one.id === from) one.id = to;
  for (const one of draft.benchmarks) {
    if (kind === 'benchmark' && one.name === from) one.name = to;
    if (kind === 'benchmark' && one.kind === 'scaled' && one.of === from) one.of = to;
  }
  for (const one of draft.accepted ?? []) if (one.about === kind && one.id === from) one.id = to;
}

function renamedIn(brief: Brief, kind: Named, from: string, to: string): Brief {
  switch (kind) {
    case 'measure':
      return { ...brief, views: brief.views.map((view) => renamedView(view, from, to)) };
    case 'benchmark':
      return { ...brief, against: to };
    case 'highlight':
      return { ...brief, lit: to };
    case 'ruler':
      return { ...brief, ruler: to };
  }
}

const renamedView = (view: View, from: string, to: string): View =>
  view.measure === from ? { ...view, measure: to } : view;

/** A look names measures and benchmarks, and columns by their views. */
function relooked<L extends object>(look: L, kind: Named, from: string, to: string, brief: Brief | null): L {
  // Columns that the brief does not have now are followed, too: it may have them again.
  const shown = new Set(brief?.views.map((view) => writeView(view)));
  return withNames(look, (name, of) => {
    if (of === kind) return name === from ? to : name;
    if (of !== 'column') return name;
    const view = brief?.views.find((one) => writeView(one) === name);
    if (kind === 'measure') return view ? writeView(renamedView(view, from, to)) : withMeasure(name, from, to);
    return kind === 'benchmark' && name === from && !shown.has(from) ? to : name;
  });
}
