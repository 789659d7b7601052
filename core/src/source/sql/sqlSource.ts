import { isoDay, startOf, type FiscalCalendar, type Grain, type Span } from '../../calendar';
import type { Condition } from '../../brief';
import { EXACT_LIMIT, power, type Decimals } from '../../number';
import { Problem } from '../../problem';
import { keyOfQuery, type Behind, type Groups, type Query, type Source } from '../../query';
import { readCsv } from '../../reading';
import {
  farDays,
  grainOf,
  knownSpan,
  makeTable,
  type ColumnProfile,
  type DateColumn,
  type FieldsProfile,
  type KnownSpan,
  type Table,
  type TableFacts,
} from '../../table';
import { tableIn } from '../tableIn';
import { Bindings, type Statement } from './database';
import { aggregatePiece, dayNumber, textOf, type Leaf, type Piece } from './expression';
import { unknownIn, type TableInSql } from './tableInSql';

/** Names of a field that are known without asking; of more, those are searched that are asked for. */
const MOST_MEMBERS = 2000;
/** Days of a table that are looked at one by one. */
const MOST_DAYS = 200_000;
/** Groups an answer may have. */
const MOST_GROUPS = 1_000_000;
/** Rows that leave with a page. */
const MOST_CARRIED = 250_000;

/** The days on which a table has rows, in order, and how many. */
interface Days {
  readonly days: Int32Array;
  readonly counts: Float64Array;
}

/** What has been asked of a table once. */
interface Known {
  readonly facts: TableFacts;
  readonly days: Days | null;
  readonly undated: number;
}

/** Answers queries by asking databases, all of one moment together: one statement for those over the same rows. */
export function sqlSource(tables: ReadonlyMap<string, TableInSql>, calendar: FiscalCalendar): Source {
  const known = new Map<string, Promise<Known>>();
  const tableAt = (id: string): TableInSql => tableIn(tables, id);
  const knownOf = (id: string): Promise<Known> => {
    let found = known.get(id);
    if (!found) {
      found = lookAt(tableAt(id), calendar);
      known.set(id, found);
      // What could not be told may be asked again.
      found.catch(() => known.delete(id));
    }
    return found;
  };
  return {
    async facts() {
      const all = await Promise.all([...tables.keys()].map(async (id) => [id, (await knownOf(id)).facts] as const));
      return new Map(all);
    },
    spans: (asked) =>
      Promise.all(
        asked.map(async ({ table, columns }) => {
          const at = tables.get(table);
          return at ? spanOf(at, await knownOf(table), columns, calendar) : null;
        }),
      ),
    async groups(queries) {
      const answers: Groups[] = [];
      await Promise.all(
        overSameRows(queries).map(async (places) => {
          const { table } = queries[places[0]!]!;
          const found = await groupsOf(
            tableAt(table),
            await knownOf(table),
            places.map((place) => queries[place]!),
          );
          places.forEach((place, i) => (answers[place] = found[i]!));
        }),
      );
      return answers;
    },
    async rows(behind, page) {
      return rowsOf(tableAt(behind.table), behind, page);
    },
    async members(id, field, search, most) {
      const table = tableAt(id);
      const bindings = new Bindings();
      const name = `coalesce(${textOf(leafOf(table, field, bindings))}, '')`;
      const [part, asTyped] = [search.toLowerCase(), search].map((text) => bindings.bind(text, 'text'));
      const text = `select ${name} from ${table.from} where ${name} <> '' and (position(${part} in lower(${name})) > 0 or position(${asTyped} in ${name}) > 0) group by 1 order by 1 limit ${Math.max(0, Math.floor(most))}`;
      return (await table.database.ask({ text, values: bindings.values })).map(([found]) => found!);
    },
    async profile(id) {
      return profileOf(tableAt(id), await knownOf(id));
    },
    async extract(part) {
      return extractOf(tableAt(part.table), part.columns, part.span);
    },
  };
}

