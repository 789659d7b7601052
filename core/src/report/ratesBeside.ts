import { columnsRead, currenciesOf, type RateColumns, type Table, type TableFacts } from '../table';

// Which table holds rates of currencies.

const RATE = /\b(?:rates?|fx|exchange|kurs|kurse|cours|worth)\b/i;
const isCalledRate = (name: string) => RATE.test(name.replaceAll('_', ' '));

/**
 * The columns of currencies and of their rates, in a table that has one of each and little else; null for any other. Either the number or
 * the table is called a rate: targets in several currencies have the same columns.
 */
export function ratesOf({
  id,
  columns,
  currencies = [],
}: Pick<TableFacts, 'id' | 'columns' | 'currencies'>): RateColumns | null {
  const numbers = [...columns].flatMap(([name, kind]) => (kind === 'number' ? [name] : []));
  const rate = numbers.find(isCalledRate) ?? (numbers.length === 1 && isCalledRate(id) ? numbers[0] : undefined);
  const currency = currencies[0];
  return currency === undefined || rate === undefined || columns.size > 6 ? null : { currency, rate };
}

/** The columns of rates in a table that comes beside one with amounts in several currencies; null where it holds none. */
export function ratesBeside(amounts: Table, other: Table): RateColumns | null {
  if (currenciesOf(amounts).length === 0) return null;
  const columns = new Map(columnsRead(other).map(({ name, kind }) => [name, kind] as const));
  return ratesOf({ id: other.id, columns, currencies: currenciesOf(other) });
}
