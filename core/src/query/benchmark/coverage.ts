import {
  isoDay,
  overlap,
  spanOf,
  stepName,
  stepsWithin,
  writtenDay,
  writtenSpan,
  type Day,
  type Grain,
  type Span,
} from '../../calendar';
import { someOf } from '../../problem';
import { BLANK_MEMBER } from '../../table';
import { actualSpan, note, type Context } from '../context';
import { groupKey, valuesOf, type Values } from '../values';
import type { BenchmarkRequest, Covers, Held } from './asked';

/** Days of a step that a figure asks for. */
export function daysOfStep(
  asked: Pick<BenchmarkRequest, 'grain' | 'period'>,
  step: Day | null,
  context: Context,
): Span {
  if (step === null || !asked.grain) return asked.period;
  const { from, to } = spanOf(asked.grain, step, context.calendar);
  return { from: Math.max(from, asked.period.from), to: Math.min(to, asked.period.to) };
}

/** Tells why a benchmark has no gap somewhere. */
function tell(context: Context, benchmark: string, lacks: string, who: string): void {
  note(
    context,
    'partly-covered',
    'warning',
    `“${benchmark}” ${lacks}${who}: what it has is not held against more than it covers, so the gap there is left blank`,
  );
}

/**
 * Tells which members have rows and no target at all, in any period: they are in what the whole comes to, and not in what it
 * is held against. Looked at field by field, as not every pair of members must have a target.
 */
export async function tellWithoutTarget(
  context: Context,
  name: string,
  { values, own }: Pick<TargetRows, 'values' | 'own'>,
  asked: BenchmarkRequest,
): Promise<void> {
  const { source, of, brief, period } = context;
  // What is due by now lacks those whose first target is yet to come.
  if (own.length === 0 || values.at.size === 0 || asked.period.to !== period.to) return;
  const { at } = await valuesOf(source, of, { by: own, grain: null, span: actualSpan(context), where: brief.only });
  const lacking = own.flatMap((_, f) => {
    const known = new Set([...values.at.values()].map(({ members }) => members[f]!));
    const sold = [...at.values()].filter(({ value }) => !Number.isNaN(value)).map(({ members }) => members[f]!);
    return [...new Set(sold)].filter((member) => !known.has(member)).map((member) => member || BLANK_MEMBER);
  });
  if (lacking.length > 0)
    note(
      context,
      'members-without-target',
      'warning',
      `“${name}” has no target for ${someOf(lacking)}, and what ${lacking.length === 1 ? 'it comes' : 'they come'} to counts in the whole all the same`,
    );
}

const FINENESS: Readonly<Record<Grain, number>> = { day: 0, week: 1, month: 2, quarter: 3, year: 4 };

/** Targets as they stand in their table, and how the table's fields are called in the figure. */
export interface TargetRows {
  readonly values: Values;
  readonly grain: Grain;
  /** The measure's fields that the targets are set by. */
  readonly own: readonly string[];
  spanOf(step: Day): Span;
  /** All periods of the targets' grain that share days with a span. */
  within(span: Span): Day[];
}

/** Whether a group of a figure has targets for some days. */
export function targetsIn(
  { values, own, spanOf: targetSpan }: TargetRows,
  { by }: BenchmarkRequest,
): NonNullable<Held['speaksOf']> {
  const places = by.map((field) => own.indexOf(field));
  const spans = new Map<string, Span[]>();
  for (const { members, step, value } of values.at.values()) {
    if (Number.isNaN(value)) continue;
    const key = groupKey(
      places.map((place) => (place < 0 ? '' : members[place]!)),
      null,
    );
    spans.set(key, [...(spans.get(key) ?? []), targetSpan(step!)]);
  }
  return (members, days) => {
    const known = members.map((member, i) => (places[i]! < 0 ? '' : member));
    return (spans.get(groupKey(known, null)) ?? []).some((span) => overlap(span, days) > 0);
  };
}

/** The days of all targets that fall into a period. */
export function wholeTargets(steps: readonly Day[], targetSpan: (step: Day) => Span): Span {
  return { from: targetSpan(steps[0]!).from, to: targetSpan(steps.at(-1)!).to };
}

/**
 * Where targets are set for a part of what they are held against. A member that has targets in the period must have one for
 * each of its periods that holds rows, or is still to come; who has none at all is told by `tellWithoutTarget`.
 */
