import { completeExpression, type ExpressionCompletion } from '../measure';
import { Problem } from '../problem';
import { aggregated, dataSpan, measured, type RowsFound } from '../query';
import {
  conversionOffers,
  isInDatabase,
  isQuantity,
  type ConversionOffers,
  type CurrencyConversion,
  type Measure,
} from '../report';
import { withDerived } from '../source';
import {
  cellText,
  codeOfCurrency,
  columnOf,
  declaredOrder,
  distribution,
  inOrder,
  leftOutAmounts,
  matchTables,
  rowsPerMonth,
  type ColumnKind,
  type Distribution,
  type FieldsProfile,
  type LeftOutAmount,
  type Match,
  type RateColumns,
  type Table,
} from '../table';
import type { OpenReport } from '../workspace';

/** More members than this are not put in order by hand. */
const MOST_ORDERED = 500;

export interface ColumnDetail {
  readonly distribution: Distribution;
  /** In their order; null where there are too many. Empty for columns without members. */
  readonly members: readonly string[] | null;
}

/** What a derived column would be. */
export interface DerivedLook {
  readonly kind: ColumnKind;
  readonly blank: number;
  readonly rows: number;
  readonly headings: readonly string[];
  readonly lines: readonly (readonly string[])[];
}

/** A table of the report. Throws a `Problem` where its rows are not here, as when they lay in a bin that was emptied. */
export function tableOf({ tables, report }: OpenReport, id: string): Table {
  const table = tables.get(id);
  if (table) return table;
  const entry = report.tables.find((one) => one.id === id);
  if (entry && isInDatabase(entry))
    throw new Problem('in-database', `the rows of “${id}” stay in the database “${entry.source.database}”`);
  throw new Problem(
    'rows-gone',
    `the rows of “${id}” are not kept any more`,
    undefined,
    'choose their file once more, or remove the table',
  );
}

/** Amounts in several currencies, and how each that is added up would be converted, where there are rates. */
export interface SeveralCurrencies {
  readonly codes: readonly string[];
  /** The column that says each row's currency; or the one whose cells have the currency beside the number, which cannot be converted. */
  readonly by: { readonly column: string; readonly isBeside: boolean };
  readonly amounts: readonly {
    readonly kind: 'measure' | 'benchmark';
    readonly name: string;
    readonly currency: CurrencyConversion | null;
    readonly rates: RateColumns | null;
    /** Nothing says which currency the rates are to. */
    readonly isGuess: boolean;
  }[];
}

