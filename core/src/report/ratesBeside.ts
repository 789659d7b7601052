import { columnsRead, currencyColumns, type RateColumns, type Table, type TableFacts } from '../table';

// Which table holds rates of currencies.

const RATE = /\b(?:rate|fx|exchange|kurs|cours|worth)\b/i;
/**
 * The columns of currencies and of their rates, in a table that has one of each and little else; null for any other.
 * @param isAmounts whether something adds the table up, so that its number is a rate only where it is called one
 */
export function ratesOf(
  { columns, currencies = [] }: Pick<TableFacts, 'columns' | 'currencies'>,
  isAmounts: boolean,
): RateColumns | null {
  const numbers = [...columns].flatMap(([name, kind]) => (kind === 'number' ? [name] : []));
  const rate =
    numbers.find((name) => RATE.test(name)) ??
    (numbers.length === 1 && columns.size <= 4 && !isAmounts ? numbers[0] : undefined);
  const currency = currencies[0];
  return currency === undefined || rate === undefined || columns.size > 6 ? null : { currency, rate };
}

/** Columns of a table as it was read that name currencies. */
const currenciesOf = (table: Table): readonly string[] =>
  currencyColumns(
    columnsRead(table).flatMap((column) =>
      column.kind === 'text' ? [[column.name, column.members.slice(1)] as const] : [],
    ),
  );

/** The columns of rates in a table that comes beside one with amounts in several currencies; null where it holds none. */
export function ratesBeside(amounts: Table, other: Table): RateColumns | null {
  if (currenciesOf(amounts).length === 0) return null;
  const columns = new Map(columnsRead(other).map(({ name, kind }) => [name, kind] as const));
  return ratesOf({ columns, currencies: currenciesOf(other) }, false);
}
