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
 * @param isAmount whether a column holds amounts
 */
function powerOfMoney(e: Expression, isAmount: (column: string) => boolean): number {
  const inner = (node: Expression) => powerOfMoney(node, isAmount);
  const most = (nodes: readonly Expression[]) => nodes.reduce((most, node) => Math.max(most, inner(node)), 0);
  switch (e.kind) {
    case 'column':
      return isAmount(e.name) ? 1 : 0;
    case 'unary':
    case 'cast':
    case 'aggregate':
      return e.of === null ? 0 : inner(e.of);
    case 'binary':
      if (e.op === '*') return inner(e.left) + inner(e.right);
      if (e.op === '/') return inner(e.left) - inner(e.right);
      return Math.max(inner(e.left), inner(e.right));
    case 'case':
      return most([...e.branches.map(({ then }) => then), ...(e.otherwise ? [e.otherwise] : [])]);
    case 'call':
      return e.name === 'sign' ? 0 : e.name === 'nullif' || e.name === 'round' ? inner(e.args[0]!) : most(e.args);
    default:
      return 0;
  }
}

/** Number columns that are factors or divisors of one another somewhere in an expression. */
function multiplied(e: Expression): boolean {
  const columns = (node: Expression): number =>
    powerOfMoney(node, () => true) !== 0 || node.kind === 'column' ? 1 : 0;
  switch (e.kind) {
    case 'binary':
      return (
        ((e.op === '*' || e.op === '/') && columns(e.left) + columns(e.right) > 1) ||
        multiplied(e.left) ||
        multiplied(e.right)
      );
    case 'unary':
    case 'cast':
    case 'aggregate':
      return e.of !== null && multiplied(e.of);
    case 'case':
      return e.branches.some(({ then }) => multiplied(then)) || (e.otherwise !== null && multiplied(e.otherwise));
    case 'call':
      return e.args.some(multiplied);
    default:
      return false;
  }
}

const isCounted = ({ fn, of }: Aggregate): boolean => fn !== 'count' && of !== null;

/** The aggregates of an expression that are of amounts, in the order in which they stand there. */
function amountsOf(e: Expression, { amounts }: Pick<Conversion, 'amounts'>): Aggregate[] {
  const isAmount = (column: string) => amounts === undefined || amounts.includes(column);
  return aggregatesOf(e).filter((one) => {
    if (!isCounted(one)) return false;
    if (amounts === undefined && multiplied(one.of!))
      throw new Problem(
        'amounts-unknown',
        'columns are multiplied or divided here, and it is not said which of them are amounts of money',
        undefined,
        'name them beside the currency: “amounts” in the report’s file',
      );
    const power = powerOfMoney(one.of!, isAmount);
    if (power !== 0 && power !== 1)
      throw new Problem(
        'not-an-amount',
        'this multiplies or divides by amounts of money, which leaves nothing that can be converted',
        undefined,
        'name the columns that are amounts beside the currency: “amounts” in the report’s file',
      );
    return power === 1;
  });
}

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
