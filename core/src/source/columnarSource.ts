import type { FiscalCalendar } from '../calendar';
import { keyOfQuery, type Groups, type Query, type Source } from '../query';
import {
  codedField,
  cellText,
  columnOf,
  factsIn,
  knownSpan,
  profileTable,
  unknownColumn,
  type FactsOf,
  type FieldsProfile,
  type Table,
} from '../table';
import { rollupOf } from './rollup';
import { tableIn } from './tableIn';
import { rowsBehind } from './rows';
import { scan, scanTogether } from './scan';
import type { ScanHelper } from './vector';

/** How many answers are kept; a page of figures asks the same of its tables again and again. */
const KEPT_ANSWERS = 256;
const KEPT_ROLLUPS = 96;
/** Roll-ups of no more possible groups than this cost what the query itself costs. */
const FEW_GROUPS = 1 << 14;

/** A source whose tables are at hand, so that its facts are known without asking. */
export interface ColumnarSource extends Source {
  readonly factsAt: FactsOf;
}

/**
 * Answers queries from typed columns in memory.
 * @param helpers other threads, for tables whose columns they share
 */
export function columnarSource(
  tables: ReadonlyMap<string, Table>,
  calendar: FiscalCalendar,
  helpers: readonly ScanHelper[] = [],
): ColumnarSource {
  const profiles = new Map<string, FieldsProfile>();
  const answers = new Map<string, Groups>();
  const rollups = new Map<string, Groups | 'asked once' | 'of no use'>();

  async function answerTo(query: Query): Promise<Groups> {
    const table = tables.get(query.table)!;
    const scanned = (asked: Query) =>
      helpers.length === 0 ? scan(table, asked, calendar) : scanTogether(table, asked, calendar, helpers);
    const rollup = rollupOf(query);
    if (!rollup) return scanned(query);
    const key = keyOfQuery(rollup.query);
    const known = rollups.get(key);
    // A large one is made when a query that differs in members only comes for the second time.
    const isWorthIt =
      known === 'asked once' || (known === undefined && possibleGroups(table, rollup.query) <= FEW_GROUPS);
    if (known === 'of no use' || (typeof known !== 'object' && !isWorthIt)) {
      if (!known) keep(rollups, KEPT_ROLLUPS, key, 'asked once');
      return scanned(query);
    }
    const rolled = typeof known === 'object' ? known : await scanned(rollup.query);
    const answer = rollup.answer(rolled);
    if (rolled !== known) keep(rollups, KEPT_ROLLUPS, key, answer ? rolled : 'of no use');
    return answer ?? scanned(query);
  }

  const tableAt = (id: string): Table => tableIn(tables, id);
  const factsAt = factsIn(tables, calendar);

  return {
    factsAt,
    async facts() {
      return new Map([...tables.keys()].map((id) => [id, factsAt(id)!]));
    },
    async spans(asked) {
      return asked.map(({ table, columns }) => {
        const at = tables.get(table);
        return at ? knownSpan(at, calendar, columns) : null;
      });
    },
    async groups(queries) {
      const all: Groups[] = [];
      for (const query of queries) {
        const key = keyOfQuery(query);
        let answer = answers.get(key);
        if (!answer) {
          tableAt(query.table);
          answer = await answerTo(query);
          keep(answers, KEPT_ANSWERS, key, answer);
        }
        all.push(answer);
      }
      return all;
    },
    async rows(behind, { from, count }) {
      const table = tableAt(behind.table);
      const found = rowsBehind(table, behind);
      return {
        rows: found.length,
        columns: table.columns.map(({ name, kind }) => ({ name, kind })),
        lines: found.slice(from, from + count).map((row) => table.columns.map((column) => cellText(column, row))),
      };
    },
    async members(id, field, search, most) {
      const wanted = search.toLowerCase();
      const column = columnOf(tableAt(id), field);
      if (!column) throw unknownColumn(field, [...factsAt(id)!.columns.keys()], id);
      const found: string[] = [];
      for (const name of codedField(column).members.slice(1))
        if (name.toLowerCase().includes(wanted) && found.push(name) >= most) break;
      return found;
    },
    async extract({ table }) {
      return tableAt(table);
    },
    async profile(id) {
      const table = tableAt(id);
      let profile = profiles.get(id);
      // Several places of an interface ask for the profile of the same table.
      if (!profile) profiles.set(id, (profile = profileTable(table, id)));
      return profile;
    },
  };
}

/** Remembers; the oldest is forgotten. */
function keep<T>(known: Map<string, T>, most: number, key: string, value: T): void {
  if (known.size >= most && !known.has(key)) known.delete(known.keys().next().value!);
  known.set(key, value);
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
