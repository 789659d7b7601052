import { readIsoDay } from '../../calendar';
import { AGGREGATES, DATE_PARTS, type Aggregate, type Expression, type Rate, type ScalarName } from '../../measure';
import { decimalsOf, finer, MOST_DECIMALS, type Decimals } from '../../number';
import { decimalsOfRates, EVER, type ColumnKind } from '../../table';
import type { Piece, SqlWriter } from './dialect';

/** What a column of the table is in a statement. */
export type Leaf = (name: string) => Piece;

/** A checked expression of rows as SQL, with the meaning it has over columns in memory (see `compile`). */
export function pieceOf(e: Expression, leaf: Leaf, w: SqlWriter): Piece {
  const inner = (node: Expression) => pieceOf(node, leaf, w);
  switch (e.kind) {
    case 'number':
      return number(w.number(e.value, decimalsOf(e.value)), decimalsOf(e.value));
    case 'text':
      return { sql: w.text(e.value), type: 'text', decimals: 0 };
    case 'yesno':
      return truth(w.truth(e.value));
    case 'date':
      return { sql: w.day(readIsoDay(e.text)!), type: 'date', decimals: 0 };
    case 'null':
      return number(w.nothing('number'), 0);
    case 'column':
      return leaf(e.name);
    case 'aggregate':
      throw new Error('an aggregate cannot stand at row level');
    case 'unary': {
      const of = inner(e.of);
      return e.op === '-' ? number(`(- ${w.exact(of)})`, of.decimals) : truth(w.not(of.sql));
    }
    case 'binary':
      return binary(e.op, inner(e.left), inner(e.right), w);
    case 'compare':
      return truth(comparison(e.op, inner(e.of), inner(e.right), w));
    case 'between': {
      const [of, low, high] = [inner(e.of), inner(e.low), inner(e.high)];
      const sql = w.both('and', comparison('>=', of, low, w), comparison('<=', of, high, w));
      return truth(e.negated ? w.not(sql) : sql);
    }
    case 'in': {
      const of = inner(e.of);
      const each = e.list.map((item) => comparison('=', of, inner(item), w));
      const sql = each.length === 0 ? w.truth(false) : each.reduce((all, one) => w.both('or', all, one));
      return truth(e.negated ? w.not(sql) : sql);
    }
    case 'like': {
      const of = inner(e.of);
      return truth(of.type === 'text' ? w.like(of.sql, e.pattern, e.negated) : w.nothing('yesno'));
    }
    case 'isNull':
      return truth(`(${inner(e.of).sql} is ${e.negated ? 'not ' : ''}null)`);
    case 'case': {
      const results = [...e.branches.map(({ then }) => inner(then)), ...(e.otherwise ? [inner(e.otherwise)] : [])];
      const same = alternatives(results, w);
      const branches = e.branches.map(({ when }, i) => `when ${inner(when).sql} then ${same.sqls[i]!}`);
      const rest = e.otherwise ? ` else ${same.sqls.at(-1)!}` : '';
      return { sql: `(case ${branches.join(' ')}${rest} end)`, type: same.type, decimals: same.decimals };
    }
    case 'call':
      return e.name === 'round'
        ? rounded(inner(e.args[0]!), e.args[1], inner, w)
        : called(e.name, e.args.map(inner), w);
    case 'extract':
      oneOf(DATE_PARTS, e.part);
      return w.part(e.part, inner(e.of));
    case 'cast':
      return cast(e.type, inner(e.of), w);
    case 'rate':
      return rate(e, inner(e.of), e.day && inner(e.day), w);
    case 'converted':
      throw new Error('a converted aggregate cannot stand at row level');
  }
}

/** The rate of a row, as one case in another: by its currency, and by its day where there are several. */
function rate({ rates }: Rate, code: Piece, day: Piece | null, w: SqlWriter): Piece {
  const decimals = decimalsOfRates(rates);
  if (code.type !== 'text') return number(w.nothing('number'), decimals);
  const worth = (value: number) => {
    const own = decimalsOf(Number(value));
    const written = number(w.number(Number(value), own), own);
    return decimals === null ? w.floating(written) : w.exact(written, decimals);
  };
  const each = rates.flatMap(([name, spans]) => {
    if (spans.length === 0) return [];
    const isForAll = spans[0]![0] === EVER.from;
    const sql =
      day && !isForAll
        ? `(case ${spans.map(([from, to, value]) => `when ${day.sql} <= ${w.day(Number(to))} then case when ${day.sql} >= ${w.day(Number(from))} then ${worth(value)} end`).join(' ')} end)`
        : worth(spans[0]![2]);
    return [`when ${code.sql} = ${w.text(name)} then ${sql}`];
  });
  return number(each.length === 0 ? w.nothing('number') : `(case ${each.join(' ')} end)`, decimals);
}

const number = (sql: string, decimals: Decimals): Piece => ({ sql, type: 'number', decimals });
const truth = (sql: string): Piece => ({ sql, type: 'yesno', decimals: 0 });

/** What stands in a statement as it is written is one of a few words, whoever made the tree. */
function oneOf(words: readonly string[], word: string): void {
  if (!words.includes(word)) throw new Error(`“${word}” is no word of expressions`);
}