/** A field in a statement; unknown ones are told. */
function leafOf(table: TableInSql, field: string, bindings: Bindings): Piece {
  if (!table.kinds.has(field)) throw unknownIn(table.id, field, [...table.kinds.keys()]);
  return table.leaf(bindings)(field);
}

/** Asks what is known of a table once it is opened. */
async function lookAt(table: TableInSql, calendar: FiscalCalendar): Promise<Known> {
  const { id, entry, database, from, kinds } = table;
  const date = entry.date ?? null;
  const leaf = table.leaf(new Bindings());
  // A computed day may hold values of its own.
  const dated = new Bindings();
  const day = date === null ? null : table.leaf(dated)(date).sql;
  const count = database.ask({
    text: `select count(*), ${day === null ? 0 : `count(*) filter (where ${day} is null)`} from ${from}`,
    values: dated.values,
  });
  const perDay =
    day === null
      ? null
      : database.ask({
          text: `select ${dayNumber(day)}, count(*) from ${from} where ${day} is not null group by 1 order by 1 limit ${MOST_DAYS}`,
          values: dated.values,
        });
  const named = [...kinds].flatMap(([name, kind]) => (kind === 'text' || kind === 'yesno' ? [name] : []));
  const listed = named.map(async (name): Promise<readonly [string, readonly string[] | null]> => {
    const bindings = new Bindings();
    const text = textOf(table.leaf(bindings)(name));
    const found = await database.ask({
      text: `select ${text}, count(*) from ${from} where ${text} is not null group by 1 order by 2 desc, 1 limit ${MOST_MEMBERS + 1}`,
      values: bindings.values,
    });
    const names = found.map(([member]) => member!).sort(byLetters);
    return [name, names.length > MOST_MEMBERS ? null : names];
  });
  const [[counted], dayRows, members] = await Promise.all([count, perDay, Promise.all(listed)]);
  const days: Days | null = dayRows && {
    days: Int32Array.from(dayRows, ([of]) => Number(of)),
    counts: Float64Array.from(dayRows, ([, rows]) => Number(rows)),
  };
  const grain: Grain | null = days ? (entry.grain ?? grainOf(days.days)) : null;
  const calendared = days && daysTable(days, grain!);
  const orders = Object.fromEntries((entry.columns ?? []).flatMap(({ name, order }) => (order ? [[name, order]] : [])));
  const far = calendared && farDays(calendared);
  const facts: TableFacts = {
    id,
    rows: Number(counted![0]),
    columns: kinds,
    members: new Map(members),
    decimals: new Map([...kinds].flatMap(([name, kind]) => (kind === 'number' ? [[name, leaf(name).decimals]] : []))),
    derived: entry.derived ?? [],
    date,
    grain,
    span: calendared && knownSpan(calendared, calendar),
    periods: calendar,
    orders,
    leftOut: [],
    duplicates: null,
    far: far && { ...far, rows: [], lines: [], count: countIn(days, far) },
  };
  return { facts, days, undated: Number(counted![1]) };
}

const byLetters = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

const countIn = ({ days, counts }: Days, { from, to }: Span): number =>
  days.reduce((sum, day, i) => (day >= from && day <= to ? sum + counts[i]! : sum), 0);

