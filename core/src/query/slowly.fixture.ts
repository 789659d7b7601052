import fc from 'fast-check';
import { expect } from 'vitest';
import type { Choices, Numbers } from '.';
import {
  type Opens,
  type Row,
  type World,
  type Grain,
  type Days,
  at,
  plusDays,
  daysOf,
  monthNamed,
  monthsOn,
  beginsMonth,
  periodOf,
  yearName,
  steps,
  euros,
  within,
  minus,
  mean,
  percentile,
  world,
  ask,
} from './independent.fixture';

// The definitions of docs/calculations.md once more, slowly: row by row, in whole cents, days as texts, with the platform's
// dates. It shares no code with core. A thousand worlds, each asked one question.

function periods(world: World): { words: string; days: Days; whole: boolean; months: number | null }[] {
  const asOf = lastDay(world);
  const year = periodOf('year', asOf, world);
  const quarter = periodOf('quarter', asOf, world);
  const month = periodOf('month', asOf, world);
  const before = periodOf('quarter', plusDays(quarter.from, -1), world);
  return [
    { words: `fiscal ${yearName(year.from, world)}`, days: year, whole: true, months: 12 },
    { words: 'year to date', days: { from: year.from, to: asOf }, whole: false, months: 12 },
    { words: 'latest quarter', days: quarter, whole: true, months: 3 },
    { words: 'previous quarter', days: before, whole: true, months: 3 },
    { words: 'month to date', days: { from: month.from, to: asOf }, whole: false, months: 1 },
    { words: 'last 5 months', days: { from: monthsOn(month.from, -4, world), to: month.to }, whole: true, months: 5 },
    { words: '2024-02-03 to 2024-03-31', days: { from: '2024-02-03', to: '2024-03-31' }, whole: false, months: null },
  ];
}
/** Where the data can be said to begin: the first day with an amount, less the longest stretch without rows, in its month. */
function beginningOf(world: World): string {
  const { rows } = world;
  const filled = rows.filter(({ cents }) => cents !== null).map(({ day }) => day);
  if (filled.length === 0) return '1970-01-01';
  const [first, last] = [filled.reduce((a, b) => (a < b ? a : b)), filled.reduce((a, b) => (a > b ? a : b))];
  const open = [...new Set(rows.map(({ day }) => day))].filter((day) => day >= first && day <= last).sort();
  const quiet = open.slice(1).map((day, i) => (at(day).getTime() - at(open[i]!).getTime()) / 86_400_000 - 1);
  const earliest = plusDays(first, -Math.max(0, ...quiet));
  const month = periodOf('month', first, world).from;
  return earliest > month ? earliest : month;
}
const lastDay = ({ rows }: World) =>
  rows.reduce((last, { day, cents }) => (cents !== null && day > last ? day : last), '');

const membersIn = (rows: readonly Row[]) => [...new Set(rows.map(({ shop }) => shop))];
const keyOf = (shop: string, step = '') => `${shop}|${step}`;
const found = (numbers: Numbers) =>
  new Map(numbers.rows.map((row) => [keyOf(String(row.key.shop ?? ''), row.step ?? ''), row]));
const same = (got: number | null | undefined, wanted: number | null) => expect(got ?? null).toBe(wanted);
const near = (got: number | null | undefined, wanted: number | null) => {
  if (wanted === null) expect(got ?? null).toBeNull();
  else expect(Math.abs(got! - wanted)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(wanted)));
};

const question = fc.record({
  kind: fc.constantFrom(
    'cumulative',
    'change',
    'smoothed',
    'rank',
    'share',
    'keep',
    'back',
    'step before',
    'active day',
    'peers',
    'fixed',
    'goal',
    'landing',
    'missing',
    'second',
  ),
  grain: fc.constantFrom<Grain>('day', 'week', 'month', 'quarter', 'year'),
  period: fc.nat({ max: 6 }),
  k: fc.integer({ min: 1, max: 5 }),
  window: fc.constantFrom<'trailing' | 'preceding' | 'centred'>('trailing', 'preceding', 'centred'),
  rank: fc.constantFrom<'competition' | 'dense' | 'ordinal'>('competition', 'dense', 'ordinal'),
  aim: fc.constantFrom('raise', 'cut'),
  order: fc.constantFrom(
    'highest',
    'lowest',
    'largest either sign',
    'widest gaps',
    'furthest ahead',
    'furthest behind',
  ),
  rest: fc.boolean(),
  years: fc.boolean(),
  weekday: fc.boolean(),
  statistic: fc.constantFrom('mean', 'median', 'lowest', 'highest', 'percentile'),
  spread: fc.constantFrom('even', 'workdays', 'last year'),
});
type Question = typeof question extends fc.Arbitrary<infer Q> ? Q : never;

