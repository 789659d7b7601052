import { Problem } from '../problem';
import type { Rates } from '../table';
import { aggregatesOf, withParts, type Aggregate, type At, type Expression, type Rate } from './expression';

const NOWHERE: At = [0, 0];

/** How the amounts of a table become one currency. */
export interface Conversion {
  /** The column with each row's currency. */
  readonly column: string;
  /** The column with each row's day; null where one rate holds for all days. */
  readonly day: string | null;
  readonly rates: Rates;
  /** The columns that hold amounts; left out: every number is one. */
  readonly amounts?: readonly string[];
}

/**
 * How often an amount of money is a factor of a value: 1 for what is converted, 0 for what has no currency.
 * @throws {Problem} where it is not said which of several columns that are multiplied or divided are amounts
 */
function powerOfMoney(e: Expression, conversion: Pick<Conversion, 'amounts'>): number {
  const { amounts } = conversion;
  const inner = (node: Expression): number => powerOfMoney(node, conversion);
  const most = (nodes: readonly Expression[]) => Math.max(0, ...nodes.map(inner));
  switch (e.kind) {
    case 'column':
      return !amounts || amounts.includes(e.name) ? 1 : 0;
    case 'unary':
    case 'cast':
      return inner(e.of);
    case 'binary': {
      const [left, right] = [inner(e.left), inner(e.right)];
      if (e.op !== '*' && e.op !== '/') return Math.max(left, right);
      if (!amounts && left !== 0 && right !== 0)
        throw notSaid('columns are multiplied or divided here, and it is not said which of them are amounts of money');
      return e.op === '*' ? left + right : left - right;
    }
    case 'case':
      return most([...e.branches.map(({ then }) => then), ...(e.otherwise ? [e.otherwise] : [])]);
    case 'call':
      return e.name === 'sign' ? 0 : most(e.name === 'nullif' || e.name === 'round' ? e.args.slice(0, 1) : e.args);
    default:
      return 0;
  }
}

const notSaid = (sentence: string) =>
  new Problem(
    'amounts-unknown',
    sentence,
    undefined,
    'say beside the currency which columns are amounts, in the editor of the measure or as “amounts” in the report’s file',
  );

/** The aggregates of an expression that are of amounts, in the order in which they stand there. */
const amountsOf = (e: Expression, conversion: Pick<Conversion, 'amounts'>): Aggregate[] =>
  aggregatesOf(e).filter(({ fn, of }) => {
    if (fn === 'count' || of === null) return false;
    const power = powerOfMoney(of, conversion);
    if (power !== 0 && power !== 1)
      throw notSaid('amounts of money are multiplied with one another, or divide something, here');
    return power === 1;
  });

const rateOf = ({ column, day, rates }: Conversion): Rate => ({
  kind: 'rate',
  of: { kind: 'column', name: column, at: NOWHERE },
  day: day === null ? null : { kind: 'column', name: day, at: NOWHERE },
  rates,
  at: NOWHERE,
});

const countOf = (of: Expression, { filter }: Aggregate): Aggregate => ({
  kind: 'aggregate',
  fn: 'count',
  of,
  distinct: false,
  filter,
  at: NOWHERE,
});

/**
 * A checked expression of aggregates over converted amounts: each row is converted before it is aggregated, and what counts a row without a
 * rate has no value.
 * @throws {Problem} where it is not clear what of it is an amount
 */
export function converted(e: Expression, conversion: Conversion): Expression {
  const amounts = new Set<Expression>(amountsOf(e, conversion));
  const rate = rateOf(conversion);
  const inner = (node: Expression): Expression => {
    if (node.kind === 'aggregate') {
      if (!amounts.has(node)) return node;
      const of: Expression = { kind: 'binary', op: '*', left: node.of!, right: rate, at: NOWHERE };
      return {
        kind: 'converted',
        of: { ...node, of },
        amounts: countOf(node.of!, node),
        found: countOf(of, node),
        at: node.at,
      };
    }
    return withParts(node, inner);
  };
  return inner(e);
}

/** What rows without a rate leave out: how many they are, and their amounts together, for each aggregate of amounts. */
export function missingRate(
  e: Expression,
  conversion: Conversion,
): { readonly rows: Aggregate; readonly sum: Aggregate }[] {
  const rate = rateOf(conversion);
  return amountsOf(e, conversion).map((one) => {
    const isNull = (of: Expression, negated: boolean): Expression => ({ kind: 'isNull', of, negated, at: NOWHERE });
    const both = (left: Expression, right: Expression): Expression => ({
      kind: 'binary',
      op: 'and',
      left,
      right,
      at: NOWHERE,
    });
    const lost = both(isNull(one.of!, true), isNull(rate, false));
    const filter = one.filter ? both(one.filter, lost) : lost;
    const base = { kind: 'aggregate', distinct: false, filter, at: NOWHERE } as const;
    return { rows: { ...base, fn: 'count', of: null }, sum: { ...base, fn: 'sum', of: one.of } };
  });
}
