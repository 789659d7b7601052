import { startOf, type FiscalCalendar, type Grain, type Span } from '../../calendar';
import { EXACT_LIMIT, power, type Decimals } from '../../number';
import { Problem, thousands } from '../../problem';
import { keyOfQuery, type Groups, type Query } from '../../query';
import type { TableFacts } from '../../table';
import { conditionsOf, memberOf, leafOf } from './conditions';
import type { SqlDialect, Piece } from './dialect';
import { aggregatePiece, type Leaf } from './expression';
import { byLetters, type Days, type Known } from './lookAt';
import type { TableInSql } from './tableInSql';

/** Groups an answer may have. */
const MOST_GROUPS = 1_000_000;

/** Queries over the same rows whose aggregates can be gathered in one pass, in any groups. */
export function overSameRows(
  queries: readonly Query[],
  dialectOf: (table: string) => SqlDialect,
): readonly (readonly number[])[] {
  const together = new Map<string, number[]>();
  const all: number[][] = [];
  queries.forEach(({ table, span, grain, where, aggregates }, q) => {
    // Those that have to sort gain nothing by being asked together.
    const sorts = aggregates.some(({ distinct, fn }) => distinct || fn === 'percentile_cont');
    const isTimed = span !== null || grain !== null;
    const key =
      sorts || !dialectOf(table).hasGroupingSets
        ? String(q)
        : keyOfQuery({ table, span, where, aggregates, by: [], grain: isTimed ? 'day' : null });
    const some = together.get(key);
    if (some && some.length < MOST_TOGETHER) some.push(q);
    else {
      const own = [q];
      together.set(key, own);
      all.push(own);
    }
  });
  return all;
}
/** So many groupings can one statement tell apart. */
const MOST_TOGETHER = 12;

/** Answers queries over the same rows by one statement: each grouping is a set of it. */
export async function groupsOf(
  table: TableInSql,
  { facts, days, undated }: Known,
  queries: readonly Query[],
  signal?: AbortSignal,
): Promise<readonly Groups[]> {
  const [{ span, where, aggregates }] = queries as readonly [Query, ...Query[]];
  const isTimed = queries.some((query) => query.span !== null || query.grain !== null);
  if (isTimed && facts.date === null)
    throw new Problem(
      'no-date',
      `table “${table.id}” has no date column, so a period cannot be cut out of it`,
      { in: `table “${table.id}”` },
      'leave out “during” and “each”, or name its date column in the report',
    );
  const w = table.database.dialect.begin();
  const leaf: Leaf = (name) => leafOf(table, name, w);
  const day = isTimed ? leaf(facts.date!).sql : '';
  const within = isTimed ? daysAsked(days!, span) : null;
  /** What is grouped by, each once, and its place. */
  const groupers: string[] = [];
  const places = new Map<string, number>();
  const placeOf = (key: string, made: () => string): number => {
    let place = places.get(key);
    if (place === undefined) {
      place = groupers.push(made()) - 1;
      places.set(key, place);
    }
    return place;
  };
  const asked = queries.map((query) => {
    if (within && within.from > within.to) return null;
    const starts = query.grain ? stepsIn(days!, within!, query.grain, table.calendar) : null;
    const by = query.by.map((name) => placeOf(`field ${name}`, () => memberOf(leaf(name), w)));
    const step =
      starts === null
        ? []
        : [
            placeOf(`step ${query.grain}`, () =>
              query.grain === 'day' ? w.dayNumber(day) : w.stepOf(day, starts, within!),
            ),
          ];
    return { starts, own: [...by, ...step] };
  });
  const sets = new Map(asked.flatMap((one) => (one ? [[maskOf(one.own, groupers.length), one.own] as const] : [])));
  const pieces = aggregates.map((aggregate) => aggregatePiece(aggregate, leaf, w));
  if (sets.size === 0) return queries.map((query) => emptyAnswer(query, pieces, undated));
  const rowsWhere = conditionsOf(table, within, where, w);
  const told = sets.size > 1 ? [`grouping(${groupers.join(', ')})`] : [];
  const listed = [...sets.values()].map((own) =>
    w.grouped(
      own.map((place) => groupers[place]!),
      own.map((place) => place + 1),
    ),
  );
  const grouped =
    sets.size > 1
      ? ` group by grouping sets (${listed.map((places) => `(${places})`).join(', ')})`
      : groupers.length === 0
        ? ''
        : ` group by ${listed[0]}`;
  const cells = [...groupers, ...told, 'count(*)', ...pieces.map(({ sql }) => sql)];
  const text = `select ${cells.join(', ')} from ${table.from}${rowsWhere}${grouped} limit ${MOST_GROUPS + 1}`;
  const rows = await table.database.ask({ text, values: w.values }, signal);
  if (rows.length > MOST_GROUPS)
    throw new Problem(
      'too-many-groups',
      `the answer has more than ${thousands(MOST_GROUPS)} groups`,
      { in: `table “${table.id}”` },
      'choose a field with fewer members, a coarser step or a shorter period',
    );
  const at = groupers.length + told.length;
  const ofSet = new Map<number, (readonly (string | null)[])[]>([...sets.keys()].map((mask) => [mask, []]));
  const [only] = sets.keys();
  // Without groups there is one row, also of nothing.
  for (const row of rows)
    if (row[at] !== '0') ofSet.get(told.length > 0 ? Number(row[groupers.length]) : only!)!.push(row);
  return queries.map((query, q) => {
    const one = asked[q];
    if (!one) return emptyAnswer(query, pieces, undated);
    const own = ofSet.get(maskOf(one.own, groupers.length))!;
    const found = own.map((row) => [...one.own.map((place) => row[place]!), ...row.slice(at)]);
    const starting = (step: number) => (query.grain === 'day' ? step : one.starts![step - 1]!);
    return answered(query, facts, found, pieces, starting, undated);
  });
}

