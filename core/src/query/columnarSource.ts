import type { FiscalCalendar, Span } from '../calendar';
import { knownSpan, NO_DATA, type Table } from '../table';
import { columnTypes } from './derived';
import type { Groups, Query, Source, TableFacts } from './query';
import { scan } from './scan';

/** How many answers are kept; a page of figures asks the same of its tables again and again. */
const KEPT_ANSWERS = 64;

/** Answers queries from typed columns in memory. */
export function columnarSource(tables: ReadonlyMap<string, Table>, calendar: FiscalCalendar): Source {
  const facts = new Map<string, TableFacts>();
  const spans = new Map<string, Span | null>();
  const answers = new Map<string, Groups>();
  return {
    facts(id) {
      const table = tables.get(id);
      if (!table) return undefined;
      let known = facts.get(id);
      if (!known) {
        known = {
          id,
          columns: columnTypes(table),
          date: table.date,
          grain: table.grain,
          orders: table.orders,
          // Titles, totals and notes are no data that a figure lacks.
          leftOut: table.leftOutCounts.filter(({ reason }) => !NO_DATA.has(reason)),
        };
        facts.set(id, known);
      }
      return known;
    },
    span(id, columns) {
      const key = JSON.stringify([id, columns]);
      let span = spans.get(key);
      if (span === undefined)
        spans.set(key, (span = tables.has(id) ? knownSpan(tables.get(id)!, calendar, columns) : null));
      return span;
    },
    async groups(query: Query) {
      const key = JSON.stringify(query);
      let answer = answers.get(key);
      if (!answer) {
        answer = scan(tables.get(query.table)!, query, calendar);
        if (answers.size >= KEPT_ANSWERS) answers.delete(answers.keys().next().value!);
        answers.set(key, answer);
      }
      return answer;
    },
  };
}
