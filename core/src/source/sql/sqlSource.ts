import type { FiscalCalendar } from '../../calendar';
import type { Aggregate } from '../../measure';
import { keyOfQuery, type Groups, type Query, type Source } from '../../query';
import { tableIn } from '../tableIn';
import { leafOf } from './conditions';
import { aggregatePiece, textOf } from './expression';
import { groupsOf, overSameRows } from './groups';
import { keptAnswers } from './kept';
import { lookAt, spanOf, type Known } from './lookAt';
import { planOf, rolledUp } from './rollUp';
import { extractOf, profileOf, rowsOf } from './rows';
import type { TableInSql } from './tableInSql';

/** Seconds that a page is thought to take, where somebody always asks. */
const MOMENT = 10;

/** Answers queries by asking databases, all of one moment together: one statement for those over the same rows. */
export function sqlSource(tables: ReadonlyMap<string, TableInSql>, calendar: FiscalCalendar): Source {
  const known = new Map<string, Promise<Known>>();
  const kept = new Map([...tables].map(([id, { database }]) => [id, keptAnswers(database.keep, calendar)]));
  /** Answers while others are on their way: figures of one page follow from one another, and agree. */
  const moment = keptAnswers(MOMENT, calendar);
  let asking = 0;
  const isExact = ({ table }: Query, aggregate: Aggregate): boolean => {
    const at = tableAt(table);
    const w = at.database.dialect.begin();
    return aggregate.fn !== 'sum' || aggregatePiece(aggregate, (name) => leafOf(at, name, w), w).decimals !== null;
  };
  const answerTo = (query: Query): Groups | null => kept.get(query.table)?.of(query) ?? moment.of(query);
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
  /** Answers from what is known, and by asking for the rest: no more than is needed. */
  async function answered(queries: readonly Query[], signal?: AbortSignal): Promise<readonly Groups[]> {
    const answers = queries.map(answerTo);
    const open = queries.flatMap((_, q) => (answers[q] ? [] : [q]));
    const { asked, from } = planOf(
      open.map((q) => queries[q]!),
      isExact,
    );
    const found = await askedAll(asked, signal);
    const lost: number[] = [];
    open.forEach((q, i) => {
      const [query, other, answer] = [queries[q]!, asked[from[i]!]!, found[from[i]!]!];
      answers[q] = keyOfQuery(query) === keyOfQuery(other) ? answer : rolledUp(query, other, answer, calendar);
      if (!answers[q]) lost.push(q);
    });
    // What cannot be added up to the last digit is asked for by itself.
    const alone = await askedAll(
      lost.map((q) => queries[q]!),
      signal,
    );
    lost.forEach((q, i) => (answers[q] = alone[i]!));
    return answers as Groups[];
  }

  async function askedAll(asked: readonly Query[], signal?: AbortSignal): Promise<readonly Groups[]> {
    const answers: Groups[] = [];
    await Promise.all(
      overSameRows(asked, (id) => tableAt(id).database.dialect).map(async (places) => {
        const { table } = asked[places[0]!]!;
        const some = places.map((place) => asked[place]!);
        const found = await groupsOf(tableAt(table), await knownOf(table), some, signal);
        places.forEach((place, i) => {
          answers[place] = found[i]!;
          kept.get(table)!.keep(asked[place]!, found[i]!);
          moment.keep(asked[place]!, found[i]!);
        });
      }),
    );
    return answers;
  }

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
      asking++;
      try {
        return await answered(queries, signal);
      } finally {
        asking--;
        // Whoever asks next because of these answers does so before this comes.
        if (asking === 0) setTimeout(() => asking === 0 && moment.clear(), 0);
      }
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
