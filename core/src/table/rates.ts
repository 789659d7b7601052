import { endOf, NO_DAY, startOf, type Day, type FiscalCalendar, type Span } from '../calendar';
import { decimalsOf, finer, power, type Decimals } from '../number';
import { columnOf, columnsRead, type Table } from './column';

/** What one unit of a currency is worth, for each currency's code: spans of days `[from, to, rate]`, in order and without overlaps. */
export type Rates = readonly (readonly [code: string, spans: readonly (readonly [number, number, number])[]])[];

/** The columns of a table of rates: whose rate each row has, and what one unit of it is worth. */
export interface RateColumns {
  readonly currency: string;
  readonly rate: string;
}

/** Before the first day and behind the last of any calendar: a rate for all rows, also those without a day. */
export const EVER: Span = { from: -10_000_000, to: 10_000_000 };
/** A rate of a day holds until the next, at most so many days: none is published on weekends and holidays. */
const HELD_DAYS = 7;

/** The code of a currency however it is written: a sign of one currency, or its code in small letters. */
const SIGNS: Readonly<Record<string, readonly string[]>> = {
  EUR: ['€'],
  USD: ['$', 'US$'],
  GBP: ['£'],
  JPY: ['¥'],
  INR: ['₹'],
};

/** All ways in which columns name a currency. */
const namesOfCurrency = (code: string): readonly string[] => [
  ...new Set([code, code.toLowerCase(), ...(Object.hasOwn(SIGNS, code) ? SIGNS[code]! : [])]),
];

/** The ISO 4217 code behind a currency's code or sign; the text itself where it is none. */
export const codeOfCurrency = (text: string): string =>
  Object.keys(SIGNS).find((code) => SIGNS[code]!.includes(text)) ?? text.trim().toUpperCase();

/** The codes of ISO 4217 in use, and of some currencies that became the euro. */
const CODES: readonly string[] = (
  'AEDAFNALLAMDANGAOAARSAUDAWGAZNBAMBBDBDTBGNBHDBIFBMDBNDBOBBRLBSDBTNBWPBYNBZDCADCDFCHFCLPCNYCOPCRCCUPCVE' +
  'CZKDJFDKKDOPDZDEGPERNETBEURFJDFKPGBPGELGHSGIPGMDGNFGTQGYDHKDHNLHTGHUFIDRILSINRIQDIRRISKJMDJODJPYKESKGS' +
  'KHRKMFKPWKRWKWDKYDKZTLAKLBPLKRLRDLSLLYDMADMDLMGAMKDMMKMNTMOPMRUMURMVRMWKMXNMYRMZNNADNGNNIONOKNPRNZDOMR' +
  'PABPENPGKPHPPKRPLNPYGQARRONRSDRUBRWFSARSBDSCRSDGSEKSGDSHPSLESOSSRDSSPSTNSVCSYPSZLTHBTJSTMTTNDTOPTRYTTD' +
  'TWDTZSUAHUGXUSDUYUUZSVESVNDVUVWSTXAFXCDXCGXOFXPFYERZARZMWZWGHRKDEMFRFITLESPATSNLGBEF'
).match(/.../g)!;

/** Whether a text is the code or the sign of a currency (ISO 4217). */
export function isCurrency(text: string): boolean {
  const code = codeOfCurrency(text);
  return CODES.includes(code) && namesOfCurrency(code).includes(text);
}

/** Columns of text whose every name is a currency's: what is in them says in which currency the other columns' amounts are. */
export const currencyColumns = (members: Iterable<readonly [string, readonly string[] | null]>): readonly string[] =>
  [...members].flatMap(([column, names]) =>
    names !== null && names.length > 0 && names.length <= 60 && names.every(isCurrency) ? [column] : [],
  );

/** The same of a table at hand; what is looked up or computed is left out. */
export const currenciesOf = (table: Table): readonly string[] =>
  currencyColumns(
    columnsRead(table).flatMap((column) =>
      column.kind === 'text' ? [[column.name, column.members.slice(1)] as const] : [],
    ),
  );

/** What stands beside numbers, where it is more than one currency; null for one, or none. */
export function severalUnits(units: ReadonlySet<string>): readonly string[] | null {
  const currencies = [...units].filter((unit) => unit !== '%').sort();
  return currencies.length > 1 ? currencies : null;
}