export async function coverageOfTargets(
  context: Context,
  name: string,
  targets: TargetRows,
  asked: BenchmarkRequest,
): Promise<Covers | undefined> {
  const { grain, own, values } = targets;
  // Days without a target are days off, not missing ones.
  if (grain === 'day') return undefined;
  const { asOf, calendar } = context;
  const wanted = targets.within(asked.period);
  const known = new Map<string, { readonly members: readonly string[]; readonly has: Set<Day> }>();
  for (const { members, step, value } of values.at.values()) {
    if (Number.isNaN(value)) continue;
    const key = members.join('\u0000');
    const one = known.get(key);
    if (one) one.has.add(step!);
    else known.set(key, { members, has: new Set([step!]) });
  }
  const missing: { readonly members: readonly string[]; readonly start: Day }[] = [];
  for (const { members, has } of known.values())
    for (const start of wanted) if (!has.has(start)) missing.push({ members, start });
  if (missing.length === 0) return undefined;

  const rows = await rowsByPeriod(context, targets);
  const isCovered = ({ members, start }: (typeof missing)[number]): boolean => {
    const days = targets.spanOf(start);
    if (Math.min(days.to, asked.period.to) > asOf) return false;
    return rows !== null && !rows.has(groupKey(members, start));
  };
  const lacking = missing.filter((one) => !isCovered(one));
  if (lacking.length === 0) return undefined;

  const places = asked.by.map((field) => own.indexOf(field));
  const steps = asked.grain ? stepsWithin(asked.grain, asked.period, calendar) : [null];
  const blank = new Set<string>();
  const partly = new Set<string>();
  // Whoever asks, for whatever figure, members are named alike, so that the same is told once.
  const order = own.map((_, i) => i).sort((a, b) => (own[a]! < own[b]! ? -1 : 1));
  for (const { members, start } of lacking) {
    const days = targets.spanOf(start);
    const group = places.map((place) => (place < 0 ? null : members[place]!));
    for (const step of steps) {
      if (overlap(daysOfStep(asked, step, context), days) === 0) continue;
      blank.add(keyOf(group, step));
    }
    partly.add(
      order
        .map((i) => members[i]!)
        .filter((member) => member !== '')
        .join(' · '),
    );
  }
  const starts = [...new Set(lacking.map(({ start }) => start))].sort((a, b) => a - b);
  const names = [...partly].filter((one) => one !== '').sort();
  const all = names.length === known.size || names.length === 0;
  tell(
    context,
    name,
    `has no target for ${someOf(starts.map((start) => nameOf(targets, start, context)))}`,
    all ? '' : ` of ${someOf(names)}`,
  );
  return (members, step) =>
    !blank.has(
      keyOf(
        places.map((place, i) => (place < 0 ? null : members[i]!)),
        step,
      ),
    );
}

const keyOf = (members: readonly (string | null)[], step: Day | null) =>
  `${members.map((member) => member ?? '\u0002').join('\u0000')}\u0001${step}`;

function nameOf(targets: TargetRows, start: Day, { calendar }: Context): string {
  const { from, to } = targets.spanOf(start);
  const own = spanOf(targets.grain, start, calendar);
  return own.from === from && own.to === to ? stepName(targets.grain, start, calendar) : writtenSpan({ from, to });
}

/** Periods of the targets in which members have rows; null where the measure's rows stand for longer times. */
async function rowsByPeriod(context: Context, { grain, own, within }: TargetRows): Promise<ReadonlySet<string> | null> {
  const { source, of, brief } = context;
  if (of.table.grain === null || FINENESS[of.table.grain] > FINENESS[grain]) return null;
  // Periods of another calendar are put together from their months.
  const by = grain === 'quarter' || grain === 'year' ? 'month' : grain;
  const finer = FINENESS[of.table.grain] > FINENESS[by] ? of.table.grain : by;
  const span = actualSpan(context);
  const { at } = await valuesOf(source, of, { by: own, grain: finer, span, where: brief.only });
  const found = new Set<string>();
  for (const { members, step, value } of at.values()) {
    if (Number.isNaN(value)) continue;
    found.add(groupKey(members, within({ from: step!, to: step! })[0]!));
  }
  return found;
}

/** Where the measure's own data begin within what a benchmark speaks of, the two are not alike: it holds more days than there are data of. */
export function withActualsFrom(context: Context, name: string, asked: BenchmarkRequest, held: Held): Held {
  const { of, known, allTime, calendar, dated } = context;
  if (!of.additive || !dated || allTime) return held;
  const { speaksOf = () => true } = held;
  const cut = (members: readonly string[], step: Day | null) => {
    const { from, to } = daysOfStep(asked, step, context);
    return from < known.begins && to >= known.begins && speaksOf(members, { from, to: known.begins - 1 });
  };
  const steps = asked.grain ? stepsWithin(asked.grain, asked.period, calendar) : [null];
  const groups = [...held.values.at.values()].map(({ members }) => members);
  if (!steps.some((step) => groups.some((members) => cut(members, step)))) return held;
  const lacks = held.speaksOf
    ? `has targets for days before ${writtenDay(known.begins)}, when the rows of “${of.table.id}” begin`
    : `covers ${writtenDay(asked.period.from)} on, and the data begin on ${isoDay(known.from)}`;
  tell(context, name, lacks, '');
  return { ...held, covers: both(held.covers, (members, step) => !cut(members, step)) };
}

/** The same for a benchmark that is another period: its days must all be among the data. */
export function withPeriodWithin(
  context: Context,
  name: string,
  held: Held,
  spanAt: (step: Day | null) => Span | undefined,
  steps: readonly (Day | null)[],
): Held {
  const { of, known, asOf } = context;
  if (!of.additive) return held;
  const last = Math.max(known.to, asOf);
  const cut = (step: Day | null) => {
    const span = spanAt(step);
    return (
      span !== undefined &&
      ((span.from < known.begins && span.to >= known.begins) || (span.to > last && span.from <= last))
    );
  };
  const first = steps.find(cut);
  if (first === undefined) return held;
  const { from, to } = spanAt(first)!;
  const lacks = from < known.begins ? `the data begin on ${isoDay(known.from)}` : `they end on ${isoDay(last)}`;
  tell(context, name, `would be ${isoDay(from)} to ${isoDay(to)}, and ${lacks}`, '');
  return { ...held, covers: both(held.covers, (_, step) => !cut(step)) };
}

export function both(a: Covers | undefined, b: Covers): Covers {
  return a ? (members, step) => a(members, step) && b(members, step) : b;
}
