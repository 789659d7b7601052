import { isoDay } from '../calendar';
import { aggregatesOf, columnsOf, readExpression } from '../measure';
import { isProblem } from '../problem';
import { codeOfCurrency, type FactsOf, type RateColumns } from '../table';
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
  readonly offer: { readonly currency: CurrencyConversion; readonly rates: RateColumns } | null;
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

/** How amounts of a table, as an expression counts them, may become one currency by the report's tables. */
export function conversionOffers(
  report: Pick<Report, 'tables' | 'measures' | 'benchmarks'>,
  facts: FactsOf,
  { table, expression, currency }: Pick<Measure, 'table' | 'expression' | 'currency'>,
): ConversionOffers {
  const own = facts(table);
  const columns = [...new Set([...(currency ? [currency.column] : []), ...(own?.currencies ?? [])])];
  const numbers = countedBy(expression).filter((name) => own?.columns.get(name) === 'number');
  const tables = report.tables.flatMap(({ id, rates }) => {
    const known = facts(id);
    const isAmounts = [...report.measures, ...report.benchmarks].some((one) => 'table' in one && one.table === id);
    const found = rates ?? (known && id !== table ? ratesOf(known, isAmounts) : null);
    return found ? [{ id, rates: found }] : [];
  });
  const [column, of] = [columns[0], tables[0]];
  const end = facts(currency?.rates ?? of?.id ?? '')?.span?.to;
  const latest = end === undefined ? null : isoDay(end).slice(0, 7);
  if (column === undefined || of === undefined) return { columns, numbers, tables, latest, offer: null };
  const have = new Set((facts(of.id)?.members.get(of.rates.currency) ?? []).map(codeOfCurrency));
  // Rates are to the currency that has none itself.
  const to = (own?.members.get(column) ?? []).map(codeOfCurrency).find((code) => code !== '' && !have.has(code));
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
        to: to ?? 'EUR',
        at: 'own',
        ...(numbers.length > 1 && amounts.length > 0 ? { amounts } : {}),
      },
      rates: of.rates,
    },
  };
}
