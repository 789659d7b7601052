import { isoDay, readIsoDay } from '../../calendar';
import { AGGREGATES, DATE_PARTS, type Aggregate, type Expression, type ScalarName } from '../../measure';
import { decimalsOf, finer, MOST_DECIMALS, type Decimals } from '../../number';
import type { ColumnKind } from '../../table';
import type { Bindings } from './database';

/** A piece of a statement with the type of its value. Null stands where the value is blank. */
export interface Piece {
  readonly sql: string;
  readonly type: ColumnKind;
  /** As in memory: decimals of numbers that are exact. */
  readonly decimals: Decimals;
  readonly isInteger?: true;
  /** Of a column of text, the column itself, which an index may be on: blank there is null or empty. */
  readonly raw?: string;
}

/** What a column of the table is in a statement. */
export type Leaf = (name: string) => Piece;

const EPOCH = "date '1970-01-01'";

/** A checked expression of rows as SQL, with the meaning it has over columns in memory (see `compile`). */
export function pieceOf(e: Expression, leaf: Leaf, bindings: Bindings): Piece {
  const inner = (node: Expression) => pieceOf(node, leaf, bindings);
  const truth = (sql: string): Piece => ({ sql, type: 'yesno', decimals: 0 });
  switch (e.kind) {
    case 'number':
      return { sql: bindings.bind(String(e.value), 'numeric'), type: 'number', decimals: decimalsOf(e.value) };
    case 'text':
      return { sql: bindings.bind(e.value, 'text'), type: 'text', decimals: 0 };
    case 'yesno':
      return truth(e.value ? 'true' : 'false');
    case 'date':
      return { sql: bindings.bind(isoDay(readIsoDay(e.text)!), 'date'), type: 'date', decimals: 0 };
    case 'null':
      return { sql: 'null::numeric', type: 'number', decimals: 0 };
    case 'column':
      return leaf(e.name);
    case 'aggregate':
      throw new Error('an aggregate cannot stand at row level');
    case 'unary': {
      const of = inner(e.of);
      return e.op === '-' ? { ...exact(of), sql: `(- ${exact(of).sql})` } : truth(`(not ${of.sql})`);
    }
    case 'binary':
      return binary(e.op, inner(e.left), inner(e.right), truth);
    case 'compare':
      return truth(comparison(e.op, inner(e.of), inner(e.right)));
    case 'between': {
      const [of, low, high] = [inner(e.of), inner(e.low), inner(e.high)];
      const sql = `(${comparison('>=', of, low)} and ${comparison('<=', of, high)})`;
      return truth(e.negated ? `(not ${sql})` : sql);
    }
    case 'in': {
      const of = inner(e.of);
      const sql = `(${e.list.map((item) => comparison('=', of, inner(item))).join(' or ') || 'false'})`;
      return truth(e.negated ? `(not ${sql})` : sql);
    }
    case 'like': {
      const of = inner(e.of);
      if (of.type !== 'text') return truth('null::boolean');
      return truth(`(${of.sql} ${e.negated ? 'not like' : 'like'} ${bindings.bind(e.pattern, 'text')} escape '')`);
    }
    case 'isNull':
      return truth(`(${inner(e.of).sql} is ${e.negated ? 'not ' : ''}null)`);
    case 'case': {
      const results = [...e.branches.map(({ then }) => inner(then)), ...(e.otherwise ? [inner(e.otherwise)] : [])];
      const same = alternatives(results);
      const branches = e.branches.map(({ when }, i) => `when ${inner(when).sql} then ${same.sqls[i]!}`);
      const rest = e.otherwise ? ` else ${same.sqls.at(-1)!}` : '';
      return { sql: `(case ${branches.join(' ')}${rest} end)`, type: same.type, decimals: same.decimals };
    }
    case 'call':
      return called(e.name, e.args.map(inner), e.args[1]);
    case 'extract': {
      oneOf(DATE_PARTS, e.part);
      const part = e.part === 'dow' ? 'isodow' : e.part;
      return { sql: `extract(${part} from ${inner(e.of).sql})::numeric`, type: 'number', decimals: 0 };
    }
    case 'cast':
      return cast(e.type, inner(e.of));
  }
}

