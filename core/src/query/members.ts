import { listed, Problem, thousands } from '../problem';
import { total as sumOf, type Decimals } from '../number';
import type { Day } from '../calendar';
import { formOf } from '../brief';
import { declarationOf } from '../form';
import type { Benchmark } from '../report';
import { declaredOrder, inOrder } from '../table';
import type { BenchmarkRequest, Held } from './benchmark/asked';
import { benchmarkValues } from './benchmark/benchmark';
import { THE_REST, type Cells, type Note } from './cells';
import { gapOf, gapPercentOf } from './compare';
import { actualSpan, areSummed, atOnce, note, type Context } from './context';
import { leadIn, spanFrom } from './stepping';
import { withNothingSold } from './nothingSold';
import { select, sort, type Candidate } from './selection';
import { groupKey, only, valuesOf, type Values } from './values';

/** The code of what is told where a benchmark covers less than the figure. */
const COVERAGE = 'partly-covered';

/** One member over all steps, before views and selection. */
export interface Member extends Candidate {
  readonly members: readonly string[];
  readonly isRest: boolean;
  readonly rows: readonly number[];
  readonly actuals: readonly number[];
  readonly benchmarks: readonly number[] | null;
  readonly dues: readonly number[] | null;
  /** Whether the benchmark, and what is due of it, cover all that the actual of a step is made of. */
  readonly isCovered: boolean;
  readonly covered: readonly boolean[];
  readonly coveredDue: readonly boolean[];
  /** What is due over the whole period. */
  readonly due: number;
  readonly isDueCovered: boolean;
  /** Where a forecast lies in 95 of 100 cases. */
  readonly within: readonly { readonly low: number; readonly high: number }[] | null;
}

/** The whole: actual, benchmark and due over all members and the whole period. */
export interface Whole {
  readonly actual: number;
  readonly rows: number;
  readonly benchmark: number;
  readonly due: number;
  readonly isCovered: boolean;
  readonly isDueCovered: boolean;
}

/** The values members are made of. */
export interface Sources {
  readonly actual: Values;
  readonly held: Held | null;
  readonly due: Held | null;
}

/** Actual and benchmark of the steps that lead in to the period. */
export interface Lead {
  readonly actual: Values;
  readonly held: Held | null;
}

/** Numbers over the whole period, and what is to be told of them. */
export interface OverPeriod extends Sources {
  readonly told: readonly Note[];
}

/** Over time, a member is chosen and sorted by its numbers over the whole period; null where there are no steps. */
export async function overPeriod(
  context: Context,
  benchmark: Benchmark | null,
  dueOf: (context: Context, asked: BenchmarkRequest) => Promise<Held | null>,
): Promise<OverPeriod | null> {
  const { brief, source, of, period } = context;
  if (!brief.grain) return null;
  const known = valuesOf(source, of, { by: brief.by, grain: null, span: actualSpan(context), where: brief.only });
  const ask = { by: brief.by, grain: null, period, actual: known };
  const quiet: Context = { ...context, checks: [] };
  const [sold, held, due] = await atOnce<[Values, Held | null, Held | null]>(
    quiet,
    () => known,
    (own) => benchmark && benchmarkValues(own, benchmark, ask),
    (own) => benchmark && dueOf(own, ask),
  );
  // Running sums and steps show where a benchmark is not all there; of the members' wholes it is told here.
  return {
    actual: withNothingSold(context, sold, held),
    held,
    due,
    told: quiet.checks.filter(({ code }) => code === COVERAGE),
  };
}

/**
 * All members with rows or a benchmark, in natural order, with their numbers in every step.
 * @param steps those that lead in, and those of the period
 * @param further those that only further measures know
 */
