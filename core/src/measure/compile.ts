import { civilOf, dayOf, fiscalQuarter, isoDay, PLAIN_CALENDAR, readIsoDay, weekday } from '../calendar';
import { decimalsOf, finer, MOST_DECIMALS, power, tidy, type Decimals } from '../number';
import { decimalsOfRates, rateFinder } from '../table';
import type { Aggregate, Comparator, DatePart, Expression } from './expression';
import { likeTest } from './like';

/**
 * An expression ready to be evaluated at a place: a row of a table or a group of a result.
 * Numbers with known decimals come as scaled integers; dates as days; yes and no as 1 and 0. Null is NaN, or null for text.
 */
export type Compiled =
  | { readonly type: 'number' | 'date' | 'yesno'; readonly decimals: Decimals; readonly at: (place: number) => number }
  | { readonly type: 'text'; readonly at: (place: number) => string | null };

type Numeric = Extract<Compiled, { decimals: Decimals }>;

/** Where the leaves of an expression get their values. */
export interface Leaves {
  column(name: string): Compiled;
  aggregate(node: Aggregate): Compiled;
}

/** Compiles a checked expression. It never throws at evaluation: what has no value is null, also a division by zero. */
export function compile(e: Expression, leaves: Leaves): Compiled {
  const inner = (node: Expression) => compile(node, leaves);
  const number = (node: Expression) => inner(node) as Numeric;
  switch (e.kind) {
    case 'number': {
      const decimals = decimalsOf(e.value);
      const value = decimals === null ? e.value : Math.round(e.value * power(decimals));
      return { type: 'number', decimals, at: () => value };
    }
    case 'text':
      return { type: 'text', at: () => e.value };
    case 'yesno': {
      const value = e.value ? 1 : 0;
      return { type: 'yesno', decimals: 0, at: () => value };
    }
    case 'date': {
      const day = readIsoDay(e.text)!;
      return { type: 'date', decimals: 0, at: () => day };
    }
    case 'null':
      return { type: 'number', decimals: 0, at: () => NaN };
    case 'column':
      return leaves.column(e.name);
    case 'aggregate':
      return leaves.aggregate(e);
    case 'unary': {
      const of = number(e.of);
      return e.op === '-' ? { ...of, at: (i) => -of.at(i) } : { ...of, at: (i) => 1 - of.at(i) };
    }
    case 'binary':
      return binary(e.op, number(e.left), number(e.right));
    case 'compare':
      return truth(comparison(e.op, inner(e.of), inner(e.right)));
    case 'between': {
      const [of, low, high] = [inner(e.of), inner(e.low), inner(e.high)];
      return negate(both(truth(comparison('>=', of, low)), truth(comparison('<=', of, high))), e.negated);
    }
    case 'in': {
      const of = inner(e.of);
      const tests = e.list.map((item) => truth(comparison('=', of, inner(item))));
      return negate(
        tests.reduce((a, b) => either(a, b), NEVER),
        e.negated,
      );
    }
    case 'like': {
      const of = inner(e.of);
      const fits = likeTest(e.pattern);
      return negate(
        truth((i) => (of.type !== 'text' || of.at(i) === null ? NaN : fits(of.at(i)!) ? 1 : 0)),
        e.negated,
      );
    }
    case 'isNull': {
      const of = inner(e.of);
      const isNull = truth(
        of.type === 'text' ? (i) => (of.at(i) === null ? 1 : 0) : (i) => (Number.isNaN(of.at(i)) ? 1 : 0),
      );
      return negate(isNull, e.negated);
    }
    case 'case':
      return choice(
        e.branches.map(({ when, then }) => ({ when: number(when), then: inner(then) })),
        e.otherwise && inner(e.otherwise),
      );
    case 'call':
      return scalar(e.name, e.args.map(inner));
    case 'extract': {
      const of = number(e.of);
      return { type: 'number', decimals: 0, at: (i) => (Number.isNaN(of.at(i)) ? NaN : datePart(e.part, of.at(i))) };
    }
    case 'cast':
      return cast(e.type, inner(e.of));
    case 'rate': {
      const of = inner(e.of);
      const day = e.day && number(e.day);
      const decimals = decimalsOfRates(e.rates);
      const scale = decimals === null ? 1 : power(decimals);
      const find = rateFinder(e.rates);
      const code = textAt(of);
      const exactly = decimals === null ? (rate: number) => rate : (rate: number) => Math.round(rate * scale);
      return { type: 'number', decimals, at: (i) => exactly(find(code(i), day ? day.at(i) : 0)) };
    }
    case 'converted': {
      const [of, amounts, found] = [number(e.of), number(e.amounts), number(e.found)];
      // No number: what is added up with it has no value either, which a blank would be passed over in.
      return { ...of, at: (i) => (amounts.at(i) === found.at(i) ? of.at(i) : Infinity) };
    }
  }
}