/** Days since 1970-01-01. */
export const dayNumber = (sql: string): string => `(${sql} - ${EPOCH})`;

/** In arithmetic whole numbers must not leave their type, and not be divided as such. */
function exact(of: Piece): Piece {
  if (of.type === 'date') return { sql: `${dayNumber(of.sql)}::numeric`, type: 'number', decimals: 0 };
  if (of.type === 'yesno') return { sql: `${of.sql}::int::numeric`, type: 'number', decimals: 0 };
  return of.isInteger ? { sql: `${of.sql}::numeric`, type: of.type, decimals: of.decimals } : of;
}

const floating = (of: Piece): string => `${exact(of).sql}::float8`;

/** What stands in a statement as it is written is one of a few words, whoever made the tree. */
function oneOf(words: readonly string[], word: string): void {
  if (!words.includes(word)) throw new Error(`“${word}” is no word of expressions`);
}

function binary(
  op: '+' | '-' | '*' | '/' | 'and' | 'or',
  left: Piece,
  right: Piece,
  truth: (sql: string) => Piece,
): Piece {
  oneOf(['+', '-', '*', '/', 'and', 'or'], op);
  if (op === 'and' || op === 'or') return truth(`(${left.sql} ${op} ${right.sql})`);
  const number = (sql: string, decimals: Decimals): Piece => ({ sql, type: 'number', decimals });
  if (op === '/') return number(`(${floating(left)} / nullif(${floating(right)}, 0))`, null);
  const decimals =
    op !== '*'
      ? finer(left.decimals, right.decimals)
      : left.decimals !== null && right.decimals !== null && left.decimals + right.decimals <= MOST_DECIMALS
        ? left.decimals + right.decimals
        : null;
  if (decimals === null) return number(`(${floating(left)} ${op} ${floating(right)})`, null);
  return number(`(${exact(left).sql} ${op} ${exact(right).sql})`, decimals);
}

function comparison(op: string, left: Piece, right: Piece): string {
  oneOf(['=', '<>', '<', '<=', '>', '>='], op);
  // Letters are compared by their code points, as everywhere in this program.
  if (left.type === 'text' && right.type === 'text') return `(${left.sql} ${op} ${right.sql} collate "C")`;
  if (left.type === 'text' || right.type === 'text') return 'null::boolean';
  const plain = left.type === right.type && left.type !== 'number';
  return plain ? `(${left.sql} ${op} ${right.sql})` : `(${exact(left).sql} ${op} ${exact(right).sql})`;
}

/** Alternatives brought to one type, so that any of them may be the value. */
function alternatives(items: readonly Piece[]): {
  readonly sqls: readonly string[];
  readonly type: ColumnKind;
  readonly decimals: Decimals;
} {
  if (items.some(({ type }) => type === 'text'))
    return { sqls: items.map((item) => (item.type === 'text' ? item.sql : 'null::text')), type: 'text', decimals: 0 };
  const type = items.every((item) => item.type === items[0]!.type) ? items[0]!.type : 'number';
  const decimals = items.reduce<Decimals>((d, item) => finer(d, item.decimals), 0);
  const as = (item: Piece) => (type !== 'number' ? item.sql : decimals === null ? floating(item) : exact(item).sql);
  return { sqls: items.map(as), type, decimals };
}

function called(name: ScalarName, args: readonly Piece[], places: Expression | undefined): Piece {
  const [first, second] = args as [Piece, Piece | undefined];
  switch (name) {
    case 'abs':
      return { ...exact(first), sql: `abs(${exact(first).sql})` };
    case 'sign':
      return { sql: `sign(${exact(first).sql})::numeric`, type: 'number', decimals: 0 };
    case 'round': {
      const fixed = places === undefined ? 0 : places.kind === 'number' ? places.value : null;
      const whole = fixed !== null && Number.isInteger(fixed) && fixed >= 0 && fixed <= MOST_DECIMALS ? fixed : null;
      const sql = `round(${exact(first).sql}::numeric${second ? `, ${exact(second).sql}::int` : ''})`;
      return whole === null
        ? { sql: `${sql}::float8`, type: 'number', decimals: null }
        : { sql, type: 'number', decimals: whole };
    }
    case 'nullif':
      return { ...first, sql: `(case when ${comparison('=', first, second!)} then null else ${first.sql} end)` };
    case 'coalesce': {
      const { sqls, type, decimals } = alternatives(args);
      return { sql: `coalesce(${sqls.join(', ')})`, type, decimals };
    }
    case 'greatest':
    case 'least': {
      const { sqls, type, decimals } = alternatives(args);
      // ISO SQL: nothing where one is nothing. Letters are compared by their code points.
      const compared = type === 'text' ? sqls.map((sql) => `${sql} collate "C"`) : sqls;
      const missing = sqls.map((sql) => `${sql} is null`).join(' or ');
      return { sql: `(case when ${missing} then null else ${name}(${compared.join(', ')}) end)`, type, decimals };
    }
  }
}

