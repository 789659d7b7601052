import type { Span } from '../../calendar';
import { power } from '../../number';
import { Problem } from '../../problem';
import type { ColumnKind } from '../../table';
import type { DatabaseColumn } from './database';
import { exactDecimals, type SqlDialect, type Piece, type SqlWriter } from './dialect';

/** SQL as ClickHouse 18.16 and later read it. It binds no values: `written` writes each into the text. */
export const CLICKHOUSE: SqlDialect = { engine: 'ClickHouse', hasGroupingSets: false, quoted, readable, begin };

/** A text between two marks; inside, a backslash says that the next letter is meant as it is. */
const between = (mark: string, text: string): string =>
  `${mark}${text.replaceAll('\0', '').replaceAll('\\', '\\\\').replaceAll(mark, `\\${mark}`)}${mark}`;

/** A name, whatever is in it; it cannot hold a NUL. */
function quoted(name: string): string {
  return between('"', name);
}

/** A text as a literal, whatever is in it, but for NUL, which no text that is compared here has. */
export const written = (text: string): string => between("'", text);

/** Inside, it calls what is computed by how that is written: such a name could be a number, a text, or a function of something. */
const isDoubtful = (name: string): boolean =>
  /[()'"`[\],]|^[^\p{L}_]/u.test(name) || /^(?:null|nan|inf|true|false)$/i.test(name);

/** Columns with such names are read under others. Between its servers one called `null` is nothing: it is left out. */
function readable(from: string, all: readonly DatabaseColumn[]) {
  const columns = all.filter(({ name }) => !/^null$/i.test(name));
  if (!columns.some(({ name }) => isDoubtful(name))) return { from, columns };
  const taken = new Set(columns.map(({ name }) => name));
  let next = 0;
  const free = (): string => {
    do next++;
    while (taken.has(`column ${next}`));
    return `column ${next}`;
  };
  const called = columns.map((column) => (isDoubtful(column.name) ? { ...column, as: free() } : column));
  const list = called.map(({ name, as = name }) => `${quoted(name)} as ${quoted(as)}`);
  return { from: `(select ${list.join(', ')} from ${from}) as "rows"`, columns: called };
}

const NUMBER_TEXT = written('^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$');
const DAY_TEXT = written('^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])');

/** The last day its type has: 2105-12-31. Its first one, 1970-01-01, stands for no day. */
const LAST_DAY = 49_672;
const FIRST_DAY = 1;

const NOTHING: Readonly<Record<ColumnKind, string>> = {
  text: 'cast(null as Nullable(String))',
  number: 'cast(null as Nullable(Decimal(38, 0)))',
  date: 'cast(null as Nullable(Int32))',
  yesno: 'cast(null as Nullable(UInt8))',
};

const PARTS = {
  year: 'toYear',
  quarter: 'toQuarter',
  month: 'toMonth',
  week: 'toISOWeek',
  day: 'toDayOfMonth',
  dow: 'toDayOfWeek',
} as const;

/** So little more that halves which floating numbers miss are halves again: as with 15 digits. */
const NUDGE = '1.000000000000001';

const decimal = (sql: string, decimals: number) => `toDecimal128(${sql}, ${decimals})`;

/** Numbers of its own days: pieces of days are whole numbers here, so that no day is out of their reach when compared. */
const dateOf = (days: string) => `toDate(toUInt16(${days}))`;

function begin(): SqlWriter {
  return WRITING;
}

const exact = (of: Piece, decimals = of.decimals): string => {
  if (of.type !== 'number') return decimal(of.sql, 0);
  return decimals !== null && (of.isNarrow || decimals !== of.decimals) ? decimal(of.sql, decimals) : of.sql;
};

const floating = (of: Piece): string => `toFloat64(${of.sql})`;

/** A statement has nothing but its text, so all are written by the same. */
const WRITING: SqlWriter = {
  values: [],
  text: written,
  number: (value, decimals) =>
    decimals === null ? `toFloat64(${written(String(value))})` : decimal(written(value.toFixed(decimals)), decimals),
  truth: (is) => (is ? '1' : '0'),
  day: (days) => {
    if (days < FIRST_DAY || days > LAST_DAY)
      throw new Problem(
        'not-in-database',
        'days there lie from 1970-01-02 to 2105-12-31',
        { in: 'expression' },
        'use a day between them',
      );
    return `toInt32(${days})`;
  },
  nothing: (kind) => NOTHING[kind],
  column,
  finestDecimals: () => {
    throw new Error('types of this engine tell their decimals');
  },
  exact,
  floating,
  ordered: (sql) => sql,
  // To other servers it writes `(not a) = b` as `not a = b`, which they read as `not (a = b)`.
  not: (truth) => `(${truth} = 0)`,
  // Its own `and` and `or` take nothing for no. Twice a truth is 0 or 2 and nothing lies between: the less, the greater.
  both: (op, left, right) => {
    const [a, b] = [left, right].map((truth) => `ifNull(${truth} * 2, 1)`);
    return `(nullIf(${op === 'and' ? 'least' : 'greatest'}(${a}, ${b}), 1) > 0)`;
  },
  // A backslash in a pattern is no sign of ours.
  like: (of, pattern, negated) =>
    `(${of} ${negated ? 'not like' : 'like'} ${written(pattern.replaceAll('\\', '\\\\'))})`,
  quotient: (left, right) => `(${left} / nullIf(${right}, 0))`,
  part: (part, day) => ({
    sql: `${PARTS[part]}(${dateOf(day.sql)})`,
    type: 'number',
    decimals: 0,
    isNarrow: true,
  }),
  sign: (of) => decimal(`case when ${of} > 0 then 1 when ${of} < 0 then -1 when ${of} = 0 then 0 end`, 0),
  rounded: (of, digits, places) => {
    if (places) {
      const scale = `exp10(${floating(places)})`;
      return `(round(${floating(of)} * ${scale} * ${NUDGE}) / ${scale})`;
    }
    if (of.decimals !== null) return decimal(`round(${exact(of)}, ${digits})`, digits);
    // First whole, then with its point: what is floating lies beside its last digit.
    const whole = decimal(`round(${of.sql} * ${power(digits)} * ${NUDGE})`, 0);
    return digits === 0 ? whole : `(${whole} * ${decimal(written((1 / power(digits)).toFixed(digits)), digits)})`;
  },
  extreme: (name, sqls) =>
    `arrayReduce('${name === 'greatest' ? 'max' : 'min'}', [${sqls.map((sql) => `assumeNotNull(${sql})`).join(', ')}])`,
  numberIn: (text) => {
    const trimmed = `replaceRegexpAll(${text}, '^ +| +$', '')`;
    return `(case when match(${trimmed}, ${NUMBER_TEXT}) then toFloat64OrZero(replaceRegexpOne(${trimmed}, '^[+]', '')) end)`;
  },
  // 2025-02-30 would be 2 March here, and is none. Beyond its days it stops rather than say a wrong one.
  dayIn: (text) => {
    const isDay = `match(${text}, ${DAY_TEXT})`;
    const day = `substring(${text}, 1, 10)`;
    const year = `substring(${text}, 1, 4)`;
    const beyond = `throwIf(ifNull(${isDay} = 1 and (${year} < '1970' or ${year} > '2105'), 0))`;
    const own = `toDateOrZero(${day})`;
    return `(case when ${beyond} then null when ${isDay} and toString(${own}) = ${day} then toInt32(${own}) end)`;
  },
  dayNumber: (day) => day,
  shown: (of) => {
    if (of.type === 'date') return `toString(${dateOf(of.sql)})`;
    if (of.type === 'yesno') return `(case when ${of.sql} = 1 then 'yes' when ${of.sql} = 0 then 'no' end)`;
    // Zero has no sign.
    if (of.decimals === null) return `toString(${of.sql} + 0)`;
    const text = `toString(${exact(of)})`;
    return of.decimals === 0 ? text : `replaceRegexpOne(${text}, '[.]?0+$', '')`;
  },
  withDecimals: (of, decimals) => `toString(${exact(of, decimals)})`,
  isOneOf: (text, names) => `(${text} in (${names.map(written).join(', ')}))`,
  holds: (text, small, asTyped) =>
    `(position(lowerUTF8(${text}), ${written(small)}) > 0 or position(${text}, ${written(asTyped)}) > 0)`,
  within: (day, { from, to }) => {
    const [first, last] = [Math.max(from, FIRST_DAY), Math.min(to, LAST_DAY)];
    if (first > last) return '0';
    return day.raw === undefined
      ? `${day.sql} between ${first} and ${last}`
      : `${day.raw} between ${dateOf(String(first))} and ${dateOf(String(last))}`;
  },
  stepOf,
  aggregate: (fn, of, { distinct, filter, p }) => {
    const own = of?.sql ?? '1';
    const argument = filter === null ? own : `(case when ${filter} then ${own} end)`;
    if (of === null) return filter === null ? 'count(*)' : `count(${argument})`;
    const floats = `${distinct ? 'groupUniqArray' : 'groupArray'}(toFloat64(${argument}))`;
    const many = distinct ? `ifNull(uniqExact(${argument}), 0)` : `count(${argument})`;
    const orNothing = (least: number, sql: string) => `if(${many} < ${least}, null, ${sql})`;
    switch (fn) {
      case 'count':
        return many;
      case 'sum':
        return distinct ? orNothing(1, `arrayReduce('sum', groupUniqArray(${argument}))`) : `sum(${argument})`;
      case 'min':
      case 'max':
        return `${fn}(${argument})`;
      case 'avg':
        if (distinct) return orNothing(1, `arrayReduce('avg', ${floats})`);
        return of.decimals === null ? `avg(${argument})` : `(toFloat64(sum(${argument})) / ${many})`;
      // Its own has one pass over squares, in which large numbers lose their difference.
      case 'stddev_samp': {
        const away = `(v - arrayReduce('avg', ${floats}))`;
        const squares = `arraySum(v -> ${away} * ${away}, ${floats})`;
        return orNothing(2, `sqrt(${squares} / (${many} - 1))`);
      }
      // Its own takes the nearest value: ours lies between two.
      case 'percentile_cont': {
        const place = `(${p} * (${many} - 1))`;
        const at = (round: string) => `arraySort(${floats})[toUInt64(${round}${place}) + 1]`;
        const part = `(${place} - floor${place})`;
        return orNothing(1, `${at('floor')} + (${at('ceil')} - ${at('floor')}) * ${part}`);
      }
    }
  },
  grouped: (sqls) => sqls.join(', '),
  page: (count, from) => {
    const first = Math.floor(from);
    if (!Number.isFinite(count)) return first > 0 ? ` limit ${first}, ${Number.MAX_SAFE_INTEGER}` : '';
    return ` limit ${first > 0 ? `${first}, ` : ''}${Math.floor(count)}`;
  },
};

/** Each day’s step in a table of them: those that a group does not tell apart are not. */
function stepOf(day: string, starts: readonly number[], { from, to }: Span): string {
  const days: number[] = [];
  const steps: number[] = [];
  let step = 0;
  for (let one = from; one <= to; one++) {
    while (step < starts.length && starts[step]! <= one) step++;
    days.push(one);
    steps.push(step);
  }
  return `transform(${day}, [${days.join(',')}], [${steps.join(',')}], 0)`;
}

/** What a type of this engine is here. */
export function clickhouseColumn(name: string, written: string): DatabaseColumn {
  let type = written;
  for (;;) {
    const inner = /^(?:Nullable|LowCardinality)\((.*)\)$/.exec(type)?.[1];
    if (inner === undefined) break;
    type = inner;
  }
  const decimals = /^Decimal\(\d+, (\d+)\)$/.exec(type)?.[1];
  if (decimals !== undefined) return { name, kind: 'number', decimals: Number(decimals), type };
  if (/^U?Int\d+$/.test(type)) return { name, kind: 'number', decimals: 0, isInteger: true, type };
  if (/^Float\d+$/.test(type)) return { name, kind: 'number', decimals: null, type };
  if (type === 'Date' || type === 'Date32') return { name, kind: 'date', type };
  if (/^DateTime/.test(type)) return { name, kind: 'date', isTimed: true, type };
  if (type === 'Bool') return { name, kind: 'yesno', type };
  return { name, kind: /^(?:String|FixedString|Enum|UUID|IPv)/.test(type) ? 'text' : null, type };
}

function column(described: DatabaseColumn, as: ColumnKind | null): Piece {
  const { name, as: called = name, kind, isInteger, isTimed, type } = described;
  const sql = quoted(called);
  if (as === 'text' || kind === 'text') {
    const raw = type === 'String' ? sql : `toString(${sql})`;
    return { sql: `nullIf(${raw}, '')`, type: 'text', decimals: 0, raw };
  }
  if (as === 'yesno' && isInteger) return { sql: `(${sql} <> 0)`, type: 'yesno', decimals: 0 };
  if (kind === 'date') {
    const raw = isTimed ? `toDate(${sql})` : sql;
    return { sql: `nullIf(toInt32(${raw}), 0)`, type: 'date', decimals: 0, raw };
  }
  if (kind === 'yesno') return { sql, type: 'yesno', decimals: 0 };
  const decimals = exactDecimals(described);
  if (decimals === null) return { sql: `toFloat64(${sql})`, type: 'number', decimals };
  // Sums of these stay in their type, which is too small for them.
  if (isInteger && /(?:64|128|256)$/.test(type ?? '')) return { sql: decimal(sql, 0), type: 'number', decimals: 0 };
  return { sql, type: 'number', decimals, isNarrow: true };
}
