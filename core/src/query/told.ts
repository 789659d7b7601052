import { formOf, writeView } from '../brief';
import {
  haveSameYears,
  isoDay,
  spanOf,
  startOf,
  stepName,
  stepsWithin,
  writtenDay,
  writtenSpan,
  type Day,
} from '../calendar';
import { declarationOf } from '../form';
import { columnsOf } from '../measure';
import { EXACT_LIMIT, power, tidy, total, type Decimals } from '../number';
import { counted, listed } from '../problem';
import type { Benchmark } from '../report';
import type { Held } from './benchmark/asked';
import { isLikeForLike } from './benchmark/benchmark';
import { comesTo } from './compare';
import { note, type Context } from './context';
import { DUE_NOT_KNOWN } from './due';
import type { Member } from './members';
import type { Stepping } from './stepping';
import type { Values } from './values';

// What an answer tells of itself, beside its numbers.

/** How views that compare steps take the one that is cut at its end. */
export function tellRunningStep(context: Context, { cut, cutBefore }: Stepping, steps: readonly (Day | null)[]): void {
  const { brief, calendar, period, asOf } = context;
  const start = steps[cut];
  if (!brief.grain || start === undefined || start === null) return;
  const named = stepName(brief.grain, start, calendar);
  const until = writtenDay(Math.min(period.to, asOf));
  const { grain } = brief;
  const has = (kind: string) => brief.views.some((view) => view.kind === kind);
  if (has('change') && cutBefore)
    note(context, 'running-step', 'note', `${named} up to ${until} is compared with ${writtenSpan(cutBefore)}`);
  if (has('smoothed'))
    note(
      context,
      'running-step',
      'note',
      `${named} is known up to ${until} only, and the means are of whole ${grain}s`,
    );
}

/** Tells where amounts are too large to be held to the last digit. */
function tellRounded(context: Context, { at, decimals }: Values): void {
  const { of, measure } = context;
  const { tooLarge = [], id } = of.table;
  const read = columnsOf(of.expression);
  const columns = tooLarge.filter((name) => read.includes(name));
  const tell = (what: string) => note(context, 'not-exact', 'warning', `${what} rounded to 15 digits`);
  if (columns.length > 0)
    return tell(
      `“${columns.join('”, “')}” of “${id}” together ${columns.length === 1 ? 'is' : 'are'} larger than can be added up to the last digit: sums are`,
    );
  // Products and the like may grow beyond that where their columns do not.
  const isBeyond = ({ value }: { readonly value: number }) =>
    Number.isFinite(value) && Math.abs(value) * power(decimals ?? 0) > EXACT_LIMIT;
  if (decimals !== null && [...at.values()].some(isBeyond))
    tell(`“${measure.name}” is larger than can be held to the last digit: it is`);
}

/** Tells what becomes of rows whose day lies far from all others, where everything is asked for. */
function tellFarDays(context: Context): void {
  const { far, id } = context.of.table;
  if (!far || !context.allTime) return;
  const days = far.from === far.to ? writtenDay(far.from) : `${writtenDay(far.from)} to ${writtenDay(far.to)}`;
  const them = far.count === 1 ? 'it' : 'them';
  note(
    context,
    'far-days',
    'warning',
    `${counted(far.count, 'row')} of “${id}” on ${days} ${far.count === 1 ? 'lies' : 'lie'} far from all others: ${context.brief.grain ? `no step shows ${them}, and totals count ${them}` : `totals count ${them}`}`,
  );
}

/** Tells that the last period of a table whose rows stand for more than a day counts whole, though actuals end inside it. */
function tellCutRows(context: Context): void {
  const { of, period, asOf, allTime, measure } = context;
  const { grain, periods } = of.table;
  const to = Math.min(period.to, asOf);
  if (!grain || grain === 'day' || allTime || period.from > to) return;
  const { from, to: end } = spanOf(grain, to, periods);
  if (to === end) return;
  note(
    context,
    'period-cuts-rows',
    'warning',
    `“${measure.name}” is known for each ${grain}: ${stepName(grain, from, periods)} counts whole, though the period ends on ${writtenDay(to)}`,
  );
}

