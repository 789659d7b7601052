import type { FiscalCalendar } from '../../calendar';
import type { Groups, Source } from '../../query';
import { tableIn } from '../tableIn';
import { leafOf } from './conditions';
import { textOf } from './expression';
import { groupsOf, overSameRows } from './groups';
import { lookAt, spanOf, type Known } from './lookAt';
import { extractOf, profileOf, rowsOf } from './rows';
import type { TableInSql } from './tableInSql';

/** Answers queries by asking databases, all of one moment together: one statement for those over the same rows. */
export function sqlSource(tables: ReadonlyMap<string, TableInSql>, calendar: FiscalCalendar): Source {
  const known = new Map<string, Promise<Known>>();
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
    async groups(queries) {
      const answers: Groups[] = [];
      await Promise.all(
        overSameRows(queries, (id) => tableAt(id).database.dialect).map(async (places) => {
          const { table } = queries[places[0]!]!;
          const found = await groupsOf(
            tableAt(table),
            await knownOf(table),
            places.map((place) => queries[place]!),
          );
          places.forEach((place, i) => (answers[place] = found[i]!));
        }),
      );
      return answers;
    },
    async rows(behind, page) {
      return rowsOf(tableAt(behind.table), behind, page);
    },
    async members(id, field, search, most) {
      const table = tableAt(id);
      const w = table.database.dialect.begin();
      const name = `coalesce(${textOf(leafOf(table, field, w), w)}, '')`;
      const first = w.grouped([name], [1]);
      const text = `select ${name} from ${table.from} where ${name} <> '' and ${w.holds(name, search.toLowerCase(), search)} group by ${first} order by ${first}${w.page(Math.max(0, most), 0)}`;
      return (await table.database.ask({ text, values: w.values })).map(([found]) => found!);
    },
    async profile(id) {
      return profileOf(tableAt(id), await knownOf(id));
    },
    async extract(part) {
      return extractOf(tableAt(part.table), part.columns, part.span);
    },
  };
}
