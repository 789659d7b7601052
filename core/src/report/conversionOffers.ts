import { isoDay } from '../calendar';
import { aggregatesOf, columnsOf, readExpression } from '../measure';
import { isProblem } from '../problem';
import { codeOfCurrency, isCurrency, type FactsOf, type RateColumns } from '../table';
import type { CurrencyConversion, Measure, Report } from './report';
import { ratesOf } from './ratesBeside';
import { isQuantity } from './words';

/** How a measure's amounts may become one currency. */
export interface ConversionOffers {
  /** Columns of currencies beside the amounts. */
  readonly columns: readonly string[];
  /** Number columns that the expression counts: which of them are amounts has to be said where it multiplies or divides. */
  readonly numbers: readonly string[];
  /** Tables that hold rates, or look as if they did. */
  readonly tables: readonly { readonly id: string; readonly rates: RateColumns }[];
  /** The month of the last rate, as a report writes it; null where rates have no days. */
  readonly latest: string | null;
  /** What fits most likely; null where there are no rates. */
  readonly offer: {
    readonly currency: CurrencyConversion;
    readonly rates: RateColumns;
    /** Nothing says which currency the rates are to: somebody has to. */
    readonly isGuess: boolean;
  } | null;
}

/** What the aggregates of an expression read; nothing where it cannot be read. */
function countedBy(expression: string): string[] {
  try {
    const counted = aggregatesOf(readExpression(expression)).filter(({ fn }) => fn !== 'count');
    return [...new Set(counted.flatMap(columnsOf))];
  } catch (error) {
    if (!isProblem(error)) throw error;
    return [];
  }
}

const codesIn = (names: readonly string[]): string[] => [...new Set(names.map(codeOfCurrency))];

/**
 * The currency that rates are to: the one whose rate is always 1, the one that their column or table names, or the only one of the rows
 * that has no rate itself; null where none of these says it.
 */
function currencyOfRates(
  facts: FactsOf,
  { id, rates }: ConversionOffers['tables'][number],
  names: readonly string[],
): string | null {
  const known = facts(id);
  const ones = (known?.rates?.rates ?? []).filter(([, spans]) => spans.every(([, , rate]) => rate === 1));
  if (ones.length === 1) return ones[0]![0];
  const have = codesIn(known?.members.get(rates.currency) ?? []);
  const named = `${rates.rate} ${id}`.match(/\b[A-Z]{3}\b/g)?.filter(isCurrency) ?? [];
  if (named.length === 1 && !have.includes(named[0]!)) return named[0]!;
  const without = codesIn(names).filter((code) => !have.includes(code));
  return without.length === 1 ? without[0]! : null;
}

/** How amounts of a table, as an expression counts them, may become one currency by the report's tables. */
export function conversionOffers(
  report: Pick<Report, 'tables'>,
  facts: FactsOf,
  { table, expression, currency }: Pick<Measure, 'table' | 'expression' | 'currency'>,
): ConversionOffers {
  const own = facts(table);
  const columns = [...new Set([...(currency ? [currency.column] : []), ...(own?.currencies ?? [])])];
  const numbers = countedBy(expression).filter((name) => own?.columns.get(name) === 'number');
  const tables = report.tables.flatMap(({ id, rates }) => {
    const known = facts(id);
    const found = rates ?? (known && id !== table ? ratesOf(known) : null);
    return found ? [{ id, rates: found }] : [];
  });
  const [column, of] = [columns[0], tables[0]];
  const end = facts(currency?.rates ?? of?.id ?? '')?.span?.to;
  const latest = end === undefined ? null : isoDay(end).slice(0, 7);
  if (column === undefined || of === undefined) return { columns, numbers, tables, latest, offer: null };
  const to = currencyOfRates(facts, of, own?.members.get(column) ?? []);
  const amounts = numbers.filter((name) => !isQuantity(name));
  return {
    columns,
    numbers,
    tables,
    latest,
    offer: {
      currency: {
        column,
        rates: of.id,
        to: to ?? codesIn(own?.members.get(column) ?? [])[0] ?? 'EUR',
        at: 'own',
        ...(numbers.length > 1 && amounts.length > 0 ? { amounts } : {}),
      },
      rates: of.rates,
      isGuess: to === null,
    },
  };
}
