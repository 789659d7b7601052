import { haveSameYears, hasOwnMonths, startOf, stepName, type Day, type Grain, type Span } from '../calendar';
import { aggregatesOf, columnsOf, missingRate, type Aggregate } from '../measure';
import { power, tidy } from '../number';
import { counted, listed } from '../problem';
import { isQuantity } from '../report';
import { codeOfCurrency } from '../table';
import type { Condition } from '../brief';
import { note, type Aggregated, type Context } from './context';
import type { Groups } from './query';

// What is told of amounts in several currencies.

/** Currencies, steps or amounts that are told by name. */
const TOLD = 3;

/** Which rows an expression counts, and what the figure tells apart. */
interface Counted {
  /** Whose expression it is, as it is told: “net sales”. */
  readonly who: string;
  readonly by: readonly string[];
  readonly span: Span | null;
  readonly where: readonly Condition[];
}

const valueIn = ({ of, decimals }: Groups['values'][number], group: number): number =>
  decimals === null ? tidy(of[group]!) : of[group]! / power(decimals);

/** Tells which rates are missing, or that amounts of several currencies are added up as if they were of one. */
export async function tellCurrencies(context: Context, of: Aggregated, rows: Counted): Promise<void> {
  await (of.conversion ? tellMissing(context, of, of.conversion, rows) : tellAdded(context, of, rows));
}

/** Tells rates that are missing, with their rows and amounts. */
async function tellMissing(
  context: Context,
  { table }: Aggregated,
  conversion: NonNullable<Aggregated['conversion']>,
  { who, span, where }: Counted,
): Promise<void> {
  const { said, column, day } = conversion;
  const { rates: known, grain: of, periods } = context.source.facts(said.rates)!;
  // Rates may be of other months than the report's: then each day says of which.
  const isOwn = haveSameYears(periods, context.calendar) && !hasOwnMonths(periods) && !hasOwnMonths(context.calendar);
  const grain: Grain | null = day === null ? null : isOwn ? (of ?? 'day') : 'day';
  const missing = missingRate(conversion.of, conversion);
  if (missing.length === 0) return;
  const aggregates = missing.flatMap(({ rows, sum }) => [rows, sum]);
  const found = await context.source.groups({ table: table.id, aggregates, by: [column], grain, span, where });
  const lost = new Map<string, { readonly name: string; readonly step: Day | null; rows: number; amount: number }>();
  for (let group = 0; group < found.count; group++) {
    // What several aggregates lack is the same rows, as a rule: the most of them are told.
    const most = missing
      .map((_, i) => ({ rows: found.values[2 * i]!.of[group]!, amount: valueIn(found.values[2 * i + 1]!, group) }))
      .reduce((a, b) => (b.rows > a.rows ? b : a));
    if (!(most.rows > 0)) continue;
    const { members, codes } = found.fields[0]!;
    const name = members[codes[group]!]!;
    const step = found.steps ? startOf(of ?? 'day', found.steps[group]!, periods) : null;
    const key = JSON.stringify([name, step]);
    const one = lost.get(key) ?? { name, step, rows: 0, amount: 0 };
    lost.set(key, { ...one, rows: one.rows + most.rows, amount: tidy(one.amount + (most.amount || 0)) });
  }
  if (lost.size === 0) return;
  const sorted = [...lost.values()].sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
  const told = ({ name, step, rows, amount }: (typeof sorted)[number]) => {
    const isTwice = known?.twice.some(
      (one) => one.currency === codeOfCurrency(name) && (step === null || one.day === step),
    );
    const whose = name === '' ? 'rows without a currency' : name;
    const when = name === '' || step === null ? '' : ` in ${stepName(of ?? 'day', step, periods)}`;
    return `${whose}${when} (${counted(rows, 'row')} with ${amount.toLocaleString('en-US')}${isTwice ? '; there are several rates' : ''})`;
  };
  const more = sorted.length > TOLD ? [`${sorted.length - TOLD} more`] : [];
  note(
    context,
    'rate-missing',
    'error',
    `“${said.rates}” has no rate to ${said.to} for ${listed([...sorted.slice(0, TOLD).map(told), ...more], 'and')}: ${who} is blank wherever it counts them`,
  );
}

/** Amounts that an expression adds up, averages or compares. */
const amountsIn = ({ expression }: Aggregated): Aggregate[] =>
  aggregatesOf(expression).filter(
    ({ fn, of }) => fn !== 'count' && of !== null && columnsOf(of).length > 0 && !columnsOf(of).every(isQuantity),
  );

/** Tells that amounts of several currencies are added up. */
async function tellAdded(context: Context, of: Aggregated, { who, by, span, where }: Counted): Promise<void> {
  const { table } = of;
  const amounts = amountsIn(of);
  for (const column of new Set(amounts.flatMap((one) => columnsOf(one.of!)))) {
    const units = table.severalUnits?.get(column);
    if (units)
      note(
        context,
        'currencies-added',
        'error',
        `${who} adds up amounts of several currencies: the cells of “${column}” of “${table.id}” have ${listed(units, 'and')} beside them`,
      );
  }
  const columns = (table.currencies ?? []).filter(
    (column) => !by.includes(column) && table.members.get(column)?.length !== 1,
  );
  if (amounts.length === 0 || columns.length === 0) return;
  const aggregates = amounts.map((one): Aggregate => ({
    kind: 'aggregate',
    fn: 'count',
    of: one.of,
    distinct: false,
    filter: one.filter,
    at: one.at,
  }));
  const all = await Promise.all(
    columns.map((column) =>
      context.source.groups({ table: table.id, aggregates, by: [column], grain: null, span, where }),
    ),
  );
  all.forEach(({ count, fields, values }, c) => {
    const { members, codes } = fields[0]!;
    const rowsOf = new Map<string, number>();
    for (let group = 0; group < count; group++) {
      const name = members[codes[group]!]!;
      const rows = Math.max(...values.map(({ of: counts }) => counts[group]!));
      const code = codeOfCurrency(name);
      if (name !== '' && rows > 0) rowsOf.set(code, (rowsOf.get(code) ?? 0) + rows);
    }
    if (rowsOf.size < 2) return;
    const sorted = [...rowsOf].sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1));
    const more = sorted.length > TOLD ? [`${sorted.length - TOLD} more`] : [];
    const named = sorted.slice(0, TOLD).map(([code, rows]) => `${code} (${counted(rows, 'row')})`);
    note(
      context,
      'currencies-added',
      'error',
      `${who} adds up amounts of several currencies, by “${columns[c]!}” of “${table.id}”: ${listed([...named, ...more], 'and')}`,
    );
  });
}