export function membersOf(
  context: Context,
  steps: readonly (Day | null)[],
  { actual, held, due }: Sources,
  over: OverPeriod | null,
  benchmark: Benchmark | null,
  further: readonly (readonly string[])[],
  lead: Lead | null,
): Member[] {
  const { brief } = context;
  const groups = new Map<string, readonly string[]>();
  for (const { members } of actual.at.values()) groups.set(members.join('\u0000'), members);
  for (const { members, value } of held?.values.at.values() ?? [])
    if (!Number.isNaN(value)) groups.set(members.join('\u0000'), members);
  for (const members of further) groups.set(members.join('\u0000'), members);
  if (brief.by.length === 0 && groups.size === 0) groups.set('', []);
  const ordered = inFieldOrder(context, [...groups.values()]);

  for (const { code, severity, text } of over?.told ?? []) note(context, code, severity, text);
  const { actual: actualOver, held: heldOver, due: dueOver } = over ?? { actual, held, due };
  return ordered.map((members, place) => {
    const over = groupKey(members, null);
    const keys = steps.map((step) => groupKey(members, step));
    const total = actualOver.at.get(over)?.value ?? NaN;
    const against = heldOver?.values.at.get(over)?.value ?? NaN;
    const isCovered = heldOver?.covers?.(members, null) ?? true;
    const byNow = dueOver?.values.at.get(over)?.value ?? NaN;
    const isDueCovered = dueOver?.covers?.(members, null) ?? true;
    // While the period runs, what is due by now is what a member is judged by.
    const judged = Number.isNaN(byNow)
      ? { by: against, isCovered, decimals: heldOver?.values.decimals ?? null }
      : { by: byNow, isCovered: isDueCovered, decimals: dueOver!.values.decimals };
    const gap = judged.isCovered ? gapOf(total, judged.by, actualOver.decimals, judged.decimals) : NaN;
    return {
      place,
      members,
      isRest: false,
      name: members.join(' · '),
      actual: total,
      benchmark: against,
      gap,
      gapPercent: gapPercentOf(gap, judged.by),
      rows: keys.map((key) => actual.at.get(key)?.rows ?? 0),
      actuals: keys.map((key) => (actual.at.get(key) ?? lead?.actual.at.get(key))?.value ?? NaN),
      benchmarks: held && keys.map((key) => (held.values.at.get(key) ?? lead?.held?.values.at.get(key))?.value ?? NaN),
      dues: due && keys.map((key) => due.values.at.get(key)?.value ?? NaN),
      covered: steps.map((step) => {
        const from = step !== null && step < context.period.from ? lead?.held : held;
        return from?.covers?.(members, step) ?? true;
      }),
      coveredDue: steps.map((step) => due?.covers?.(members, step) ?? true),
      due: byNow,
      isCovered,
      isDueCovered,
      within:
        held && benchmark?.kind === 'forecast'
          ? keys.map((key) => ({
              low: held.values.at.get(key)?.low ?? NaN,
              high: held.values.at.get(key)?.high ?? NaN,
            }))
          : null,
    };
  });
}

/** Groups in the order of their fields' members. */
export function inFieldOrder(
  { brief, of, calendar }: Context,
  groups: readonly (readonly string[])[],
): (readonly string[])[] {
  const places = brief.by.map((field, f) => {
    const names = [...new Set(groups.map((members) => members[f]!))];
    return new Map(inOrder(names, declaredOrder(of.table, field), calendar).map((name, i) => [name, i]));
  });
  return [...groups].sort((a, b) => {
    for (let f = 0; f < places.length; f++) {
      const order = places[f]!.get(a[f]!)! - places[f]!.get(b[f]!)!;
      if (order !== 0) return order;
    }
    return 0;
  });
}

/** Selection, “the rest” and order. */
export async function chosenMembers(
  context: Context,
  everyone: readonly Member[],
  whole: Whole,
  steps: readonly (Day | null)[],
  sources: Sources,
  benchmarkKind: Cells['benchmarkKind'],
): Promise<Member[]> {
  const { brief, measure } = context;
  let chosen = [...everyone];
  if (brief.keep && brief.by.length > 0) {
    const { kept, tieCut } = select(everyone, brief.keep, measure.aim);
    chosen = kept;
    if (tieCut)
      note(
        context,
        'tie-at-the-edge',
        'note',
        `of members with the same value at the edge of ${brief.keep.count}, the first by name are kept`,
      );
    if (kept.length < brief.keep.count)
      note(context, 'fewer-than-asked', 'note', `${brief.keep.count} were asked for, and there are ${kept.length}`);
  }
  if (brief.sort) chosen = sort(chosen, brief.sort);
  else if (declarationOf(formOf(brief)).ordered)
    chosen = sort(chosen, { key: 'value', direction: measure.aim === 'cut' ? 'up' : 'down' });
  else if (context.choices.order === 'size') {
    // What is new or gone is as large as its one side.
    const size = ({ gap, actual, benchmark }: Member) =>
      brief.against === null
        ? Math.abs(actual) || 0
        : Number.isNaN(gap)
          ? Math.abs(actual) || Math.abs(benchmark) || 0
          : Math.abs(gap);
    chosen = chosen.map((member) => member).sort((a, b) => size(b) - size(a) || a.place - b.place);
  }
  const { most } = context.choices;
  const all = chosen.length;
  const isCut = most !== undefined && all > most && brief.by.length > 0;
  if (isCut) {
    const largest = new Set([...chosen].sort((a, b) => sizeOf(b) - sizeOf(a) || a.place - b.place).slice(0, most));
    chosen = chosen.filter((member) => largest.has(member));
  }
  const kept = new Set(chosen);
  const left = everyone.filter((member) => !kept.has(member));
  const canBeRest = context.of.additive || brief.by.length === 1;
  const hasRest = brief.keep?.rest === true || (isCut && brief.keep === null && canBeRest);
  if (isCut)
    note(
      context,
      'more-than-drawn',
      'warning',
      `of ${thousands(all)} members ${hasRest ? '' : 'only '}the ${thousands(most)} largest are counted singly${hasRest ? ', the rest together' : ''}`,
    );
  if (hasRest && left.length > 0)
    chosen.push(await theRest(context, chosen, left, whole, steps, sources, benchmarkKind));
  return chosen;
}