/** How a database tells the sets of groups apart: a bit for each that is not in a set, the first the highest. */
const maskOf = (own: readonly number[], all: number): number =>
  Array.from({ length: all }, (_, place) => (own.includes(place) ? 0 : 2 ** (all - 1 - place))).reduce(
    (sum, bit) => sum + bit,
    0,
  );

const emptyAnswer = (query: Query, pieces: readonly Piece[], undated: number): Groups => ({
  count: 0,
  fields: query.by.map(() => ({ members: [''], codes: new Int32Array(0) })),
  steps: query.grain ? new Int32Array(0) : null,
  rows: new Float64Array(0),
  values: pieces.map(({ decimals }) => ({ of: new Float64Array(0), decimals })),
  undated: query.span !== null || query.grain !== null ? undated : 0,
});

/** The days a timed query is about: those of its span that were there when the table was looked at. */
function daysAsked({ days }: Days, span: Span | null): Span {
  const [first, last] = [days[0] ?? 0, days.at(-1) ?? -1];
  return { from: Math.max(span?.from ?? first, first), to: Math.min(span?.to ?? last, last) };
}

/** More steps than these are only told apart where there were rows. */
const MOST_STEPS = 200_000;

/**
 * First days of the steps in a stretch of days, also of those that had no row when the table was looked at: rows that came since then lie
 * in their own.
 */
function stepsIn({ days }: Days, { from, to }: Span, grain: Grain, calendar: FiscalCalendar): number[] {
  const starts = new Set<number>();
  const take = (day: number) => starts.add(grain === 'day' ? day : startOf(grain, day, calendar));
  if (to - from < MOST_STEPS) for (let day = from; day <= to; day++) take(day);
  else for (const day of days) if (day >= from && day <= to) take(day);
  return [...starts].sort((a, b) => a - b);
}

/** Rows of an answer as groups, in order of their codes and steps. */
function answered(
  query: Query,
  facts: TableFacts,
  rows: readonly (readonly (string | null)[])[],
  pieces: readonly Piece[],
  starting: (at: number) => number,
  undated: number,
): Groups {
  const width = query.by.length;
  const fields = query.by.map((name, f) => {
    const isNumber = facts.columns.get(name) === 'number';
    // A floating number is called as this program writes it.
    const called = (text: string) => (isNumber && text !== '' ? String(Number(text)) : text);
    const listed = facts.members.get(name);
    const seen = new Set(rows.map((row) => called(row[f]!)));
    seen.delete('');
    const members = ['', ...(listed ?? [...seen].sort(isNumber ? (a, b) => Number(a) - Number(b) : byLetters))];
    const codeOf = new Map(members.map((member, code) => [member, code]));
    for (const one of seen) if (!codeOf.has(one)) codeOf.set(one, members.push(one) - 1);
    return { members, codes: rows.map((row) => codeOf.get(called(row[f]!))!) };
  });
  const steps = query.grain ? rows.map((row) => starting(Number(row[width]))) : null;
  const order = rows.map((_, i) => i);
  order.sort((a, b) => {
    for (const { codes } of fields) if (codes[a] !== codes[b]) return codes[a]! - codes[b]!;
    return steps ? steps[a]! - steps[b]! : 0;
  });
  const at = width + (steps ? 1 : 0);
  return {
    count: rows.length,
    fields: fields.map(({ members, codes }) => ({ members, codes: Int32Array.from(order, (i) => codes[i]!) })),
    steps: steps && Int32Array.from(order, (i) => steps[i]!),
    rows: Float64Array.from(order, (i) => Number(rows[i]![at])),
    values: pieces.map(({ decimals }, p) =>
      valuesOf(
        order.map((i) => rows[i]![at + 1 + p]!),
        decimals,
      ),
    ),
    undated: query.span !== null || query.grain !== null ? undated : 0,
  };
}

/** Numbers as text, as scaled whole numbers where their decimals are known and they are not too large for that. */
function valuesOf(
  texts: readonly (string | null)[],
  decimals: Decimals,
): { readonly of: Float64Array; readonly decimals: Decimals } {
  const plain = () => Float64Array.from(texts, (text) => (text === null ? NaN : Number(text)));
  if (decimals === null) return { of: plain(), decimals };
  // Rows that came since may be finer than those that were looked at.
  const finer = new RegExp(`[.]\\d{${decimals}}\\d*[1-9]`);
  if (texts.some((text) => text !== null && finer.test(text))) return { of: plain(), decimals: null };
  const of = Float64Array.from(texts, (text) => (text === null ? NaN : scaledOf(text, decimals)));
  return of.some((value) => Math.abs(value) > EXACT_LIMIT) ? { of: plain(), decimals: null } : { of, decimals };
}

/** A number as it is written, times a power of ten, to the last digit. */
function scaledOf(text: string, decimals: number): number {
  const [, sign, whole, part = ''] = /^(-?)(\d+)(?:\.(\d+))?$/.exec(text) ?? [];
  if (whole === undefined) return Math.round(Number(text) * power(decimals));
  const digits = `${whole}${part.slice(0, decimals).padEnd(decimals, '0')}`;
  const value = Number(digits);
  return sign === '-' && value !== 0 ? -value : value;
}
