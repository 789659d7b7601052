import type { FiscalCalendar } from '../../calendar';
import type { Groups, Source } from '../../query';
import { tableIn } from '../tableIn';
import { leafOf } from './conditions';
import { textOf } from './expression';
import { groupsOf, overSameRows } from './groups';
import { keptAnswers } from './kept';
import { lookAt, spanOf, type Known } from './lookAt';
import { extractOf, profileOf, rowsOf } from './rows';
import type { TableInSql } from './tableInSql';

/** Answers queries by asking databases, all of one moment together: one statement for those over the same rows. */
export function sqlSource(tables: ReadonlyMap<string, TableInSql>, calendar: FiscalCalendar): Source {
  const known = new Map<string, Promise<Known>>();
  const kept = new Map([...tables].map(([id, { database }]) => [id, keptAnswers(database.keep)]));
  const tableAt = (id: string): TableInSql => tableIn(tables, id);
  const knownOf = (id: string): Promise<Known> => {
    let found = known.get(id);
    if (!found) {
      found = lookAt(tableAt(id), calendar);
      known.set(id, found);
      // What could not be told may be asked again.
      found.catch(() => known.delete(id));
    }
    return found;
  };
  return {
    async facts() {
      const all = await Promise.all([...tables.keys()].map(async (id) => [id, (await knownOf(id)).facts] as const));
      return new Map(all);
    },
    spans: (asked) =>
      Promise.all(
        asked.map(async ({ table, columns }) => {
          const at = tables.get(table);
          return at ? spanOf(at, await knownOf(table), columns, calendar) : null;
        }),
      ),
    async groups(queries, signal) {
      const answers: Groups[] = [];
      const open: number[] = [];
      queries.forEach((query, q) => {
        const answer = kept.get(query.table)?.of(query);
        if (answer) answers[q] = answer;
        else open.push(q);
      });
      const together = overSameRows(
        open.map((q) => queries[q]!),
        (id) => tableAt(id).database.dialect,
      );
      await Promise.all(
        together.map(async (some) => {
          const places = some.map((place) => open[place]!);
          const { table } = queries[places[0]!]!;
          const found = await groupsOf(
            tableAt(table),
            await knownOf(table),
            places.map((place) => queries[place]!),
            signal,
          );
          places.forEach((place, i) => {
            answers[place] = found[i]!;
            kept.get(table)!.keep(queries[place]!, found[i]!);
          });
        }),
      );
      return answers;
    },
    async rows(behind, page, signal) {
      return rowsOf(tableAt(behind.table), behind, page, signal);
    },
    async members(id, field, search, most, signal) {
      const table = tableAt(id);
      const w = table.database.dialect.begin();
      const name = `coalesce(${textOf(leafOf(table, field, w), w)}, '')`;
      const first = w.grouped([name], [1]);
      const text = `select ${name} from ${table.from} where ${name} <> '' and ${w.holds(name, search.toLowerCase(), search)} group by ${first} order by ${first}${w.page(Math.max(0, most), 0)}`;
      return (await table.database.ask({ text, values: w.values }, signal)).map(([found]) => found!);
    },
    async profile(id, signal) {
      return profileOf(tableAt(id), await knownOf(id), signal);
    },
    async extract(part, signal) {
      return extractOf(tableAt(part.table), part.columns, part.span, signal);
    },
  };
}
