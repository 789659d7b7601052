import { fiscalYear, readIsoDay, spanOf, step, type FiscalCalendar, type Span } from '../calendar';
import { converted, type Conversion, type Expression } from '../measure';
import { didYouMean, Problem } from '../problem';
import type { CurrencyConversion } from '../report';
import { EVER, ratesTo, type KnownRates, type Rates } from '../table';
import type { OpenSource, TableFacts } from './query';

/** The days of a day, a month or a fiscal year as a report writes them; null for what is none. */
function daysNamed(at: string, calendar: FiscalCalendar): Span | null {
  const [year, month] = at.split('-').map(Number);
  if (at.length === 4) {
    // Fiscal years may begin before the one they are named after, and end after it.
    const near = spanOf('year', readIsoDay(`${at}-07-01`)!, calendar);
    const all = [-1, 0, 1].map((years) => spanOf('year', step('year', near.from, years, calendar), calendar));
    return all.find(({ from }) => fiscalYear(from, calendar) === year) ?? null;
  }
  const day = readIsoDay(at.length === 7 ? `${at}-01` : at);
  if (day === null) return null;
  if (at.length > 7) return { from: day, to: day };
  const next = readIsoDay(month === 12 ? `${year! + 1}-01-01` : `${year}-${String(month! + 1).padStart(2, '0')}-01`)!;
  return { from: day, to: next - 1 };
}

/**
 * What a report says of the currencies of a table's amounts, with the rates themselves.
 * @throws {Problem} where a table, a column or a period it names is not there
 */
export function conversionOf(
  source: Pick<OpenSource, 'facts'>,
  table: TableFacts,
  { column, rates: id, to, at, amounts }: CurrencyConversion,
  calendar: FiscalCalendar,
): Conversion {
  const wrong = (code: string, sentence: string, remedy: string) =>
    new Problem(code, sentence, { in: 'currency' }, remedy);
  const columns = [...table.columns.keys()];
  for (const name of [column, ...(amounts ?? [])])
    if (!table.columns.has(name))
      throw wrong(
        'unknown-column',
        `there is no column “${name}” in “${table.id}”`,
        didYouMean(name, columns, 'column'),
      );
  if (table.columns.get(column) !== 'text')
    throw wrong(
      'wrong-type',
      `“${column}” holds no currencies: it is no text`,
      'choose the column with codes such as EUR',
    );
  const facts = source.facts(id);
  if (!facts)
    throw wrong('unknown-table', `there is no table “${id}” of rates`, 'add it to the report, or choose another');
  if (!facts.rates)
    throw wrong(
      'no-rates',
      `“${id}” is not said to hold rates`,
      'say at the Data step which of its columns are the currency and the rate',
    );
  const fixed = at === 'own' ? null : daysNamed(at, calendar);
  if (at !== 'own' && !fixed)
    throw wrong('unknown-period', `“${at}” is no day, month or fiscal year`, 'write it as 2026-03-31, 2026-03 or 2026');
  if (!fixed && facts.date !== null && table.date === null)
    throw wrong(
      'no-date',
      `rows of “${table.id}” have no date by which a rate could be found`,
      'choose one period whose rates hold for all rows',
    );
  return {
    column,
    day: fixed || facts.date === null ? null : table.date,
    rates: ratesOnce(facts.rates, to, fixed ?? (facts.date === null ? EVER : null)),
    ...(amounts ? { amounts } : {}),
  };
}

const converting = new WeakMap<KnownRates, Map<string, Rates>>();

/** The same rates while their table is the same: whoever compares expressions need not look at every rate. */
function ratesOnce(known: KnownRates, to: string, days: Span | null): Rates {
  const all = converting.get(known) ?? new Map<string, Rates>();
  converting.set(known, all);
  const key = JSON.stringify([to, days]);
  const found = all.get(key) ?? ratesTo(to, known.rates, days);
  all.set(key, found);
  return found;
}

const expressions = new WeakMap<Rates, Map<string, Expression>>();

/** A checked expression over converted amounts: the same one for the same rates, columns and text. */
export function convertedOnce(table: string, checked: Expression, text: string, conversion: Conversion): Expression {
  const { rates, ...rest } = conversion;
  const all = expressions.get(rates) ?? new Map<string, Expression>();
  expressions.set(rates, all);
  const key = JSON.stringify([table, text, rest, checked]);
  const found = all.get(key) ?? converted(checked, conversion);
  all.set(key, found);
  return found;
}