/** Questions about tables and their columns. */
export const data = {
  /** Rows of a table as it keeps them, some from a place on: also of one whose rows are elsewhere. */
  rowsFrom(desk: OpenReport, tableId: string, from: number, count: number): Promise<RowsFound> {
    return desk.source.rows({ table: tableId, span: null, where: [] }, { from, count });
  },

  /** What was left out of a table, and what stands beside it in the first number its measures read. */
  leftOut(desk: OpenReport, tableId: string): { of: string | null; amounts: LeftOutAmount[] } {
    const table = tableOf(desk, tableId);
    const read = desk.report.measures
      .filter((measure) => measure.table === tableId)
      .map(({ expression }) => expression);
    const numbers = table.columns.filter(({ kind }) => kind === 'number').map(({ name }) => name);
    const of = numbers.find((name) => read.some((text) => text.includes(name))) ?? numbers[0] ?? null;
    return { of, amounts: leftOutAmounts(table, of) };
  },

  async profile(desk: OpenReport, tableId: string): Promise<FieldsProfile> {
    if (!desk.source.facts(tableId)) tableOf(desk, tableId);
    const file = desk.report.tables.find(({ id }) => id === tableId)?.source.file ?? tableId;
    return { ...(await desk.source.profile(tableId)), file };
  },

  /** How rows are distributed over a column, and what its members are in order. */
  column(desk: OpenReport, tableId: string, name: string): ColumnDetail {
    const table = tableOf(desk, tableId);
    const column = columnOf(table, name)!;
    const names = column.kind === 'text' ? column.members.slice(1) : [];
    const members =
      names.length > MOST_ORDERED ? null : inOrder(names, declaredOrder(table, name), desk.report.calendar);
    return { distribution: distribution(column), members };
  },

  /** Rows of each month, for the calendar. */
  months(desk: OpenReport, tableId: string): readonly { month: number; rows: number }[] {
    return rowsPerMonth(tableOf(desk, tableId));
  },

  /** Fields a table can be broken down by, and its date column. */
  async fieldsOf(desk: OpenReport, tableId: string): Promise<readonly string[]> {
    return [...(desk.source.facts(tableId)?.members.keys() ?? [])];
  },

  /** How a table of targets fits the table that is measured. */
  match(desk: OpenReport, of: string, targets: string, match: Readonly<Record<string, string>>): Match {
    return matchTables(tableOf(desk, of), tableOf(desk, targets), match);
  },

  /** First and last day with data of the first measure over a table, for the calendar. */
  async span(desk: OpenReport, tableId: string): Promise<{ from: number; to: number } | null> {
    const { source } = desk;
    const measure = desk.report.measures.find(({ table }) => table === tableId);
    if (!measure) return source.span(tableId, []);
    return dataSpan(source, measured(source, desk.report.calendar, measure));
  },

  /** Columns a measure's table has, and what can stand at the cursor of its expression. */
  async completeExpression(
    desk: OpenReport,
    tableId: string,
    text: string,
    cursor: number,
  ): Promise<ExpressionCompletion[]> {
    const facts = desk.source.facts(tableId);
    return facts ? completeExpression(text, cursor, facts.columns, facts.aliases) : [];
  },

  /** How amounts that an expression counts may become one currency. */
  conversionOffers(desk: OpenReport, amounts: Pick<Measure, 'table' | 'expression' | 'currency'>): ConversionOffers {
    return conversionOffers(desk.report, desk.source.facts, amounts);
  },

  /** Amounts of a table that are in several currencies and are not converted; null where there are none. */
  severalCurrencies(desk: OpenReport, tableId: string): SeveralCurrencies | null {
    const { report, source } = desk;
    const facts = source.facts(tableId);
    if (!facts || facts.rates) return null;
    const [column] = facts.currencies ?? [];
    const [beside] = facts.severalUnits ?? [];
    const own = column === undefined ? [] : (facts.members.get(column) ?? []);
    const codes = [...new Set(own.map(codeOfCurrency))].sort();
    const isBeside = codes.length < 2;
    if (isBeside && !beside) return null;
    const amounts = [
      ...report.measures.flatMap((one) => (one.table === tableId ? [{ kind: 'measure' as const, of: one }] : [])),
      ...report.benchmarks.flatMap((one) =>
        one.kind === 'table' && one.table === tableId ? [{ kind: 'benchmark' as const, of: one }] : [],
      ),
    ].flatMap(({ kind, of }) => {
      const { numbers, offer } = conversionOffers(report, source.facts, of);
      if (of.currency || numbers.every(isQuantity) || (isBeside && !numbers.includes(beside![0]))) return [];
      const { currency = null, rates = null, isGuess = false } = (isBeside ? null : offer) ?? {};
      return [{ kind, name: of.name, currency, rates, isGuess }];
    });
    if (amounts.length === 0) return null;
    return isBeside
      ? { codes: beside![1], by: { column: beside![0], isBeside }, amounts }
      : { codes, by: { column: column!, isBeside }, amounts };
  },

  /** Whether an expression of aggregates can be read over a table's columns; a problem says why not. */
  async readable(desk: OpenReport, tableId: string, expression: string): Promise<true> {
    aggregated(desk.source, tableId, expression, 'expression');
    return true;
  },

  /** What an expression gives for a table's rows: its kind, the first values, and how many are blank. */
  preview(desk: OpenReport, tableId: string, name: string, expression: string): DerivedLook {
    const others = (desk.report.tables.find(({ id }) => id === tableId)?.derived ?? []).filter(
      (derived) => derived.name !== name,
    );
    const made = tableOf(desk, tableId);
    const own = new Set([...others.map((derived) => derived.name), name]);
    const base = { ...made, columns: made.columns.filter((column) => !own.has(column.name)) };
    const table = withDerived(base, [...others, { name, expression }]);
    const column = columnOf(table, name)!;
    const rows = Array.from({ length: Math.min(8, table.rows) }, (_, row) => row);
    const used = table.columns.filter((other) => other !== column && expression.includes(other.name)).slice(0, 3);
    return {
      kind: column.kind,
      blank: column.blank,
      rows: table.rows,
      headings: [...used.map((other) => other.name), name],
      lines: rows.map((row) => [...used, column].map((of) => cellText(of, row))),
    };
  },
};
