import { tellCurrencies } from './currencies';
import { formOf, type View } from '../brief';
import { resolvePeriod, type Day } from '../calendar';
import { declarationOf } from '../form';
import { total as sumOf } from '../number';
import { listed } from '../problem';
import type { Cells } from './cells';
import {
  actualSpan,
  areSummed,
  dataSpan,
  measureNamed,
  measured,
  note,
  type Aggregated,
  type Context,
} from './context';
import { inFieldOrder, type Member } from './members';
import type { TableFacts } from './query';
import { leadIn, spanFrom, steppingOf } from './stepping';
import { groupKey, inPeriod, only, valuesOf, type Values, orBlank } from './values';
import { ranksOf, shareOf, viewOver } from './views';

/** What a brief asks of a measure that its table does not have, in words; null where it has all. */
function lackedBy({ brief }: Context, { columns, date }: TableFacts): string | null {
  if (date === null && (brief.grain !== null || brief.period.kind !== 'all time')) return 'no date';
  const fields = [...brief.by, ...brief.only.map(({ field }) => field)];
  const lacking = [...new Set(fields)].filter((field) => !columns.has(field));
  return lacking.length === 0
    ? null
    : `no ${listed(
        lacking.map((field) => `“${field}”`),
        'and',
      )}`;
}

/**
 * Members of which only further measures have rows, in other tables than the first: where the form draws every measure they are rows of
 * the figure, too.
 */
export async function furtherMembers(context: Context): Promise<readonly (readonly string[])[]> {
  const { brief, source, report } = context;
  if (brief.by.length === 0 || !declarationOf(formOf(brief)).everyView) return [];
  const tables = new Map<string, Aggregated>();
  for (const { measure: name } of brief.views.slice(1)) {
    const measure = measureNamed(report, name);
    const of = measured(source, report.calendar, measure);
    if (of.table.id !== context.of.table.id && lackedBy(context, of.table) === null) tables.set(of.table.id, of);
  }
  const shape = { by: brief.by, grain: null, span: actualSpan(context), where: brief.only };
  const all = await Promise.all([...tables.values()].map((of) => valuesOf(source, of, shape)));
  return all.flatMap(({ at }) => [...at.values()].map(({ members }) => members));
}

/**
 * Values of the further views of a brief, for every chosen member and step. Each means what it means as the first view: shares,
 * ranks and changes are of the members of one step, and “the rest” is what the kept members leave.
 */
export async function furtherViews(
  context: Context,
  chosen: readonly Member[],
  steps: readonly (Day | null)[],
): Promise<Cells['values']> {
  return Promise.all(context.brief.views.slice(1).map((view) => furtherView(context, view, chosen, steps)));
}