function truth(at: (i: number) => number): Numeric {
  return { type: 'yesno', decimals: 0, at };
}

const NEVER = truth(() => 0);

function negate(of: Numeric, negated: boolean): Numeric {
  return negated ? truth((i) => 1 - of.at(i)) : of;
}

/** SQL's three-valued and: false wins over null. */
function both(a: Numeric, b: Numeric): Numeric {
  return truth((i) => {
    const [x, y] = [a.at(i), b.at(i)];
    return x === 0 || y === 0 ? 0 : x === 1 && y === 1 ? 1 : NaN;
  });
}

/** SQL's three-valued or: true wins over null. */
function either(a: Numeric, b: Numeric): Numeric {
  return truth((i) => {
    const [x, y] = [a.at(i), b.at(i)];
    return x === 1 || y === 1 ? 1 : x === 0 && y === 0 ? 0 : NaN;
  });
}

/** The same number at other decimals; an ordinary double when `to` is null. */
export function rescale(of: Numeric, to: Decimals): Numeric {
  const from = of.decimals;
  if (from === to || from === null) return of;
  if (to === null) {
    const scale = power(from);
    return { ...of, decimals: null, at: (i) => of.at(i) / scale };
  }
  const factor = power(to - from);
  return { ...of, decimals: to, at: (i) => of.at(i) * factor };
}

function aligned(a: Numeric, b: Numeric): [Numeric, Numeric, Decimals] {
  const decimals = finer(a.decimals, b.decimals);
  return [rescale(a, decimals), rescale(b, decimals), decimals];
}

function binary(op: '+' | '-' | '*' | '/' | 'and' | 'or', left: Numeric, right: Numeric): Numeric {
  switch (op) {
    case 'and':
      return both(left, right);
    case 'or':
      return either(left, right);
    case '+':
    case '-': {
      const [a, b, decimals] = aligned(left, right);
      return { type: 'number', decimals, at: op === '+' ? (i) => a.at(i) + b.at(i) : (i) => a.at(i) - b.at(i) };
    }
    case '*': {
      const exact =
        left.decimals !== null && right.decimals !== null && left.decimals + right.decimals <= MOST_DECIMALS;
      const [a, b] = exact ? [left, right] : [rescale(left, null), rescale(right, null)];
      return {
        type: 'number',
        decimals: exact ? left.decimals! + right.decimals! : null,
        at: (i) => a.at(i) * b.at(i),
      };
    }
    case '/': {
      const [a, b] = [rescale(left, null), rescale(right, null)];
      return {
        type: 'number',
        decimals: null,
        at: (i) => {
          const divisor = b.at(i);
          return divisor === 0 ? NaN : a.at(i) / divisor;
        },
      };
    }
  }
}

function ordered(op: Comparator, order: number): number {
  switch (op) {
    case '=':
      return order === 0 ? 1 : 0;
    case '<>':
      return order !== 0 ? 1 : 0;
    case '<':
      return order < 0 ? 1 : 0;
    case '<=':
      return order <= 0 ? 1 : 0;
    case '>':
      return order > 0 ? 1 : 0;
    case '>=':
      return order >= 0 ? 1 : 0;
  }
}