const NUMBER_TEXT = "'^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$'";

function cast(to: string, of: Piece): Piece {
  if (to === 'text') return { sql: textOf(of), type: 'text', decimals: 0 };
  if (to === 'date') return of.type === 'text' ? { sql: dateOfText(of.sql), type: 'date', decimals: 0 } : of;
  if (of.type === 'text') {
    const text = `btrim(${of.sql})`;
    return {
      sql: `(case when ${text} ~ ${NUMBER_TEXT} then ${text}::float8 end)`,
      type: 'number',
      decimals: null,
    };
  }
  if (to === 'integer') return { sql: `round(${exact(of).sql}::numeric)`, type: 'number', decimals: 0 };
  return exact({ ...of });
}

/** A text of ten letters that is a day is that day; 2025-02-30 is none. */
function dateOfText(text: string): string {
  const part = (from: number, length: number) => `substr(${text}, ${from}, ${length})::int`;
  const first = `make_date(greatest(${part(1, 4)}, 1), ${part(6, 2)}, 1)`;
  const day = `(${first} + (${part(9, 2)} - 1))`;
  const isDay = `${text} ~ '^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])'`;
  return `(case when ${isDay} then case when extract(month from ${day}) = ${part(6, 2)} then ${day} end end)`;
}

/** A value as its text, as a field’s members are called: numbers without needless zeros, yes and no. Null where it is blank. */
export function textOf(of: Piece): string {
  switch (of.type) {
    case 'text':
      return of.sql;
    case 'number':
      return of.decimals === null ? `${of.sql}::text` : `trim_scale(${exact(of).sql})::text`;
    case 'date':
      return `to_char(${of.sql}, 'YYYY-MM-DD')`;
    case 'yesno':
      return `(case ${of.sql} when true then 'yes' when false then 'no' end)`;
  }
}

/** An aggregate as SQL, and the decimals its value is exact to. */
export function aggregatePiece(aggregate: Aggregate, leaf: Leaf, bindings: Bindings): Piece {
  const { fn, of, distinct, filter, p } = aggregate;
  oneOf(AGGREGATES, fn);
  const only = filter ? ` filter (where ${pieceOf(filter, leaf, bindings).sql})` : '';
  const number = (sql: string, decimals: Decimals): Piece => ({ sql, type: 'number', decimals });
  if (of === null) return number(`count(*)${only}`, 0);
  const inner = pieceOf(of, leaf, bindings);
  // Of texts only whether there is one matters, and which.
  const argument = inner.type === 'number' || inner.type === 'text' ? inner : exact(inner);
  const each = distinct ? 'distinct ' : '';
  switch (fn) {
    case 'count':
      return number(`count(${each}${argument.sql})${only}`, 0);
    case 'sum':
      return number(`sum(${each}${argument.sql})${only}`, argument.decimals);
    case 'min':
    case 'max':
      return number(`${fn}(${argument.sql})${only}`, argument.decimals);
    case 'avg':
      return number(`avg(${each}${argument.sql})${only}::float8`, null);
    case 'stddev_samp':
      return number(`stddev_samp(${each}${argument.sql})${only}::float8`, null);
    case 'percentile_cont': {
      const part = bindings.bind(String(p ?? 0.5), 'float8');
      return number(`percentile_cont(${part}) within group (order by ${floating(argument)})${only}`, null);
    }
  }
}