async function furtherView(
  first: Context,
  view: View,
  chosen: readonly Member[],
  steps: readonly (Day | null)[],
): Promise<Cells['values'][number]> {
  const { brief, source, report, choices } = first;
  const measure = measureNamed(report, view.measure);
  const of = measured(source, report.calendar, measure);
  const lacks = lackedBy(first, of.table);
  if (lacks !== null) {
    note(first, 'left-blank', 'warning', `“${measure.name}” is left blank, as table “${of.table.id}” has ${lacks}`);
    return { view, measure, of: new Float64Array(chosen.length * steps.length).fill(NaN), total: NaN };
  }
  const known = (await dataSpan(source, of)) ?? first.known;
  const { asOf, calendar, allTime } = first;
  const period = allTime
    ? resolvePeriod(brief.period, calendar, asOf, { from: known.from, to: Math.min(known.to, asOf) })
    : first.period;
  const context: Context = { ...first, of, measure, known, period };
  const span = actualSpan(context);
  const leads = leadIn(context, view);
  const shape = { by: brief.by, grain: brief.grain, span: spanFrom(leads, context), where: brief.only };
  await tellCurrencies(context, of, { who: `“${measure.name}”`, by: brief.by, span, where: brief.only });
  const values = await valuesOf(source, of, shape);
  const stepping = steppingOf(context, steps, leads);
  const line = [...leads, ...steps];
  const cutSpan = view.kind === 'change' ? stepping.cutBefore : null;
  const cut = cutSpan && (await valuesOf(source, of, { ...shape, grain: null, span: cutSpan }));

  const kept = chosen.filter(({ isRest }) => !isRest);
  const keptKeys = new Set(kept.map(({ members }) => members.join('\u0000')));
  const shown = leads.length > 0 ? inPeriod(values, context) : values;
  const groups = new Map([...shown.at.values()].map(({ members }) => [members.join('\u0000'), members]));
  const everyone = inFieldOrder(context, [...groups.values()]);
  const stepped = (members: readonly string[], in_: Values = values) =>
    line.map((step) => in_.at.get(groupKey(members, step))?.value ?? NaN);
  const add = (list: readonly number[]) => sumOf(list, values.decimals);
  const all = everyone.map((members) => stepped(members));
  // Where members do not add up to the whole, shares are of the whole.
  const totals =
    view.kind === 'share' && !of.addsUp && !brief.grain
      ? [only(await valuesOf(source, of, { ...shape, by: [] }))]
      : line.map((_, s) => add(all.map((one) => one[s]!)));
  const seen = (list: readonly number[], before: number): number[] =>
    view.kind === 'share'
      ? list.map((value, s) => shareOf(value, totals[s]!))
      : viewOver(view, list, values.decimals, stepping.line, before, choices.window).slice(leads.length);
  const beforeOf = (members: readonly string[]) => cut?.at.get(groupKey(members, null))?.value ?? NaN;

  const ranks = new Map<string, number[]>();
  if (view.kind === 'rank') {
    everyone.forEach((members) => ranks.set(members.join('\u0000'), []));
    steps.forEach((_, s) => {
      const found = ranksOf(
        all.map((one) => one[s]!),
        measure.aim,
        null,
        choices.rank,
      );
      everyone.forEach((members, i) => ranks.get(members.join('\u0000'))!.push(found[i]!));
    });
  }
  const rest = chosen.some(({ isRest }) => isRest) ? await restOf() : null;
  const rows = chosen.flatMap(({ members, isRest }) => {
    if (view.kind === 'rank')
      return isRest ? steps.map(() => NaN) : (ranks.get(members.join('\u0000')) ?? steps.map(() => NaN));
    return isRest ? seen(rest!.line, rest!.before) : seen(stepped(members), beforeOf(members));
  });

  async function restOf(): Promise<{ line: number[]; before: number }> {
    if (areSummed(of, brief.by)) {
      const left = everyone.filter((members) => !keptKeys.has(members.join('\u0000')));
      const lines = left.map((members) => stepped(members));
      return { line: line.map((_, s) => add(lines.map((one) => one[s]!))), before: add(left.map(beforeOf)) };
    }
    if (brief.by.length > 1) return { line: line.map(() => NaN), before: NaN };
    const members = kept.map((member) => member.members[0] || null);
    const where = [...brief.only, { kind: 'is not' as const, field: brief.by[0]!, members }];
    const left = stepped([], await valuesOf(source, of, { ...shape, by: [], where }));
    const before = cutSpan ? only(await valuesOf(source, of, { by: [], grain: null, span: cutSpan, where })) : NaN;
    return { line: left, before };
  }

  async function wholeOf(): Promise<number> {
    if (view.kind === 'rank') return NaN;
    const isOver = brief.grain !== null && (view.kind === 'change' || view.kind === 'smoothed');
    const wholes =
      isOver && !of.additive ? stepped([], await valuesOf(source, of, { ...shape, by: [] })) : isOver ? totals : null;
    if (wholes) {
      const before = cutSpan
        ? only(await valuesOf(source, of, { by: [], grain: null, span: cutSpan, where: brief.only }))
        : NaN;
      return seen(wholes, before).findLast((value) => !Number.isNaN(value)) ?? NaN;
    }
    const whole = of.addsUp
      ? add([...values.at.values()].map(({ value }) => value))
      : only(await valuesOf(source, of, { by: [], grain: null, span, where: brief.only }));
    return view.kind === 'share' ? shareOf(whole, whole) : whole;
  }

  return { view, measure, of: Float64Array.from(rows, orBlank), total: orBlank(await wholeOf()) };
}