async function compareOne(world: World, q: Question, open: Opens): Promise<void> {
  const asOf = lastDay(world);
  const { words, days, whole, months } = periods(world)[q.period]!;
  const numbersFor = (brief: string, benchmark: object | null = null, choices: Choices = {}) =>
    ask(world, brief, benchmark, choices, q.aim, open);
  const asked = (brief: string, benchmark: object | null = null, choices: Choices = {}) =>
    numbersFor(brief, benchmark, choices).then(found);
  const until = days.to < asOf ? days.to : asOf;
  const shown = within(world.rows, { from: days.from, to: until });
  const begins = beginningOf(world);
  const valueOf = (shop: string, span: Days = days) => {
    const to = span.to < asOf ? span.to : asOf;
    return euros(within(world.rows, { from: span.from, to }).filter((row) => row.shop === shop));
  };
  /** Nothing sold is 0 where something stands beside it, on days that have begun and that the data reach; blank amounts stay blank. */
  const soldIn = (shop: string, span: Days, beside: number | null): number | null => {
    const own = within(world.rows, { from: span.from, to: span.to < asOf ? span.to : asOf });
    const rows = own.filter((row) => row.shop === shop);
    const isNothing = rows.length === 0 && beside !== null && span.from >= begins && span.from <= asOf;
    return isNothing ? 0 : euros(rows);
  };

  switch (q.kind) {
    case 'cumulative':
    case 'change':
    case 'smoothed': {
      const view = q.kind === 'change' ? 'change in' : q.kind === 'smoothed' ? `smoothed ${q.k}` : 'cumulative';
      const got = await asked(`${view} net by shop each ${q.grain} during ${words}`, null, { window: q.window });
      for (const shop of membersIn(shown)) {
        const inside = steps(q.grain, days, world);
        // A period that begins with a step looks back to those before it, of which six are enough.
        const reach = { from: plusDays(days.from, -6 * 380), to: plusDays(days.from, -1) };
        if (q.grain === 'day' || q.grain === 'week') reach.from = plusDays(days.from, -6 * 7);
        if (reach.from < begins) reach.from = begins;
        const led = q.kind !== 'cumulative' && inside[0]!.days.from === days.from ? steps(q.grain, reach, world) : [];
        const leads = led.filter(({ days: step }) => step.from >= begins && step.from >= reach.from).slice(-6);
        const line = [...leads, ...inside];
        const isWhole = ({ days: step }: (typeof line)[number]) =>
          step.from >= begins && (step.to < days.from || step.from >= days.from) && step.to <= until;
        // The last step that has begun, if it is cut at its end.
        const cut = line.findLastIndex(({ days: step }) => step.from <= asOf);
        const isCut = (i: number) =>
          i === cut && !isWhole(line[i]!) && line[i]!.days.from >= begins && line[i]!.days.from >= days.from;
        const values = line.map(({ days: step }, i) =>
          i < leads.length
            ? valueOf(shop, step)
            : valueOf(shop, {
                from: step.from < days.from ? days.from : step.from,
                to: step.to > days.to ? days.to : step.to,
              }),
        );
        line.forEach(({ code, days: step }, i) => {
          if (i < leads.length) return;
          const row = got.get(keyOf(shop, code));
          if (q.kind === 'cumulative') {
            const so = within(world.rows, { from: days.from, to: step.to < until ? step.to : until });
            same(row?.actual, step.from > asOf ? null : euros(so.filter((one) => one.shop === shop)));
          } else if (q.kind === 'change') {
            const before = line[i - 1];
            if (!before || !isWhole(before) || !(isWhole(line[i]!) || isCut(i))) return same(row?.actual, null);
            if (!isCut(i)) return same(row?.actual, minus(values[i]!, values[i - 1]!));
            const months = { month: 1, quarter: 3, year: 12, week: 0, day: 0 }[q.grain];
            const much =
              months > 0
                ? monthsBefore({ from: step.from, to: until }, false, until, months, world)
                : { from: plusDays(step.from, -7), to: plusDays(until, -7) };
            same(row?.actual, minus(values[i]!, valueOf(shop, much)));
          } else {
            const windowAt = (from: number): number | null => {
              const some = values
                .map((value, at) => (isWhole(line[at]!) ? value : null))
                .slice(Math.max(0, from), from + q.k);
              return from < 0 || some.length < q.k || some.includes(null) ? null : mean(some as number[]);
            };
            const half = Math.floor(q.k / 2);
            const around = [windowAt(i - half), windowAt(i - half + (q.k % 2 === 1 ? 0 : 1))];
            const wanted =
              q.window === 'trailing'
                ? windowAt(i - q.k + 1)
                : q.window === 'preceding'
                  ? windowAt(i - q.k)
                  : around.includes(null)
                    ? null
                    : mean(around as number[]);
            near(row?.actual, wanted);
          }
        });
      }
      return;
    }
    case 'rank':
    case 'share': {
      const got = await asked(`${q.kind} of net by shop during ${words}`, null, { rank: q.rank });
      const all = membersIn(shown).map((shop) => ({ shop, value: valueOf(shop) }));
      const filled = all.filter(({ value }) => value !== null) as { shop: string; value: number }[];
      const better = (a: number, b: number) => (q.aim === 'raise' ? a > b : a < b);
      const total = Math.round(filled.reduce((sum, { value }) => sum + value * 100, 0)) / 100;
      for (const { shop, value } of all) {
        const row = got.get(keyOf(shop));
        if (q.kind === 'share') {
          near(row?.share, value === null || total === 0 ? null : value / total);
          continue;
        }
        const ahead = filled.filter((other) => value !== null && better(other.value, value));
        const byName = (name: string) => (name === '' ? Infinity : Number(name.slice(5)));
        const tiedBefore = filled.filter((other) => other.value === value && byName(other.shop) < byName(shop));
        const places = {
          competition: ahead.length + 1,
          dense: new Set(ahead.map((other) => other.value)).size + 1,
          ordinal: ahead.length + tiedBefore.length + 1,
        };
        same(row?.rank, value === null ? null : places[q.rank]);
      }
      return;
    }
    case 'keep': {
      if (months === null) return;
      const got = await asked(
        `net by shop during ${words} against last year, keep ${q.k} ${q.order}${q.rest ? ' and the rest' : ''}`,
      );
      const then = lastYear(days, whole, asOf, 1, world);
      const all = [...new Set([...membersIn(shown), ...membersIn(within(world.rows, then))])]
        .map((shop) => {
          const is = soldIn(shop, days, valueOf(shop, then));
          const was = soldIn(shop, then, valueOf(shop));
          // A year before of which the data hold a part only is not held against all of this one.
          return { shop, is, was, gap: then.from < begins && then.to >= begins ? null : minus(is, was) };
        })
        .filter(({ shop, was }) => was !== null || membersIn(shown).includes(shop));
      const sign = q.aim === 'raise' ? 1 : -1;
      const merit = ({ is, gap }: (typeof all)[number]): number | null => {
        const of = ['highest', 'lowest', 'largest either sign'].includes(q.order) ? is : gap;
        if (of === null) return null;
        if (q.order === 'highest') return of;
        if (q.order === 'lowest') return -of;
        if (q.order === 'furthest ahead') return sign * of;
        return q.order === 'furthest behind' ? -sign * of : Math.abs(of);
      };
      const kept = all
        .filter((one) => merit(one) !== null)
        .sort(
          (a, b) =>
            merit(b)! - merit(a)! ||
            (a.shop === '' ? 1 : b.shop === '' ? -1 : Number(a.shop.slice(5)) - Number(b.shop.slice(5))),
        )
        .slice(0, q.k);
      const rest = all.filter((one) => !kept.includes(one));
      expect(got.size).toBe(kept.length + (q.rest && rest.length > 0 ? 1 : 0));
      for (const { shop, is, was, gap } of kept) {
        same(got.get(keyOf(shop))?.actual, is);
        same(got.get(keyOf(shop))?.benchmark, was);
        same(got.get(keyOf(shop))?.gap, gap);
      }
      if (q.rest && rest.length > 0) {
        const add = (values: (number | null)[]) =>
          values.every((value) => value === null)
            ? null
            : Math.round(values.reduce<number>((sum, value) => sum + (value ?? 0) * 100, 0)) / 100;
        same(got.get(keyOf('the rest'))?.actual, add(rest.map(({ is }) => is)));
      }
      return;
    }
    case 'back': {
      const align = q.years && q.weekday ? 'weekday' : 'date';
      const back = q.years ? { years: q.k } : { periods: q.k };
      const got = await asked(`net by shop during ${words} against held`, { kind: 'period', back, align });
      let then: Days;
      if (q.years && q.weekday) {
        then = { from: plusDays(days.from, -364 * q.k), to: plusDays(until, -364 * q.k) };
      } else if (q.years) then = lastYear(days, whole, asOf, q.k, world);
      else if (months === null) {
        const length = daysOf({ from: days.from, to: days.from > asOf ? days.to : until }).length;
        then = {
          from: plusDays(days.from, -length * q.k),
          to: plusDays(days.from > asOf ? days.to : until, -length * q.k),
        };
      } else then = monthsBefore(days, whole, asOf, months * q.k, world);
      if (days.from > asOf) return;
      for (const shop of membersIn(shown)) {
        const was = soldIn(shop, then, valueOf(shop));
        same(got.get(keyOf(shop))?.benchmark, was);
        const gap = then.from < begins && then.to >= begins ? null : minus(valueOf(shop), was);
        same(got.get(keyOf(shop))?.gap, gap);
        near(got.get(keyOf(shop))?.gapPercent, gap === null || was === 0 ? null : gap / Math.abs(was!));
      }
      return;
    }
    case 'step before': {
      // Each step is held against one some steps before; together they are what the whole is held against.
      if (days.from > asOf) return;
      const { rows, total } = await numbersFor(`net each ${q.grain} during ${words} against held`, {
        kind: 'period',
        back: { periods: q.k },
      });
      const cents = rows.map(({ benchmark }) => Math.round((benchmark ?? 0) * 100)).reduce((a, b) => a + b, 0);
      if (total.benchmark !== null || cents !== 0) same(total.benchmark, cents / 100);
      return;
    }
    case 'active day': {
      const got = await asked('net by shop during latest day against held', {
        kind: 'period',
        back: { periods: q.k },
        activeDays: true,
      });
      const active = [...new Set(world.rows.map(({ day }) => day))]
        .filter((day) => day < asOf)
        .sort()
        .reverse();
      const then = active[q.k - 1];
      for (const shop of membersIn(within(world.rows, { from: asOf, to: asOf }))) {
        const was =
          then === undefined ? null : soldIn(shop, { from: then, to: then }, valueOf(shop, { from: asOf, to: asOf }));
        same(got.get(keyOf(shop))?.benchmark, was);
      }
      return;
    }
    case 'peers': {
      const got = await asked(`net by shop during ${words} against held`, {
        kind: 'peers',
        statistic: q.statistic,
        percentile: 20 * q.k,
      });
      const values = membersIn(shown)
        .map((shop) => valueOf(shop))
        .filter((value) => value !== null);
      const wanted = {
        mean: () => mean(values),
        median: () => percentile(values, 50),
        lowest: () => Math.min(...values),
        highest: () => Math.max(...values),
        percentile: () => percentile(values, 20 * q.k),
      };
      for (const shop of membersIn(shown))
        near(got.get(keyOf(shop))?.benchmark, values.length === 0 ? null : wanted[q.statistic]());
      return;
    }
    case 'fixed': {
      const numbers = await numbersFor(`net by shop during ${words} against held`, {
        kind: 'fixed',
        value: 700,
        per: [q.years ? 'member' : 'shop', q.grain],
      });
      const got = found(numbers);
      let count = 0;
      for (const { days: step } of steps(q.grain, days, world)) {
        const inside = daysOf(step).filter((day) => day >= days.from && day <= days.to);
        count += inside.length / daysOf(step).length;
      }
      for (const shop of membersIn(shown)) near(got.get(keyOf(shop))?.benchmark, 700 * count);
      // The whole is for as many as there are, whatever the figure is broken down by.
      const many = membersIn(shown).length;
      near(numbers.total.benchmark, many === 0 ? null : 700 * count * many);
      if (!q.years && many > 0) {
        const per = { kind: 'fixed', value: 700, per: ['shop', q.grain] };
        near((await numbersFor(`net during ${words} against held`, per)).total.benchmark, 700 * count * many);
      }
      return;
    }
    case 'landing': {
      // Every grain lands at the same place, wherever the period ends: what is due inside a step is a fraction of its days.
      if (days.from > asOf) return;
      const daysIn = (goal: World['goals'][number], to: string) =>
        daysOf(monthNamed(goal.month, world)).filter((day) => day >= days.from && day <= to).length;
      const set = world.goals.filter((goal) => daysIn(goal, days.to) > 0);
      const { landings = [] } = await numbersFor(`cumulative net each ${q.grain} during ${words} against held`, {
        kind: 'table',
        table: 'goals',
        expression: 'sum(goal)',
      });
      const [landing] = landings;
      if (set.length === 0) return;
      const goalTo = (to: string) =>
        set.reduce(
          (sum, goal) => sum + (goal.euros * daysIn(goal, to)) / daysOf(monthNamed(goal.month, world)).length,
          0,
        );
      const [due, end] = [goalTo(until), goalTo(days.to)];
      // Of a period that the data begin inside, steps before them are blank, and those after them 0.
      if (shown.length === 0 && days.from < begins) return;
      // So are steps whose amounts are blank, whichever these are.
      if (shown.length > 0 && euros(shown) === null) return;
      const toDate = euros(shown) ?? 0;
      same(landing?.toDate as number, toDate);
      near(landing?.benchmarkEnd as number, end);
      // Goals that begin behind the as-of date have nothing due by then.
      near((landing?.benchmarkToDate as number | null) ?? 0, due);
      const pace = due === 0 ? 1 : toDate! / due;
      if (Math.abs(due) > 1 && toDate !== null) near(landing?.landing as number, toDate + (end - due) * pace);
      const left = daysOf({ from: until, to: days.to }).length - 1;
      same(landing?.daysLeft as number, left);
      if (left === 0 && Math.abs(due) > 1) near(landing?.landing as number, toDate);
      return;
    }
    case 'missing': {
      // A goal for some months is not held against all of them.
      const numbers = await numbersFor(`net by shop during ${words} against held`, {
        kind: 'table',
        table: 'goals',
        expression: 'sum(goal)',
      });
      const got = found(numbers);
      for (const shop of membersIn(shown)) {
        const own = new Map(world.goals.filter((goal) => goal.shop === shop).map((goal) => [goal.month, goal.euros]));
        const months = steps('month', days, world).map(({ days: month, code }) => ({ ...month, code }));
        const has = months.filter((month) => own.has(month.code));
        const lacks = months.filter((month) => !own.has(month.code));
        const isLacking = (month: Days) => {
          const to = [month.to, days.to].sort()[0]!;
          if (to > asOf) return true;
          return euros(within(shown, month).filter((row) => row.shop === shop)) !== null;
        };
        const sum = has.reduce((all, month) => {
          const inside = daysOf(month).filter((day) => day >= days.from && day <= days.to);
          return all + (own.get(month.code)! * inside.length) / daysOf(month).length;
        }, 0);
        const row = got.get(keyOf(shop));
        near(row?.benchmark, has.length === 0 ? null : sum);
        // Goals for days of which there are no data are held against nothing.
        const begun = days.to >= begins && has.some((month) => [month.from, days.from].sort()[1]! < begins);
        const isAlike = has.length > 0 && !lacks.some(isLacking) && !begun;
        const is = valueOf(shop);
        near(row?.gap, isAlike && is !== null ? is - sum : null);
      }
      // Who has rows and no goal at all is told, as the whole counts them.
      const inPeriod = steps('month', days, world).map(({ code }) => code);
      const set = new Set(world.goals.flatMap(({ shop, month }) => (inPeriod.includes(month) ? [shop] : [])));
      const without = membersIn(shown).filter((shop) => valueOf(shop) !== null && !set.has(shop));
      const told = numbers.checks.find(({ code }) => code === 'members-without-target')?.text;
      expect(told !== undefined).toBe(set.size > 0 && without.length > 0);
      if (told && without.length <= 3) for (const shop of without) expect(told).toContain(shop || '(blank)');
      return;
    }
    case 'second': {
      // A view means the same wherever it stands.
      const views = ['net', 'share of net', 'rank of net', 'change in net', `smoothed ${q.k} net`, 'cumulative net'];
      const tail = ` by shop each ${q.grain} during ${words}`;
      const all = await asked(`${views.join(', ')}${tail}`, null, { window: q.window, rank: q.rank });
      for (const view of views) {
        const one = await asked(`${view}${tail}`, null, { window: q.window, rank: q.rank });
        expect([...one.keys()]).toEqual([...all.keys()]);
        for (const [key, row] of one)
          same(all.get(key)?.values?.[view], view.startsWith('rank') ? row.rank! : row.actual);
      }
      return;
    }
    case 'goal': {
      const got = await asked(`net by shop during ${words} against held`, {
        kind: 'table',
        table: 'goals',
        expression: 'sum(goal)',
        spread: q.spread,
      });
      for (const shop of new Set([...membersIn(shown), ...world.goals.map((goal) => goal.shop)])) {
        let sum: number | null = null;
        for (const goal of world.goals.filter((one) => one.shop === shop)) {
          const month = monthNamed(goal.month, world);
          const inside = daysOf(month).filter((day) => day >= days.from && day <= days.to);
          if (inside.length === 0) continue;
          const weight = (day: string): number => {
            if (q.spread === 'even') return 1;
            if (q.spread === 'workdays') {
              const works = (world.workweek ?? [1, 2, 3, 4, 5]).includes(at(day).getUTCDay());
              return works && !world.holidays.includes(day) ? 1 : 0;
            }
            // Of two days that look back to 28 February each has its weight.
            const then = monthsOn(day, -12, world);
            return Math.max(0, euros(world.rows.filter((row) => row.day === then && row.shop === shop)) ?? 0);
          };
          const add = (some: string[]) => some.reduce((total, day) => total + weight(day), 0);
          const all = add(daysOf(month));
          const part =
            inside.length === daysOf(month).length
              ? 1
              : all === 0
                ? inside.length / daysOf(month).length
                : add(inside) / all;
          sum = (sum ?? 0) + goal.euros * part;
        }
        near(got.get(keyOf(shop))?.benchmark, sum);
        same(got.get(keyOf(shop))?.actual, soldIn(shop, days, sum));
      }
      return;
    }
  }
}

/** The same days some months before; what runs is cut on the as-of day, what is whole, or whole months, stays whole. */
function monthsBefore(days: Days, whole: boolean, asOf: string, months: number, world: World): Days {
  const from = monthsOn(days.from, -months, world, true);
  const isCut = days.to > asOf && days.from <= asOf;
  const to = isCut ? asOf : days.to;
  const wholeMonths = beginsMonth(days.from, world) && beginsMonth(plusDays(to, 1), world);
  const isWhole = (whole && !isCut) || wholeMonths;
  return {
    from,
    to: isWhole ? plusDays(monthsOn(plusDays(to, 1), -months, world, true), -1) : monthsOn(to, -months, world),
  };
}
const lastYear = (days: Days, whole: boolean, asOf: string, years: number, world: World) =>
  monthsBefore(days, whole, asOf, 12 * years, world);

/**
 * Holds what is answered against the slow calculation, in as many worlds.
 * @param open has the tables of a world ready to answer
 */
export const agreesSlowly = (many: number, open: Opens): Promise<void> =>
  fc.assert(
    fc.asyncProperty(world, question, (one, q) => compareOne(one, q, open)),
    { numRuns: many },
  );