/** How large a member is, on whichever side it has a number. */
const sizeOf = ({ actual, benchmark }: Member) => Math.abs(actual) || Math.abs(benchmark) || 0;

/** One more member: what the kept ones leave of the whole. Exact for sums; other measures are computed again from the rows that are left. */
async function theRest(
  context: Context,
  kept: readonly Member[],
  left: readonly Member[],
  whole: Whole,
  steps: readonly (Day | null)[],
  { actual, held, due }: Sources,
  benchmarkKind: Cells['benchmarkKind'],
): Promise<Member> {
  const dueDecimals = due?.values.decimals ?? null;
  const { brief, source, of } = context;
  const members = brief.by.map((_, i) => (i === 0 ? THE_REST : ''));
  const rows = steps.map((_, s) => left.reduce((sum, member) => sum + member.rows[s]!, 0));
  const add = (pick: (member: Member) => number, decimals: Decimals) => sumOf(left.map(pick), decimals);
  let actuals: number[];
  let total: number;
  if (areSummed(of, brief.by)) {
    actuals = steps.map((_, s) => add((member) => member.actuals[s]!, actual.decimals));
    total = add((member) => member.actual, actual.decimals);
  } else {
    if (brief.by.length > 1)
      throw new Problem(
        'rest-of-ratio',
        `the rest of “${context.measure.name}” by ${listed(brief.by, 'and')} cannot be computed, as it does not add up`,
        { in: 'brief' },
        'leave out “and the rest”, or one of the fields',
      );
    const field = brief.by[0]!;
    const where = [
      ...brief.only,
      { kind: 'is not' as const, field, members: kept.map((member) => member.members[0] || null) },
    ];
    const shape = { by: [], span: actualSpan(context), where };
    const over = await valuesOf(source, of, { ...shape, grain: null });
    const span = spanFrom(leadIn(context, brief.views[0]!), context);
    total = only(over);
    const stepped = brief.grain ? await valuesOf(source, of, { ...shape, grain: brief.grain, span }) : over;
    actuals = steps.map((step) => stepped.at.get(groupKey([], step))?.value ?? NaN);
  }
  // A benchmark that adds up is held against the rest as well, as is one number for all; peers and averages are not.
  const adds = held !== null && of.additive && !Number.isNaN(whole.benchmark);
  const isOne = !of.additive && benchmarkKind === 'fixed';
  const decimals = held?.values.decimals ?? null;
  const against = adds ? add((member) => member.benchmark, decimals) : isOne ? whole.benchmark : NaN;
  const isCovered = left.every((member) => member.isCovered);
  const gap = isCovered ? gapOf(total, against, actual.decimals, decimals) : NaN;
  return {
    place: kept.length,
    members,
    isRest: true,
    name: THE_REST,
    actual: total,
    benchmark: against,
    gap,
    gapPercent: gapPercentOf(gap, against),
    rows,
    actuals,
    benchmarks:
      held &&
      steps.map((_, s) => (adds ? add((member) => member.benchmarks![s]!, decimals) : isOne ? whole.benchmark : NaN)),
    dues: left[0]!.dues && steps.map((_, s) => (adds ? add((member) => member.dues![s]!, dueDecimals) : NaN)),
    covered: steps.map((_, s) => left.every((member) => member.covered[s])),
    coveredDue: steps.map((_, s) => left.every((member) => member.coveredDue[s])),
    due: adds ? add((member) => member.due, dueDecimals) : NaN,
    isCovered,
    isDueCovered: left.every((member) => member.isDueCovered),
    within: null,
  };
}