function binary(op: '+' | '-' | '*' | '/' | 'and' | 'or', left: Piece, right: Piece, w: SqlWriter): Piece {
  oneOf(['+', '-', '*', '/', 'and', 'or'], op);
  if (op === 'and' || op === 'or') return truth(w.both(op, left.sql, right.sql));
  if (op === '/') return number(w.quotient(w.floating(left), w.floating(right)), null);
  const decimals =
    op !== '*'
      ? finer(left.decimals, right.decimals)
      : left.decimals !== null && right.decimals !== null && left.decimals + right.decimals <= MOST_DECIMALS
        ? left.decimals + right.decimals
        : null;
  if (decimals === null) return number(`(${w.floating(left)} ${op} ${w.floating(right)})`, null);
  return number(`(${w.exact(left)} ${op} ${w.exact(right)})`, decimals);
}

/** Two pieces compared by one of a few words; letters by their code points, as everywhere in this program. */
export function comparison(op: string, left: Piece, right: Piece, w: SqlWriter): string {
  oneOf(['=', '<>', '<', '<=', '>', '>='], op);
  if (left.type === 'text' && right.type === 'text') return `(${left.sql} ${op} ${w.ordered(right.sql)})`;
  if (left.type === 'text' || right.type === 'text') return w.nothing('yesno');
  if (left.type === right.type && left.type !== 'number') return `(${left.sql} ${op} ${right.sql})`;
  const as = left.decimals === null || right.decimals === null ? w.floating : w.exact;
  return `(${as(left)} ${op} ${as(right)})`;
}

/** Alternatives brought to one type, so that any of them may be the value. */
function alternatives(
  items: readonly Piece[],
  w: SqlWriter,
): { readonly sqls: readonly string[]; readonly type: ColumnKind; readonly decimals: Decimals } {
  if (items.some(({ type }) => type === 'text'))
    return {
      sqls: items.map((item) => (item.type === 'text' ? item.sql : w.nothing('text'))),
      type: 'text',
      decimals: 0,
    };
  const type = items.every((item) => item.type === items[0]!.type) ? items[0]!.type : 'number';
  const decimals = items.reduce<Decimals>((d, item) => finer(d, item.decimals), 0);
  const as = (item: Piece) =>
    type !== 'number' ? item.sql : decimals === null ? w.floating(item) : w.exact(item, decimals);
  return { sqls: items.map(as), type, decimals };
}

/** A number of places that is written keeps the result exact, and is no value of the statement. */
function rounded(of: Piece, places: Expression | undefined, inner: (e: Expression) => Piece, w: SqlWriter): Piece {
  const fixed = places === undefined ? 0 : places.kind === 'number' ? places.value : null;
  const whole = fixed !== null && Number.isInteger(fixed) && fixed >= 0 && fixed <= MOST_DECIMALS ? fixed : null;
  return number(w.rounded(of, whole ?? 0, whole === null ? inner(places!) : null), whole);
}

function called(name: Exclude<ScalarName, 'round'>, args: readonly Piece[], w: SqlWriter): Piece {
  const [first, second] = args as [Piece, Piece | undefined];
  switch (name) {
    case 'abs':
      return number(`abs(${w.exact(first)})`, first.decimals);
    case 'sign':
      return number(w.sign(w.exact(first)), 0);
    case 'nullif':
      return {
        type: first.type,
        decimals: first.decimals,
        sql: `(case when ${comparison('=', first, second!, w)} then null else ${first.sql} end)`,
        ...(first.isNarrow ? { isNarrow: true } : {}),
      };
    case 'coalesce': {
      const { sqls, type, decimals } = alternatives(args, w);
      return { sql: `coalesce(${sqls.join(', ')})`, type, decimals };
    }
    case 'greatest':
    case 'least': {
      const { sqls, type, decimals } = alternatives(args, w);
      // ISO SQL: nothing where one is nothing.
      const missing = sqls.map((sql) => `${sql} is null`).join(' or ');
      return { sql: `(case when ${missing} then null else ${w.extreme(name, sqls, type)} end)`, type, decimals };
    }
  }
}

function cast(to: string, of: Piece, w: SqlWriter): Piece {
  if (to === 'text') return { sql: textOf(of, w), type: 'text', decimals: 0 };
  if (to === 'date') return of.type === 'text' ? { sql: w.dayIn(of.sql), type: 'date', decimals: 0 } : of;
  if (of.type === 'text') return number(w.numberIn(of.sql), null);
  if (to === 'integer') return number(w.rounded(of, 0, null), 0);
  return number(w.exact(of), of.decimals);
}

/** A value as its text, as a field’s members are called: numbers without needless zeros, yes and no. Null where it is blank. */
export const textOf = (of: Piece, w: SqlWriter): string => (of.type === 'text' ? of.sql : w.shown(of));

/** An aggregate as SQL, and the decimals its value is exact to. */
export function aggregatePiece(aggregate: Aggregate, leaf: Leaf, w: SqlWriter): Piece {
  const { fn, of, distinct, filter, p } = aggregate;
  oneOf(AGGREGATES, fn);
  const how = { distinct, filter: filter && pieceOf(filter, leaf, w).sql, p: Number(p ?? 0.5) };
  if (of === null) return number(w.aggregate('count', null, how), 0);
  const inner = pieceOf(of, leaf, w);
  // Of texts only whether there is one matters, and which.
  const argument = inner.type === 'number' || inner.type === 'text' ? inner : number(w.exact(inner), inner.decimals);
  const decimals = fn === 'count' ? 0 : fn === 'sum' || fn === 'min' || fn === 'max' ? argument.decimals : null;
  return number(w.aggregate(fn, argument, how), decimals);
}
