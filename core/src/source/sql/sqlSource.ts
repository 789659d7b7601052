import type { FiscalCalendar } from '../../calendar';
import type { Groups, Source } from '../../query';
import { tableIn } from '../tableIn';
import { leafOf } from './conditions';
import { Bindings } from './database';
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
        overSameRows(queries).map(async (places) => {
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
      const bindings = new Bindings();
      const name = `coalesce(${textOf(leafOf(table, field, bindings))}, '')`;
      const [part, asTyped] = [search.toLowerCase(), search].map((text) => bindings.bind(text, 'text'));
      const text = `select ${name} from ${table.from} where ${name} <> '' and (position(${part} in lower(${name})) > 0 or position(${asTyped} in ${name}) > 0) group by 1 order by 1 limit ${Math.max(0, Math.floor(most))}`;
      return (await table.database.ask({ text, values: bindings.values })).map(([found]) => found!);
    },
    async profile(id) {
      return profileOf(tableAt(id), await knownOf(id));
    },
    async extract(part) {
      return extractOf(tableAt(part.table), part.columns, part.span);
    },
  };
}