function comparison(op: Comparator, left: Compiled, right: Compiled): (i: number) => number {
  if (left.type === 'text' && right.type === 'text') {
    return (i) => {
      const [a, b] = [left.at(i), right.at(i)];
      return a === null || b === null ? NaN : ordered(op, a < b ? -1 : a > b ? 1 : 0);
    };
  }
  if (left.type === 'text' || right.type === 'text') return () => NaN;
  const [a, b] = aligned(left, right);
  return (i) => {
    const [x, y] = [a.at(i), b.at(i)];
    return Number.isNaN(x) || Number.isNaN(y) ? NaN : ordered(op, x - y);
  };
}

function isNumeric(of: Compiled): of is Numeric {
  return of.type !== 'text';
}

/** Brings alternatives to one type and one number of decimals, so that any of them may be the value. */
function alternatives(
  items: readonly Compiled[],
): { numeric: Numeric[]; decimals: Decimals; type: Numeric['type'] } | null {
  if (items.some((item) => item.type === 'text')) return null;
  const numeric = items.filter(isNumeric);
  const decimals = numeric.reduce<Decimals>((d, item) => finer(d, item.decimals), 0);
  return { numeric: numeric.map((item) => rescale(item, decimals)), decimals, type: numeric[0]?.type ?? 'number' };
}

function textAt(item: Compiled): (i: number) => string | null {
  return item.type === 'text' ? item.at : () => null;
}

function choice(
  branches: readonly { readonly when: Numeric; readonly then: Compiled }[],
  otherwise: Compiled | null,
): Compiled {
  const results = [...branches.map(({ then }) => then), ...(otherwise ? [otherwise] : [])];
  const whens = branches.map(({ when }) => when.at);
  const pick = (i: number) => whens.findIndex((when) => when(i) === 1);
  const alternative = alternatives(results);
  if (alternative) {
    const { numeric, decimals, type } = alternative;
    return {
      type,
      decimals,
      at: (i) => {
        const branch = pick(i);
        return branch >= 0 ? numeric[branch]!.at(i) : (numeric[whens.length]?.at(i) ?? NaN);
      },
    };
  }
  const texts = results.map(textAt);
  return {
    type: 'text',
    at: (i) => {
      const branch = pick(i);
      return branch >= 0 ? texts[branch]!(i) : (texts[whens.length]?.(i) ?? null);
    },
  };
}

function scalar(name: string, args: readonly Compiled[]): Compiled {
  const [first, second] = args;
  switch (name) {
    case 'abs': {
      const of = first as Numeric;
      return { ...of, at: (i) => Math.abs(of.at(i)) };
    }
    case 'sign': {
      const of = first as Numeric;
      return { type: 'number', decimals: 0, at: (i) => Math.sign(of.at(i)) };
    }
    case 'round': {
      const of = first as Numeric;
      const places = second as Numeric | undefined;
      const digits = places ? rescale(places, null) : null;
      // A literal number of places keeps the result exact.
      const fixed = digits === null ? 0 : Number.isInteger(digits.at(-1)) ? digits.at(-1) : null;
      const plain = rescale(of, null);
      const decimals = fixed !== null && fixed >= 0 && fixed <= MOST_DECIMALS ? fixed : null;
      if (decimals !== null)
        return { type: 'number', decimals, at: (i) => roundHalfAway(plain.at(i) * power(decimals)) };
      return {
        type: 'number',
        decimals: null,
        at: (i) => {
          const scale = 10 ** (digits?.at(i) ?? 0);
          return roundHalfAway(plain.at(i) * scale) / scale;
        },
      };
    }
    case 'nullif': {
      const equal = comparison('=', first!, second!);
      if (first!.type === 'text') {
        const at = first!.at;
        return { type: 'text', at: (i) => (equal(i) === 1 ? null : at(i)) };
      }
      const of = first!;
      return { ...of, at: (i) => (equal(i) === 1 ? NaN : of.at(i)) };
    }
    case 'coalesce':
      return firstFilled(args);
    default:
      return extreme(args, name === 'greatest' ? 1 : -1);
  }
}