/**
 * Tells that the whole is not what the rows of a figure add up to: of a measure of several terms a row that lacks one is blank, and the
 * whole counts its other terms.
 */
export function tellWhatDoesNotAddUp(
  context: Context,
  everyone: readonly Member[],
  whole: number,
  decimals: Decimals,
): void {
  const { of, brief, measure } = context;
  if (!of.additive || of.addsUp || Number.isNaN(whole)) return;
  const values =
    brief.by.length > 0 ? everyone.map(({ actual }) => actual) : everyone.flatMap(({ actuals }) => actuals);
  if (comesTo(values, whole, decimals)) return;
  const together = total(values, decimals) || 0;
  const rows = brief.by.length > 0 ? 'members' : 'steps';
  note(
    context,
    'does-not-add-up',
    'warning',
    `“${measure.name}” is blank for ${rows} that lack one of its terms, and the whole counts the other terms: the ${rows} add up to ${tidy(together)}, and the whole is ${tidy(whole)}`,
  );
}

/** Tells what follows from the period, from the file and from the rows left out. */
export function reportGaps(
  context: Context,
  benchmark: Benchmark | null,
  actual: Values,
  { held, due }: { readonly held: Held | null; readonly due: Held | null },
): void {
  const { period, asOf, of, measure } = context;
  // A running sum is held against what should be there by then, step by step.
  const runs = context.brief.views[0]!.kind === 'cumulative';
  const hasValues = [...(held?.values.at.values() ?? [])].some(({ value }) => !Number.isNaN(value));
  const isUnknown = context.checks.some(({ code }) => code === DUE_NOT_KNOWN);
  const isPart = period.partial && period.from <= asOf && !isUnknown;
  if (benchmark && hasValues && isPart && !runs && !isLikeForLike(context, benchmark)) {
    const isDue = [...(due?.values.at.values() ?? [])].some(({ value }) => !Number.isNaN(value));
    note(
      context,
      'part-period-against-whole',
      'warning',
      `the period runs to ${isoDay(period.to)} and actuals only to ${isoDay(asOf)}: ${
        isDue
          ? `what is due of “${benchmark.name}” by then is what figures judge by, beside the whole of it`
          : `gaps are to the whole of “${benchmark.name}”`
      }`,
    );
  }
  const { grain, periods } = of.table;
  if (
    (grain === 'quarter' || grain === 'year') &&
    !haveSameYears(periods, context.calendar) &&
    (context.brief.grain !== null || !context.allTime)
  ) {
    const [start] = stepsWithin(grain, { from: period.from, to: period.from }, periods);
    if (start !== startOf(grain, period.from, context.calendar))
      note(
        context,
        'periods-out-of-step',
        'warning',
        `“${measure.name}” is known for each ${grain} of the calendar, and the report’s begin in other months: each counts where its first day lies`,
      );
  }
  tellCutRows(context);
  tellRounded(context, actual);
  tellFarDays(context);
  if (actual.undated > 0)
    note(
      context,
      'rows-without-date',
      'warning',
      `${actual.undated} ${actual.undated === 1 ? 'row' : 'rows'} of “${of.table.id}” ${actual.undated === 1 ? 'has no date and is' : 'have no date and are'} ${context.allTime ? 'in no step' : 'not in the period'}`,
    );
}

/** Tells which words of a brief its form does not draw: nothing of a brief is left out in silence. */
export function tellWhatIsNotDrawn(context: Context): void {
  const { brief } = context;
  const form = formOf(brief);
  const { everyView, stacks } = declarationOf(form);
  const [first, ...further] = brief.views;
  const isStacked = stacks && brief.by.length === 0 && brief.grain === null;
  if (further.length > 0 && !everyView && !isStacked)
    note(
      context,
      'not-drawn',
      'warning',
      `${listed(
        further.map((view) => `“${writeView(view)}”`),
        'and',
      )} ${further.length === 1 ? 'is' : 'are'} not in this figure: “as ${form}” draws “${writeView(first!)}” only, “as table” shows every measure`,
    );
  if (first!.kind === 'cumulative' && brief.grain === null)
    note(
      context,
      'not-drawn',
      'note',
      `“cumulative” adds up over steps of time, and the brief has none: the numbers are those of the whole period; add “each month” for a running sum`,
    );
}