/** Rows that stand for all of a table where only its days matter: as many of a day as its part of all, at least one. */
const SAMPLE = 50_000;
function daysTable({ days, counts }: Days, grain: Grain, has?: Uint8Array): Table {
  const all = counts.reduce((sum, rows) => sum + rows, 0);
  const rows = (i: number) => Math.max(1, Math.round((counts[i]! / Math.max(1, all)) * Math.min(all, SAMPLE)));
  const spread: number[] = [];
  const marks: number[] = [];
  days.forEach((day, i) => {
    for (let k = rows(i); k > 0; k--) {
      spread.push(day);
      marks.push(has?.[i] ?? 1);
    }
  });
  const common = { convention: '', blank: 0 };
  const date: DateColumn = { ...common, kind: 'date', name: 'day', days: Int32Array.from(spread), grain, read: '' };
  const codes = Uint8Array.from(marks, (mark) => (mark ? 2 : 0));
  const blank = marks.length - marks.reduce((sum, mark) => sum + mark, 0);
  return {
    id: 'days',
    rows: spread.length,
    columns: [date, { ...common, kind: 'yesno', name: 'has', members: ['', 'no', 'yes'], codes, blank }],
    date: 'day',
    grain,
    inDateOrder: true,
    orders: {},
    leftOut: [],
    leftOutCounts: [],
    firstLine: 1,
    emptyLines: 0,
    doubts: [],
    wide: null,
  } as unknown as Table;
}

async function spanOf(
  table: TableInSql,
  { facts, days }: Known,
  columns: readonly string[],
  calendar: FiscalCalendar,
): Promise<KnownSpan | null> {
  if (columns.length === 0 || days === null) return facts.span;
  const bindings = new Bindings();
  const day = table.leaf(bindings)(facts.date!).sql;
  const filled = columns.map((name) => `${leafOf(table, name, bindings).sql} is not null`).join(' or ');
  const found = await table.database.ask({
    text: `select ${dayNumber(day)} from ${table.from} where ${day} is not null and (${filled}) group by 1`,
    values: bindings.values,
  });
  const those = new Set(found.map(([of]) => Number(of)));
  const has = Uint8Array.from(days.days, (one) => (those.has(one) ? 1 : 0));
  return knownSpan(daysTable(days, facts.grain!, has), calendar, ['has']);
}

/** What rows must meet, as SQL. */
function conditionsOf(table: TableInSql, span: Span | null, where: readonly Condition[], bindings: Bindings): string {
  const parts = where.map((condition) => conditionOf(table, condition, bindings));
  if (span) {
    const day = table.leaf(bindings)(table.entry.date!).sql;
    const [from, to] = [span.from, span.to].map((one) => bindings.bind(isoDay(one), 'date'));
    parts.unshift(`${day} between ${from} and ${to}`);
  }
  return parts.length === 0 ? '' : ` where ${parts.join(' and ')}`;
}

function conditionOf(table: TableInSql, condition: Condition, bindings: Bindings): string {
  const piece = leafOf(table, condition.field, bindings);
  if ('value' in condition) {
    if (piece.type !== 'number')
      throw new Problem(
        'wrong-type',
        `“${condition.field}” is not a number, so it cannot be ${condition.kind} ${condition.value}`,
        { in: 'brief' },
        'use “is” with its members',
      );
    const bound = bindings.bind(String(condition.value), 'numeric');
    return `${piece.sql} ${condition.kind === 'at least' ? '>=' : '<'} ${bound}`;
  }
  const named = condition.members.flatMap((member) => (member === null || member === '' ? [] : [member]));
  const hasBlank = named.length < condition.members.length;
  const text = piece.raw ?? `coalesce(${fieldText(piece)}, '')`;
  const isNamed =
    named.length === 1
      ? `${text} = ${bindings.bind(named[0]!, 'text')}`
      : `${text} = any (${bindings.bind(named, 'text[]')})`;
  // What compares with nothing is neither: blank is told by itself.
  if (condition.kind === 'is') return hasBlank ? `(${text} is null or ${text} = '' or ${isNamed})` : isNamed;
  return hasBlank ? `(${text} <> '' and not ${isNamed})` : `coalesce(not ${isNamed}, true)`;
}

/** What a field’s member is called: days by their number, as in memory. */
const fieldText = (piece: Piece): string => (piece.type === 'date' ? `${dayNumber(piece.sql)}::text` : textOf(piece));

