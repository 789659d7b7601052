import { isoDay } from '../../calendar';
import type { ColumnKind } from '../../table';
import type { DatabaseColumn } from './database';
import { exactDecimals, type SqlDialect, type Piece, type SqlWriter } from './dialect';

/** A name cannot hold a NUL. */
const quoted = (name: string): string => `"${name.replaceAll('\0', '').replaceAll('"', '""')}"`;

const EPOCH = "date '1970-01-01'";
const NUMBER_TEXT = "'^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$'";
const NOTHING = { text: 'null::text', number: 'null::numeric', date: 'null::date', yesno: 'null::boolean' } as const;

/** SQL as PostgreSQL 12 and later read it; every value is bound. */
export const POSTGRESQL: SqlDialect = {
  engine: 'PostgreSQL',
  hasGroupingSets: true,
  quoted,
  readable: (from, columns) => ({ from, columns }),
  begin,
};

function begin(): SqlWriter {
  const values: (string | readonly string[])[] = [];
  /** The place of a value, as a type of the database. A text in it cannot hold a NUL: no row has one. */
  const bind = (value: string | readonly string[], type: string): string => {
    const clean = (text: string) => text.replaceAll('\0', '');
    values.push(typeof value === 'string' ? clean(value) : value.map(clean));
    return `$${values.length}::${type}`;
  };
  const dayNumber = (day: string) => `(${day} - ${EPOCH})`;
  // In arithmetic whole numbers must not leave their type, and not be divided as such.
  const exact = (of: Piece): string => {
    if (of.type === 'date') return `${dayNumber(of.sql)}::numeric`;
    if (of.type === 'yesno') return `${of.sql}::int::numeric`;
    return of.isNarrow ? `${of.sql}::numeric` : of.sql;
  };
  const floating = (of: Piece) => `${exact(of)}::float8`;
  const ordered = (sql: string) => `${sql} collate "C"`;
  return {
    values,
    text: (value) => bind(value, 'text'),
    number: (value) => bind(String(value), 'numeric'),
    truth: (is) => (is ? 'true' : 'false'),
    day: (days) => bind(isoDay(days), 'date'),
    nothing: (kind) => NOTHING[kind],
    column,
    finestDecimals: (name) => `max(scale(trim_scale(${quoted(name)})))`,
    exact,
    floating,
    ordered,
    not: (truth) => `(not ${truth})`,
    both: (op, left, right) => `(${left} ${op} ${right})`,
    like: (of, pattern, negated) => `(${of} ${negated ? 'not like' : 'like'} ${bind(pattern, 'text')} escape '')`,
    quotient: (left, right) => `(${left} / nullif(${right}, 0))`,
    part: (part, day) => ({
      sql: `extract(${part === 'dow' ? 'isodow' : part} from ${day.sql})::numeric`,
      type: 'number',
      decimals: 0,
    }),
    sign: (of) => `sign(${of})::numeric`,
    rounded: (of, digits, places) => {
      const number = `${exact(of)}::numeric`;
      return places
        ? `round(${number}, ${exact(places)}::int)::float8`
        : `round(${number}${digits === 0 ? '' : `, ${digits}`})`;
    },
    extreme: (name, sqls, type) => `${name}(${(type === 'text' ? sqls.map(ordered) : sqls).join(', ')})`,
    numberIn: (text) => {
      const trimmed = `btrim(${text})`;
      return `(case when ${trimmed} ~ ${NUMBER_TEXT} then ${trimmed}::float8 end)`;
    },
    // 2025-02-30 is none.
    dayIn: (text) => {
      const part = (from: number, length: number) => `substr(${text}, ${from}, ${length})::int`;
      const first = `make_date(greatest(${part(1, 4)}, 1), ${part(6, 2)}, 1)`;
      const day = `(${first} + (${part(9, 2)} - 1))`;
      const isDay = `${text} ~ '^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])'`;
      return `(case when ${isDay} then case when extract(month from ${day}) = ${part(6, 2)} then ${day} end end)`;
    },
    dayNumber,
    shown: (of) => {
      if (of.type === 'date') return `to_char(${of.sql}, 'YYYY-MM-DD')`;
      if (of.type === 'yesno') return `(case ${of.sql} when true then 'yes' when false then 'no' end)`;
      // Zero has no sign.
      return of.decimals === null ? `(${of.sql} + 0)::text` : `trim_scale(${exact(of)})::text`;
    },
    withDecimals: (of, decimals) => `round(${of.sql}::numeric, ${decimals})::text`,
    isOneOf: (text, names) =>
      names.length === 1 ? `${text} = ${bind(names[0]!, 'text')}` : `${text} = any (${bind(names, 'text[]')})`,
    holds: (text, small, asTyped) =>
      `(position(${bind(small, 'text')} in lower(${text})) > 0 or position(${bind(asTyped, 'text')} in ${text}) > 0)`,
    within: (day, span) => {
      const [from, to] = [span.from, span.to].map((one) => bind(isoDay(one), 'date'));
      return `${day.sql} between ${from} and ${to}`;
    },
    stepOf: (day, starts) => `width_bucket(${day}, ${bind(starts.map(isoDay), 'date[]')})`,
    aggregate: (fn, of, { distinct, filter, p }) => {
      const only = filter === null ? '' : ` filter (where ${filter})`;
      if (of === null) return `count(*)${only}`;
      const each = distinct ? 'distinct ' : '';
      switch (fn) {
        case 'count':
        case 'sum':
        case 'min':
        case 'max':
          return `${fn}(${each}${of.sql})${only}`;
        case 'avg':
        case 'stddev_samp':
          return `${fn}(${each}${of.sql})${only}::float8`;
        case 'percentile_cont':
          return `percentile_cont(${bind(String(p), 'float8')}) within group (order by ${floating(of)})${only}`;
      }
    },
    grouped: (_, places) => places.join(', '),
    page: (count, from) =>
      `${Number.isFinite(count) ? ` limit ${Math.floor(count)}` : ''}${from > 0 ? ` offset ${Math.floor(from)}` : ''}`,
  };
}

function column(described: DatabaseColumn, as: ColumnKind | null): Piece {
  const { name, kind, isInteger, isTimed } = described;
  const sql = quoted(name);
  if (as === 'text' || kind === 'text')
    return { sql: `nullif(${sql}::text, '')`, type: 'text', decimals: 0, raw: `${sql}::text` };
  if (as === 'yesno' && isInteger) return { sql: `(${sql} <> 0)`, type: 'yesno', decimals: 0 };
  if (kind === 'date') return { sql: isTimed ? `${sql}::date` : sql, type: 'date', decimals: 0 };
  if (kind === 'yesno') return { sql, type: 'yesno', decimals: 0 };
  if (isInteger) return { sql, type: 'number', decimals: 0, isNarrow: true };
  const decimals = exactDecimals(described);
  return { sql: decimals === null ? `${sql}::float8` : sql, type: 'number', decimals };
}
