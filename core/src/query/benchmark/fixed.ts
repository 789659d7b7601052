import { length, overlap, spanOf, stepsWithin, type FiscalCalendar, type Grain, type Span } from '../../calendar';
import { decimalsOf, tidy } from '../../number';
import type { Benchmark } from '../../report';
import type { Context } from '../context';
import { fromEntries, type Entry, type Values } from '../values';
import type { Asked } from './asked';

/**
 * A number with what it belongs to. 5000 per member and month is 15 000 for one member and a quarter, 90 000 for six;
 * per nothing it belongs to the whole, and each member has an even part. A measure that does not add up (an average, a
 * ratio) is held against the number itself, whatever the group.
 */
export function fixedValues(context: Context, benchmark: Benchmark & { kind: 'fixed' }, asked: Asked): Values {
  const perMember = benchmark.per.includes('member');
  const per = benchmark.per.find((word): word is Grain => word !== 'member');
  const members = memberCount(context, asked);
  const factor = (entry: Entry): number => {
    if (!context.of.additive) return 1;
    const span =
      entry.step === null || !asked.grain
        ? asked.period
        : clip(spanOf(asked.grain, entry.step, context.calendar), asked.period);
    const time = per ? periodsIn(per, span, context.calendar) : asked.grain ? length(span) / length(asked.period) : 1;
    const share = asked.by.length > 0 ? (perMember ? 1 : 1 / members) : perMember ? members : 1;
    return time * share;
  };
  const entries = [...asked.actual.at.values()];
  // Steps to come have a target, too.
  if (asked.grain) entries.push(...missingSteps(asked, context.calendar, entries));
  if (asked.by.length === 0 && !asked.grain && entries.length === 0)
    entries.push({ members: [], step: null, value: NaN, rows: 0 });
  const values = entries.map((entry) => ({ ...entry, rows: 0, value: tidy(benchmark.value * factor(entry)) }));
  const exact = values.every(({ value }) => decimalsOf(value) !== null);
  return fromEntries(values, exact ? Math.max(0, ...values.map(({ value }) => decimalsOf(value)!)) : null);
}

/** Members the number is for: those shown, or without a field those the conditions name. */
function memberCount({ brief }: Context, { by, actual }: Asked): number {
  if (by.length > 0)
    return Math.max(1, new Set([...actual.at.values()].map(({ members }) => members.join('\u0000'))).size);
  return brief.only.reduce(
    (count, condition) => (condition.kind === 'is' ? count * condition.members.length : count),
    1,
  );
}

function clip(span: Span, within: Span): Span {
  return { from: Math.max(span.from, within.from), to: Math.min(span.to, within.to) };
}

/** How many periods of a grain a span holds; one that is cut counts by its days. */
export function periodsIn(grain: Grain, span: Span, calendar: FiscalCalendar): number {
  return stepsWithin(grain, span, calendar).reduce((count, start) => {
    const period = spanOf(grain, start, calendar);
    return count + overlap(period, span) / length(period);
  }, 0);
}

function missingSteps({ grain, period }: Asked, calendar: FiscalCalendar, entries: readonly Entry[]): Entry[] {
  const groups = new Map(entries.map(({ members }) => [members.join('\u0000'), members]));
  if (groups.size === 0) groups.set('', []);
  const there = new Set(entries.map(({ members, step }) => `${members.join('\u0000')}\u0001${step}`));
  return stepsWithin(grain!, period, calendar).flatMap((step) =>
    [...groups]
      .filter(([key]) => !there.has(`${key}\u0001${step}`))
      .map(([, members]) => ({ members, step, value: NaN, rows: 0 })),
  );
}
