import type { FiscalCalendar, Grain } from '../calendar';
import type { Decimals } from '../number';
import { columnOf, NO_DATA, type ColumnKind, type Joined, type KnownSpan, type Table, type Told } from './column';
import { duplicatesIn, type Duplicates } from './duplicates';
import { farDays, type FarDays } from './farDays';
import { periodCalendar } from './periods';
import { lazyMap, once } from './lazily';
import { linesOf, type LinesFound } from './lines';
import { currenciesOf, ratesIn, type KnownRates } from './rates';
import { knownSpan } from './table';

/** What is known of a table without a query: asked for once, when it is opened. */
export interface TableFacts {
  readonly id: string;
  readonly rows: number;
  /** What kind of values each column has, in the table's order. */
  readonly columns: ReadonlyMap<string, ColumnKind>;
  /** The names that stand in a column of text or of yes and no, without blank; null where there are too many to be listed. */
  readonly members: ReadonlyMap<string, readonly string[] | null>;
  /** Decimals of columns of numbers; null where they are not known. */
  readonly decimals: ReadonlyMap<string, Decimals>;
  /** What stands beside the numbers of a column: `%`, or a currency. */
  readonly units?: ReadonlyMap<string, string>;
  /** Columns that are computed from others, row by row, each from those before it. */
  readonly derived: readonly { readonly name: string; readonly expression: string }[];
  /** The lookups whose columns are among these. */
  readonly joined?: readonly Joined[];
  /** Other names of columns, such as `products.family`. */
  readonly aliases?: ReadonlyMap<string, string>;
  readonly date: string | null;
  readonly grain: Grain | null;
  /** First and last day with rows. */
  readonly span: KnownSpan | null;
  /** Whose quarters and years its rows stand for: the report's, or those of calendar years. */
  readonly periods: FiscalCalendar;
  readonly orders: Readonly<Record<string, readonly string[]>>;
  readonly leftOut: readonly { readonly column: string | null; readonly reason: string; readonly count: number }[];
  /** Columns that are too large to be added up to the last digit. */
  readonly tooLarge?: readonly string[];
  /** Rows whose day lies far from all others, and the lines on which the first of them stand. */
  readonly far?: (FarDays & LinesFound) | null;
  /** Rows that are equal to one above them. */
  readonly duplicates?: Duplicates | null;
  /** Columns that tell a row from others; null for all. */
  readonly key?: readonly string[] | null;
  /** What was not as files are and is taken all the same. */
  readonly told?: readonly Told[];
  /** Columns of numbers with several currencies beside them, and which. */
  readonly severalUnits?: ReadonlyMap<string, readonly string[]>;
  /** Columns of text that hold nothing but currencies. */
  readonly currencies?: readonly string[];
  /** The rates of currencies that the table holds. */
  readonly rates?: KnownRates | null;
}

/** The facts of the table of an id; undefined where there is none. */
export type FactsOf = (table: string) => TableFacts | undefined;

/** The facts of a table that is at hand. What takes a look at all rows is found when it is asked for. */
function factsOfTable(table: Table, calendar: FiscalCalendar): TableFacts {
  const { id, rows, columns, orders, told } = table;
  const date = table.date === null ? undefined : columnOf(table, table.date);
  const span = once(() => knownSpan(table, calendar));
  const duplicates = once(() => duplicatesIn(table));
  const currencies = once(() => currenciesOf(table));
  const periods = date?.kind === 'date' ? periodCalendar(date, calendar) : calendar;
  const rates = once(() => (table.rates ? ratesIn(table, table.rates, periods) : null));
  const far = once(() => {
    const found = farDays(table);
    return found && { ...found, ...linesOf(found.rows, table) };
  });
  return {
    id,
    rows,
    columns: new Map(columns.map(({ name, kind }) => [name, kind])),
    // Computed columns have their names when they are asked for.
    members: lazyMap(
      columns.flatMap((column) =>
        column.kind === 'text' || column.kind === 'yesno'
          ? [[column.name, () => column.members.slice(1)] as const]
          : [],
      ),
    ),
    decimals: new Map(
      columns.flatMap((column) => (column.kind === 'number' ? [[column.name, column.decimals] as const] : [])),
    ),
    units: new Map(
      columns.flatMap((column) =>
        column.kind === 'number' && column.unit ? [[column.name, column.unit] as const] : [],
      ),
    ),
    severalUnits: new Map(
      columns.flatMap((column) =>
        column.kind === 'number' && column.units ? [[column.name, column.units] as const] : [],
      ),
    ),
    derived: table.derived ?? [],
    ...(table.joined ? { joined: table.joined } : {}),
    ...(table.aliases ? { aliases: table.aliases } : {}),
    date: table.date,
    grain: table.grain,
    get span() {
      return span();
    },
    periods,
    orders,
    key: table.key ?? null,
    get duplicates() {
      return duplicates();
    },
    get far() {
      return far();
    },
    tooLarge: columns.flatMap((column) => (column.kind === 'number' && column.tooLarge ? [column.name] : [])),
    // Titles, totals and notes are no data that a figure lacks.
    leftOut: table.leftOutCounts.filter(({ reason }) => !NO_DATA.has(reason)),
    ...(told ? { told } : {}),
    get currencies() {
      return currencies();
    },
    get rates() {
      return rates();
    },
  };
}

/** The facts of tables that are at hand, each found once. */
export function factsIn(tables: ReadonlyMap<string, Table>, calendar: FiscalCalendar): FactsOf {
  const known = new Map<string, TableFacts>();
  return (id) => {
    const table = tables.get(id);
    let facts = known.get(id);
    if (table && !facts) known.set(id, (facts = factsOfTable(table, calendar)));
    return facts;
  };
}