/** Queries over the same rows whose aggregates can be gathered in one pass, in any groups. */
function overSameRows(queries: readonly Query[]): readonly (readonly number[])[] {
  const together = new Map<string, number[]>();
  const all: number[][] = [];
  queries.forEach(({ table, span, grain, where, aggregates }, q) => {
    // Those that have to sort gain nothing by being asked together.
    const sorts = aggregates.some(({ distinct, fn }) => distinct || fn === 'percentile_cont');
    const isTimed = span !== null || grain !== null;
    const key = sorts
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
async function groupsOf(
  table: TableInSql,
  { facts, days, undated }: Known,
  queries: readonly Query[],
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
  const bindings = new Bindings();
  const leaf: Leaf = (name) => leafOf(table, name, bindings);
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
    const by = query.by.map((name) => placeOf(`field ${name}`, () => `coalesce(${fieldText(leaf(name))}, '')`));
    const step =
      starts === null
        ? []
        : [
            placeOf(`step ${query.grain}`, () =>
              query.grain === 'day'
                ? dayNumber(day)
                : `width_bucket(${day}, ${bindings.bind(starts.map(isoDay), 'date[]')})`,
            ),
          ];
    return { starts, own: [...by, ...step] };
  });
  const sets = new Map(asked.flatMap((one) => (one ? [[maskOf(one.own, groupers.length), one.own] as const] : [])));
  if (sets.size === 0) return queries.map((query) => emptyAnswer(query, undated));
  const pieces = aggregates.map((aggregate) => aggregatePiece(aggregate, leaf, bindings));
  const rowsWhere = conditionsOf(table, within, where, bindings);
  const told = sets.size > 1 ? [`grouping(${groupers.join(', ')})`] : [];
  const listed = [...sets.values()].map((own) => own.map((place) => place + 1).join(', '));
  const grouped =
    sets.size > 1
      ? ` group by grouping sets (${listed.map((places) => `(${places})`).join(', ')})`
      : groupers.length === 0
        ? ''
        : ` group by ${listed[0]}`;
  const cells = [...groupers, ...told, 'count(*)', ...pieces.map(({ sql }) => sql)];
  const text = `select ${cells.join(', ')} from ${table.from}${rowsWhere}${grouped} limit ${MOST_GROUPS + 1}`;
  const rows = await table.database.ask({ text, values: bindings.values });
  if (rows.length > MOST_GROUPS)
    throw new Problem(
      'too-many-groups',
      `the answer has more than ${MOST_GROUPS.toLocaleString('en')} groups`,
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
    if (!one) return emptyAnswer(query, undated);
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

const emptyAnswer = (query: Query, undated: number): Groups => ({
  count: 0,
  fields: query.by.map(() => ({ members: [''], codes: new Int32Array(0) })),
  steps: query.grain ? new Int32Array(0) : null,
  rows: new Float64Array(0),
  values: query.aggregates.map(() => ({ of: new Float64Array(0), decimals: 0 })),
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

async function rowsOf(
  table: TableInSql,
  { span, where }: Behind,
  { from, count }: { readonly from: number; readonly count: number },
): Promise<{
  rows: number;
  columns: readonly { name: string; kind: Table['columns'][number]['kind'] }[];
  lines: readonly (readonly string[])[];
}> {
  const columns = [...table.kinds].map(([name, kind]) => ({ name, kind }));
  if (span && (table.entry.date ?? null) === null) return { rows: 0, columns, lines: [] };
  const counting = new Bindings();
  const paging = new Bindings();
  const cells = columns.map(({ name }) => `coalesce(${cellText(table.leaf(paging)(name))}, '')`);
  const limit = Number.isFinite(count) ? ` limit ${Math.max(0, Math.floor(count))}` : '';
  const [[[rows]], lines] = (await Promise.all([
    table.database.ask({
      text: `select count(*) from ${table.from}${conditionsOf(table, span, where, counting)}`,
      values: counting.values,
    }),
    table.database.ask({
      text: `select ${cells.join(', ')} from ${table.from}${conditionsOf(table, span, where, paging)} order by ${table.order}${limit} offset ${Math.max(0, Math.floor(from))}`,
      values: paging.values,
    }),
  ])) as [[[string]], (readonly string[])[]];
  return { rows: Number(rows), columns, lines };
}

/** A cell as it would be written in a file: numbers with the decimals of their column. */
function cellText(piece: Piece): string {
  if (piece.type !== 'number' || piece.decimals === null) return textOf(piece);
  return `round(${piece.sql}::numeric, ${piece.decimals})::text`;
}

async function profileOf(table: TableInSql, { facts }: Known): Promise<FieldsProfile> {
  const columns = await Promise.all([...table.kinds].map(([name]) => profileColumn(table, name)));
  return {
    file: table.entry.source.file,
    rows: facts.rows,
    date: facts.date,
    grain: facts.grain,
    from: facts.span && isoDay(facts.span.from),
    to: facts.span && isoDay(facts.span.to),
    columns,
    leftOut: [],
    leftOutCounts: [],
    totalsRows: [],
    noteRows: [],
    emptyLines: 0,
    doubts: [],
    wide: null,
  };
}

async function profileColumn(table: TableInSql, name: string): Promise<ColumnProfile> {
  const bindings = new Bindings();
  const piece = table.leaf(bindings)(name);
  const value = piece.type === 'text' ? `${piece.sql} collate "C"` : piece.type === 'yesno' ? textOf(piece) : piece.sql;
  const sum = piece.type === 'number' ? `sum(${value})` : 'null';
  const text = `select count(*) filter (where ${piece.sql} is null), count(distinct ${value}), min(${value})::text, max(${value})::text, ${sum}::text from ${table.from}`;
  const [row] = await table.database.ask({ text, values: bindings.values });
  const [blank, members, lowest, highest, total] = row!;
  const told = (of: string | null | undefined) =>
    of === null || of === undefined ? null : piece.type === 'number' ? Number(of) : of;
  return {
    name,
    type: piece.type,
    convention: '',
    blank: Number(blank),
    unread: 0,
    members: Number(members),
    lowest: told(lowest),
    highest: told(highest),
    ...(total === null || total === undefined ? {} : { sum: Number(total) }),
  };
}

const csvOf = (lines: readonly (readonly string[])[]): string =>
  lines.map((line) => line.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',')).join('\n');

/** Rows as typed columns, for a page that takes them along. */
async function extractOf(table: TableInSql, columns: readonly string[], span: Span | null): Promise<Table> {
  const bindings = new Bindings();
  const date = table.entry.date ?? null;
  const names = [...table.kinds.keys()].filter((name) => columns.includes(name) || name === date);
  const cells = names.map((name) => `coalesce(${cellText(leafOf(table, name, bindings))}, '')`);
  const where = conditionsOf(table, span, [], bindings);
  const statement: Statement = {
    text: `select ${cells.join(', ')} from ${table.from}${where} order by ${table.order} limit ${MOST_CARRIED + 1}`,
    values: bindings.values,
  };
  const lines = (await table.database.ask(statement)) as readonly (readonly string[])[];
  if (lines.length > MOST_CARRIED)
    throw new Problem(
      'too-many-rows',
      `more than ${MOST_CARRIED.toLocaleString('en')} rows would leave with it`,
      { in: `table “${table.id}”` },
      'choose fewer days, or let the page stay as it is drawn',
    );
  const types = names.map((name) => ({
    name,
    type: table.kinds.get(name)!,
    ...(table.kinds.get(name) === 'date' ? { read: 'yyyy-MM-dd' } : {}),
  }));
  const raw = await readCsv(table.id, csvOf([names, ...lines]), types);
  const { entry } = table;
  return makeTable(raw, { id: table.id, date, ...(entry.grain ? { grain: entry.grain } : {}), columns: types });
}
