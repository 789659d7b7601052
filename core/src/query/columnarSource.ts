import type { FiscalCalendar } from '../calendar';
import { columnOf, farDays, knownSpan, NO_DATA, periodCalendar, spanKey, type KnownSpan, type Table } from '../table';
import { columnTypes } from './derived';
import type { Groups, Query, Source, TableFacts } from './query';
import { rollupOf } from './rollup';
import { scan } from './scan';

/** How many answers are kept; a page of figures asks the same of its tables again and again. */
const KEPT_ANSWERS = 256;
const KEPT_ROLLUPS = 96;
/** Roll-ups of no more possible groups than this cost what the query itself costs. */
const FEW_GROUPS = 1 << 14;

/** Answers queries from typed columns in memory. */
export function columnarSource(tables: ReadonlyMap<string, Table>, calendar: FiscalCalendar): Source {
  const facts = new Map<string, TableFacts>();
  const spans = new Map<string, KnownSpan | null>();
  const answers = new Map<string, Groups>();
  const rollups = new Map<string, Groups | 'asked once' | 'of no use'>();

  function answerTo(query: Query): Groups {
    const table = tables.get(query.table)!;
    const rollup = rollupOf(query);
    if (!rollup) return scan(table, query, calendar);
    const key = keyOfQuery(rollup.query);
    const known = rollups.get(key);
    // A large one is made when a query that differs in members only comes for the second time.
    const isWorthIt =
      known === 'asked once' || (known === undefined && possibleGroups(table, rollup.query) <= FEW_GROUPS);
    if (known === 'of no use' || (typeof known !== 'object' && !isWorthIt)) {
      if (!known) keep(rollups, KEPT_ROLLUPS, key, 'asked once');
      return scan(table, query, calendar);
    }
    const rolled = typeof known === 'object' ? known : scan(table, rollup.query, calendar);
    const answer = rollup.answer(rolled);
    if (rolled !== known) keep(rollups, KEPT_ROLLUPS, key, answer ? rolled : 'of no use');
    return answer ?? scan(table, query, calendar);
  }

  return {
    facts(id) {
      const table = tables.get(id);
      if (!table) return undefined;
      let known = facts.get(id);
      if (!known) {
        const date = table.date === null ? undefined : columnOf(table, table.date);
        known = {
          id,
          columns: columnTypes(table),
          date: table.date,
          grain: table.grain,
          periods: date?.kind === 'date' ? periodCalendar(date, calendar) : calendar,
          orders: table.orders,
          // Titles, totals and notes are no data that a figure lacks.
          far: farDays(table),
          tooLarge: table.columns.flatMap((column) =>
            column.kind === 'number' && column.tooLarge ? [column.name] : [],
          ),
          leftOut: table.leftOutCounts.filter(({ reason }) => !NO_DATA.has(reason)),
        };
        facts.set(id, known);
      }
      return known;
    },
    span(id, columns) {
      const key = `${id}\u0000${spanKey(columns)}`;
      let span = spans.get(key);
      if (span === undefined)
        spans.set(key, (span = tables.has(id) ? knownSpan(tables.get(id)!, calendar, columns) : null));
      return span;
    },
    async groups(query: Query) {
      const key = keyOfQuery(query);
      let answer = answers.get(key);
      if (!answer) {
        answer = answerTo(query);
        keep(answers, KEPT_ANSWERS, key, answer);
      }
      return answer;
    },
  };
}

/** Remembers; the oldest is forgotten. */
function keep<T>(known: Map<string, T>, most: number, key: string, value: T): void {
  if (known.size >= most && !known.has(key)) known.delete(known.keys().next().value!);
  known.set(key, value);
}

/** Where in a text an aggregate stands makes no other query. */
function keyOfQuery(query: Query): string {
  return JSON.stringify(query, (key, value: unknown) => (key === 'at' ? undefined : value));
}

const DAYS = { day: 1, week: 7, month: 28, quarter: 90, year: 365 } as const;

/** No more groups than these can a query have. */
function possibleGroups(table: Table, { by, grain, span }: Query): number {
  const steps = grain === null ? 1 : span ? (span.to - span.from) / DAYS[grain] + 2 : Infinity;
  return by.reduce((product, field) => {
    const column = columnOf(table, field);
    return product * (column?.kind === 'text' ? column.members.length : Infinity);
  }, steps);
}