/** A table's rates, as they were read. */
export interface KnownRates {
  readonly rates: Rates;
  /** Currencies and first days of which the table has several rates that differ: none of them is used. */
  readonly twice: readonly { readonly currency: string; readonly day: Day }[];
}

/** The rates in a table: each holds for the day, month or year of its row. */
export function ratesIn(table: Table, { currency, rate }: RateColumns, calendar: FiscalCalendar): KnownRates {
  const [of, worth] = [columnOf(table, currency), columnOf(table, rate)];
  const date = table.date === null ? undefined : columnOf(table, table.date);
  if (of?.kind !== 'text' || worth?.kind !== 'number') return { rates: [], twice: [] };
  const grain = table.grain ?? 'day';
  const found = new Map<string, Map<number, number[]>>();
  const scale = power(worth.decimals ?? 0);
  for (let row = 0; row < table.rows; row++) {
    const name = of.members[of.codes[row]!]!;
    const value = worth.values[row]! / scale;
    const day = date?.kind === 'date' ? date.days[row]! : EVER.from;
    if (name === '' || Number.isNaN(value) || value <= 0 || day === NO_DAY) continue;
    const code = codeOfCurrency(name);
    const start = date ? startOf(grain, day, calendar) : EVER.from;
    const days = found.get(code) ?? new Map<number, number[]>();
    found.set(code, days.set(start, [...new Set([...(days.get(start) ?? []), value])]));
  }
  const twice: { currency: string; day: Day }[] = [];
  const rates = [...found]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([code, days]): Rates[number] => {
      const starts = [...days.keys()].sort((a, b) => a - b);
      const spans = starts.flatMap((from, i): (readonly [number, number, number])[] => {
        const values = days.get(from)!;
        if (values.length > 1) twice.push({ currency: code, day: from });
        if (values.length > 1) return [];
        if (!date) return [[EVER.from, EVER.to, values[0]!]];
        const next = starts[i + 1] ?? Infinity;
        const to = grain === 'day' ? Math.min(next - 1, from + HELD_DAYS - 1) : endOf(grain, from, calendar);
        return [[from, to, values[0]!]];
      });
      return [code, spans];
    });
  return { rates, twice };
}

/**
 * Rates as they are looked for: a currency by each of its names, the one that is converted to at 1, and the last rate within some days for
 * all days where they are given.
 */
export function ratesTo(to: string, rates: Rates, at: Span | null): Rates {
  const others = rates.filter(([code]) => code !== to);
  return [...others, [to, [[EVER.from, EVER.to, 1]]] as const].flatMap(([code, spans]) => {
    const last = at && [...spans].reverse().find(([from, until]) => from <= at.to && until >= at.from);
    const held = at ? (last ? [[EVER.from, EVER.to, last[2]] as const] : []) : merged(spans);
    return namesOfCurrency(code).map((name) => [name, held] as const);
  });
}

/** Spans behind one another with one rate as one span. */
function merged(spans: Rates[number][1]): Rates[number][1] {
  const all: [number, number, number][] = [];
  for (const [from, to, rate] of spans) {
    const last = all.at(-1);
    if (last?.[2] === rate && last[1] === from - 1) last[1] = to;
    else all.push([from, to, rate]);
  }
  return all;
}

/** Decimals of every rate; null where one needs more than are held exactly. */
export const decimalsOfRates = (rates: Rates): Decimals =>
  rates.flatMap(([, spans]) => spans).reduce<Decimals>((most, [, , rate]) => finer(most, decimalsOf(rate)), 0);

/** The rate of a currency on a day, by halving the spans; NaN where there is none. With one span a currency, whatever the day is. */
export function rateFinder(rates: Rates): (code: string | null, day: number) => number {
  const known = new Map(rates);
  return (code, day) => {
    const spans = code === null ? undefined : known.get(code);
    if (!spans) return NaN;
    if (spans[0]?.[0] === EVER.from) return spans[0][2];
    if (Number.isNaN(day)) return NaN;
    let [low, high] = [0, spans.length - 1];
    while (low <= high) {
      const middle = (low + high) >> 1;
      const [from, to, rate] = spans[middle]!;
      if (day < from) high = middle - 1;
      else if (day > to) low = middle + 1;
      else return rate;
    }
    return NaN;
  };
}
