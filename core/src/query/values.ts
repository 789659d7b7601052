import type { Condition } from '../brief';
import type { Day, Grain, Span } from '../calendar';
import { aggregatesOf, compile, keyOf, type Leaves } from '../measure';
import { LARGEST, power, tidy, total, type Decimals } from '../number';
import type { Aggregated } from './context';
import type { OpenSource } from './query';

/** Numbers by group: members of the fields asked for, and a step. */
export interface Values {
  readonly decimals: Decimals;
  readonly at: ReadonlyMap<string, Entry>;
  /** Rows without a date, which a query over time leaves out. */
  readonly undated: number;
}

export interface Entry {
  readonly members: readonly string[];
  readonly step: Day | null;
  readonly value: number;
  readonly rows: number;
  /** Of a forecast: what holds the value in 95 of 100 cases. */
  readonly low?: number;
  readonly high?: number;
}

export function groupKey(members: readonly string[], step: Day | null): string {
  return step === null ? members.join('\u0000') : `${members.join('\u0000')}\u0001${step}`;
}

/** Which groups of a table, over which days. */
export interface Grouping {
  readonly by: readonly string[];
  readonly grain: Grain | null;
  readonly span: Span | null;
  readonly where: readonly Condition[];
}

/**
 * A promise that may be awaited after others have failed: then nobody hears of its own failure, which would end a process that listens for
 * such.
 */
export function awaitedLater<T>(promise: Promise<T>): Promise<T> {
  promise.catch(() => {});
  return promise;
}

/** An expression of aggregates, evaluated for every group that has rows. */
export const valuesOf = (source: OpenSource, of: Aggregated, shape: Grouping): Promise<Values> =>
  awaitedLater(evaluated(source, of, shape));

async function evaluated(source: OpenSource, { table, expression }: Aggregated, shape: Grouping): Promise<Values> {
  const aggregates = aggregatesOf(expression);
  const distinct = aggregates.filter((a, i) => aggregates.findIndex((b) => keyOf(b) === keyOf(a)) === i);
  const groups = await source.groups({ table: table.id, aggregates: distinct, ...shape });
  const leaves: Leaves = {
    column: () => {
      throw new Error('a column cannot stand outside an aggregate');
    },
    aggregate: (node) => {
      const place = distinct.findIndex((a) => keyOf(a) === keyOf(node));
      const { of, decimals } = groups.values[place]!;
      return { type: 'number', decimals, at: (group) => of[group]! };
    },
  };
  const compiled = compile(expression, leaves);
  if (compiled.type === 'text') throw new Error('a measure is a number');
  const { decimals } = compiled;
  const at = new Map<string, Entry>();
  for (let g = 0; g < groups.count; g++) {
    const members = groups.fields.map(({ members: names, codes }) => names[codes[g]!]!);
    const step = groups.steps ? groups.steps[g]! : null;
    const raw = compiled.at(g);
    const made = decimals === null ? tidy(raw) : raw / power(decimals);
    // What is computed beyond the largest number is none.
    // No number on purpose stays none in all that is added up with it.
    const value = Math.abs(made) <= LARGEST || made === Infinity ? made : NaN;
    at.set(groupKey(members, step), { members, step, value, rows: groups.rows[g]! });
  }
  return { decimals, at, undated: groups.undated };
}

/** A value that rests on a rate that is missing is blank where it is shown. */
export const orBlank = (value: number): number => (Number.isFinite(value) ? value : NaN);

/** Whether something of it rests on a rate that is missing. */
export const isUnknownIn = ({ at }: Pick<Values, 'at'>): boolean =>
  [...at.values()].some(({ value }) => Math.abs(value) === Infinity);

/** The one value of a shape without fields and steps; blank (NaN) without rows. */
export function only(values: Values): number {
  return values.at.get('')?.value ?? NaN;
}

/** The same entries with other values. */
export function mapValues(values: Values, decimals: Decimals, map: (entry: Entry) => number): Values {
  return {
    ...values,
    decimals,
    at: new Map([...values.at].map(([key, entry]) => [key, { ...entry, value: map(entry) }])),
  };
}

export function fromEntries(entries: Iterable<Entry>, decimals: Decimals): Values {
  return {
    decimals,
    undated: 0,
    at: new Map([...entries].map((entry) => [groupKey(entry.members, entry.step), entry])),
  };
}

/** The values of the steps that begin in a period. */
export const inPeriod = (values: Values, { period: { from, to } }: { readonly period: Span }): Values => ({
  ...values,
  at: new Map([...values.at].filter(([, { step }]) => step! >= from && step! <= to)),
});

/** The whole of an additive measure: the sum of its groups. */
export function wholeOf(values: Values): Values {
  const entries = [...values.at.values()];
  if (entries.length === 0) return fromEntries([], values.decimals);
  const value = total(
    entries.map((entry) => entry.value),
    values.decimals,
  );
  const rows = entries.reduce((sum, entry) => sum + entry.rows, 0);
  return fromEntries([{ members: [], step: null, value, rows }], values.decimals);
}
