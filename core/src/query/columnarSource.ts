import type { FiscalCalendar } from '../calendar';
import { knownSpan, type Table } from '../table';
import { columnTypes } from './derived';
import type { Groups, Query, Source, TableFacts } from './query';
import { scan } from './scan';

/** How many answers are kept; a page of figures asks the same of its tables again and again. */
const KEPT_ANSWERS = 64;

/** Answers queries from typed columns in memory. */
export function columnarSource(tables: ReadonlyMap<string, Table>, calendar: FiscalCalendar): Source {
  const facts = new Map<string, TableFacts>();
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
          span: knownSpan(table, calendar),
          orders: table.orders,
          leftOut: table.leftOutCounts,
        };
        facts.set(id, known);
      }
      return known;
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
