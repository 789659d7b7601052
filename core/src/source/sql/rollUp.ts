import { startOf, type FiscalCalendar } from '../../calendar';
import { keyOf, type Aggregate } from '../../measure';
import { EXACT_LIMIT } from '../../number';
import { keyOfQuery, type Groups, type Query } from '../../query';

/** Several questions over the same rows, of which some follow from the answers of others. */
export interface AskPlan {
  /** What is asked. */
  readonly asked: readonly Query[];
  /** For each question the place of the one whose answer has its own. */
  readonly from: readonly number[];
}

const isTimed = ({ span, grain }: Query): boolean => span !== null || grain !== null;

/** What tells apart which rows are gathered, but for their days. */
export const rowsKey = (query: Query): string =>
  keyOfQuery({ ...query, aggregates: [], by: [], span: null, grain: isTimed(query) ? 'day' : null });

/** Whether a group’s value follows from those of its parts, to the last digit. */
const addsUp = ({ fn, distinct }: Aggregate): boolean =>
  !distinct && (fn === 'sum' || fn === 'count' || fn === 'min' || fn === 'max');

const areSameDays = ({ span }: Query, { span: other }: Query): boolean =>
  span?.from === other?.from && span?.to === other?.to;

/** Whether groups by these follow from groups by those: of the same days, or of some of them where they are told apart. */
const isWithin = (own: Query, other: Query): boolean =>
  own.by.every((field) => other.by.includes(field)) &&
  (areSameDays(own, other)
    ? own.grain === other.grain || own.grain === null || other.grain === 'day'
    : other.grain === 'day' &&
      own.span !== null &&
      (other.span === null || (own.span.from >= other.span.from && own.span.to <= other.span.to)));

const length = ({ span }: Query): number => (span ? span.to - span.from : Infinity);

/**
 * Asks no more than is needed: groups that follow from finer ones over the same rows are added up from them.
 * @param isExact whether sums of an aggregate are exact, so that their order does not matter
 */
export function planOf(queries: readonly Query[], isExact: (query: Query, aggregate: Aggregate) => boolean): AskPlan {
  const asked: Query[] = [];
  const from: number[] = [];
  const open = new Map<string, number[]>();
  // The finest first: the others may follow from them.
  const order = queries
    .map((_, q) => q)
    .sort((a, b) => {
      const [one, other] = [queries[a]!, queries[b]!];
      const finer = other.by.length - one.by.length || fineness(other) - fineness(one);
      return finer || (length(one) === length(other) ? 0 : length(other) - length(one));
    });
  for (const q of order) {
    const query = queries[q]!;
    const follows = query.aggregates.every((one) => addsUp(one) && isExact(query, one));
    const key = rowsKey(query);
    const places = open.get(key) ?? [];
    const place = follows ? places.findLast((at) => isWithin(query, asked[at]!)) : undefined;
    if (place === undefined) {
      from[q] = asked.push(query) - 1;
      if (follows) open.set(key, [...places, from[q]!]);
      continue;
    }
    const other = asked[place]!;
    const has = new Set(other.aggregates.map(keyOf));
    const more = query.aggregates.filter((one) => !has.has(keyOf(one)));
    if (more.length > 0) asked[place] = { ...other, aggregates: [...other.aggregates, ...more] };
    from[q] = place;
  }
  return { asked, from };
}

const fineness = ({ grain }: Query): number => (grain === null ? 0 : grain === 'day' ? 2 : 1);

/** Whether the answer to one question is in that to another. */
export function follows(query: Query, other: Query): boolean {
  const has = new Set(other.aggregates.map(keyOf));
  return (
    rowsKey(query) === rowsKey(other) &&
    isWithin(query, other) &&
    query.aggregates.every((one) => addsUp(one) && has.has(keyOf(one)))
  );
}

/** The answer to a question that follows from another’s; null where it would not be the same. */
export function rolledUp(query: Query, other: Query, answer: Groups, calendar: FiscalCalendar): Groups | null {
  const { span } = query;
  const isIn = (i: number) =>
    areSameDays(query, other) || !span || (answer.steps![i]! >= span.from && answer.steps![i]! <= span.to);
  const fields = query.by.map((name) => answer.fields[other.by.indexOf(name)]!);
  const { grain } = query;
  const steps =
    grain === null || !answer.steps
      ? null
      : grain === other.grain
        ? answer.steps
        : answer.steps.map((day) => startOf(grain, day, calendar));
  const values = query.aggregates.map((one) => {
    const key = keyOf(one);
    return answer.values[other.aggregates.findIndex((each) => keyOf(each) === key)]!;
  });
  if (query.aggregates.some(({ fn }, v) => fn === 'sum' && values[v]!.decimals === null)) return null;
  const places = new Map<string, number>();
  const firsts: number[] = [];
  const placeOf = Array.from({ length: answer.count }, (_, i) => {
    if (!isIn(i)) return -1;
    const key = [...fields.map(({ codes }) => codes[i]!), steps ? steps[i]! : 0].join(' ');
    let place = places.get(key);
    if (place === undefined) places.set(key, (place = firsts.push(i) - 1));
    return place;
  });
  const count = firsts.length;
  const order = firsts.map((_, place) => place);
  order.sort((a, b) => {
    for (const { codes } of fields) {
      const apart = codes[firsts[a]!]! - codes[firsts[b]!]!;
      if (apart !== 0) return apart;
    }
    return steps ? steps[firsts[a]!]! - steps[firsts[b]!]! : 0;
  });
  /** Parts put together, in the order of the groups. */
  const together = (of: ArrayLike<number>, put: (all: number, part: number) => number): Float64Array => {
    const all = new Float64Array(count).fill(NaN);
    for (let i = 0; i < answer.count; i++) {
      const [part, place] = [of[i]!, placeOf[i]!];
      if (place >= 0 && !Number.isNaN(part)) all[place] = Number.isNaN(all[place]!) ? part : put(all[place]!, part);
    }
    return Float64Array.from(order, (place) => all[place]!);
  };
  const add = (a: number, b: number) => a + b;
  const found = values.map(({ of, decimals }, v) => {
    const { fn } = query.aggregates[v]!;
    return { of: together(of, fn === 'min' ? Math.min : fn === 'max' ? Math.max : add), decimals };
  });
  if (found.some(({ of }, v) => query.aggregates[v]!.fn === 'sum' && of.some((one) => Math.abs(one) > EXACT_LIMIT)))
    return null;
  return {
    count,
    fields: fields.map(({ members, codes }) => ({
      members,
      codes: Int32Array.from(order, (place) => codes[firsts[place]!]!),
    })),
    steps: steps && Int32Array.from(order, (place) => steps[firsts[place]!]!),
    rows: together(answer.rows, add),
    values: found,
    undated: answer.undated,
  };
}