/** SQL rounds halves away from zero; 15 digits first, so that 1.005 rounds as it is written. */
function roundHalfAway(value: number): number {
  const tidied = tidy(value);
  return Math.sign(tidied) * Math.round(Math.abs(tidied));
}

/** The first argument that is not null. */
function firstFilled(args: readonly Compiled[]): Compiled {
  const alternative = alternatives(args);
  if (alternative) {
    const { numeric, decimals, type } = alternative;
    return {
      type,
      decimals,
      at: (i) => {
        for (const item of numeric) {
          const value = item.at(i);
          if (!Number.isNaN(value)) return value;
        }
        return NaN;
      },
    };
  }
  const texts = args.map(textAt);
  return {
    type: 'text',
    at: (i) => {
      for (const text of texts) if (text(i) !== null) return text(i);
      return null;
    },
  };
}

/** Greatest or least of the arguments; null where one is, as in ISO SQL. */
function extreme(args: readonly Compiled[], sign: 1 | -1): Compiled {
  const alternative = alternatives(args);
  if (alternative) {
    const { numeric, decimals, type } = alternative;
    return {
      type,
      decimals,
      at: (i) => {
        let best = numeric[0]!.at(i);
        for (let a = 1; a < numeric.length; a++) {
          const value = numeric[a]!.at(i);
          if (Number.isNaN(value) || sign * (value - best) > 0) best = value;
          if (Number.isNaN(best)) return NaN;
        }
        return best;
      },
    };
  }
  const texts = args.map(textAt);
  return {
    type: 'text',
    at: (i) => {
      let best = texts[0]!(i);
      for (const text of texts) {
        const value = text(i);
        if (value === null || best === null) return null;
        if (sign > 0 ? value > best : value < best) best = value;
      }
      return best;
    },
  };
}

function datePart(part: DatePart, day: number): number {
  const { year, month, day: d } = civilOf(day);
  switch (part) {
    case 'year':
      return year;
    case 'quarter':
      return fiscalQuarter(day, PLAIN_CALENDAR);
    case 'month':
      return month;
    case 'day':
      return d;
    case 'dow':
      return weekday(day) + 1;
    case 'week': {
      // ISO 8601: the week that holds the year's first Thursday is week 1.
      const thursday = day - weekday(day) + 3;
      return Math.floor((thursday - dayOf(civilOf(thursday).year, 1, 1)) / 7) + 1;
    }
  }
}

function cast(type: string, of: Compiled): Compiled {
  if (type === 'text') {
    if (of.type === 'text') return of;
    const plain = of.type === 'number' ? rescale(of, null) : of;
    const write =
      of.type === 'date'
        ? isoDay
        : of.type === 'yesno'
          ? (v: number) => (v === 1 ? 'yes' : 'no')
          : (v: number) => String(tidy(v));
    return { type: 'text', at: (i) => (Number.isNaN(plain.at(i)) ? null : write(plain.at(i))) };
  }
  if (type === 'date') {
    if (of.type !== 'text') return of;
    return { type: 'date', decimals: 0, at: (i) => readIsoDay((of.at(i) ?? '').slice(0, 10)) ?? NaN };
  }
  if (of.type === 'text') {
    return {
      type: 'number',
      decimals: null,
      at: (i) => {
        const text = of.at(i)?.trim();
        return text === undefined || text === '' || !/^[-+]?[\d.]+(?:e[-+]?\d+)?$/i.test(text) ? NaN : Number(text);
      },
    };
  }
  if (type !== 'integer') return { ...of, type: 'number' };
  const plain = rescale(of, null);
  return { type: 'number', decimals: 0, at: (i) => roundHalfAway(plain.at(i)) };
}
