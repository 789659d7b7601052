import fc from 'fast-check';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { readCsv } from '../reading';
import { checkReport, type Report } from '../report';
import { makeTable, type Table } from '../table';
import { answerBrief, type Choices, type Numbers, type Workspace } from '.';

// Any rows and targets, dates of the platform, and what core says of them: the world of the second, slow calculation.

export interface Row {
  readonly day: string;
  readonly shop: string;
  readonly cents: number | null;
}
export interface World {
  readonly rows: readonly Row[];
  readonly goals: readonly { readonly month: string; readonly shop: string; readonly euros: number }[];
  readonly yearStart: number;
  readonly named: 'end' | 'start';
  readonly sunday: boolean;
  readonly holidays: readonly string[];
  /** As `Date` numbers them; null for Monday to Friday. */
  readonly workweek: readonly number[] | null;
  /** Fiscal years of weeks: weeks in the months of a quarter, the weekday as `Date` numbers it. */
  readonly weeks: {
    readonly lengths: readonly number[];
    readonly ends: number;
    readonly on: 'last' | 'nearest';
    readonly of: number;
  } | null;
  /** Fiscal months that are listed: the name of the first, its first day, and how many days each has. */
  readonly listed: { readonly first: string; readonly from: string; readonly lengths: readonly number[] } | null;
}
export type Grain = 'day' | 'week' | 'month' | 'quarter' | 'year';
export interface Days {
  readonly from: string;
  readonly to: string;
}

export const at = (day: string) => new Date(`${day}T00:00:00Z`);
const iso = (date: Date) => date.toISOString().slice(0, 10);
export const plusDays = (day: string, n: number) => iso(new Date(at(day).getTime() + n * 86_400_000));
export const daysOf = ({ from, to }: Days) => {
  const days: string[] = [];
  for (let day = from; day <= to; day = plusDays(day, 1)) days.push(day);
  return days;
};
const plusMonths = (day: string, n: number) => {
  const months = Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1 + n;
  const [year, month] = [Math.floor(months / 12), months % 12];
  const last = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
  return iso(new Date(Date.UTC(year, month, Math.min(last, Number(day.slice(8))))));
};
const GRAIN_MONTHS = { month: 1, quarter: 3, year: 12 } as const;

/** A month by its name, with its days. */
interface Named extends Days {
  readonly name: string;
}

const monthsOf = new WeakMap<object, readonly Named[]>();
/** Whether months are of whole weeks. */
const inWeeks = ({ weeks, listed }: World) =>
  listed ? listed.lengths.every((days) => days % 7 === 0) : weeks !== null;

/** Days of the n-th listed month; its first and its last year are repeated before and after the list. */
const lengthAt = (lengths: readonly number[], n: number) =>
  n < 0 ? lengths[((n % 12) + 12) % 12]! : (lengths[n] ?? lengths[lengths.length - 12 + ((n - lengths.length) % 12)]!);

/**
 * All months from 2016 to 2030: those of the calendar, of weeks that are counted off from the end of one year to that of the next, or of
 * the days that are listed.
 */
function months({ weeks, listed }: World, key: object): readonly Named[] {
  let found = monthsOf.get(key);
  if (found) return found;
  const list: Named[] = [];
  if (listed) {
    const name = (n: number) => plusMonths(`${listed.first}-01`, n).slice(0, 7);
    for (let n = 0, from = listed.from; from < '2030-01-01'; n++) {
      const next = plusDays(from, lengthAt(listed.lengths, n));
      list.push({ name: name(n), from, to: plusDays(next, -1) });
      from = next;
    }
    for (let n = -1, next = listed.from; next > '2016-01-01'; n--) {
      const from = plusDays(next, -lengthAt(listed.lengths, n));
      list.unshift({ name: name(n), from, to: plusDays(next, -1) });
      next = from;
    }
  } else if (!weeks) {
    for (let from = '2016-01-01'; from < '2030-01-01'; from = plusMonths(from, 1))
      list.push({ name: from.slice(0, 7), from, to: plusDays(plusMonths(from, 1), -1) });
  } else {
    const end = (year: number) => {
      const last = plusDays(plusMonths(`${year}-${String(weeks.of).padStart(2, '0')}-01`, 1), -1);
      const near = weeks.on === 'last' ? [-6, -5, -4, -3, -2, -1, 0] : [-3, -2, -1, 0, 1, 2, 3];
      return near.map((days) => plusDays(last, days)).find((day) => at(day).getUTCDay() === weeks.ends)!;
    };
    for (let year = 2017; year < 2030; year++) {
      let from = plusDays(end(year - 1), 1);
      for (let i = 0; i < 12; i++) {
        const to = i === 11 ? end(year) : plusDays(from, 7 * weeks.lengths[i % 3]! - 1);
        const first = plusMonths(`${year}-${String(weeks.of).padStart(2, '0')}-01`, i - 11);
        list.push({ name: first.slice(0, 7), from, to });
        from = plusDays(to, 1);
      }
    }
  }
  monthsOf.set(key, (found = list));
  return found;
}
const placeOf = (day: string, world: World) =>
  months(world, world).findIndex(({ from, to }) => from <= day && day <= to);
export const monthNamed = (name: string, world: World): Days =>
  months(world, world).find((month) => month.name === name)!;
const firstOf = ({ yearStart, weeks, listed }: World) =>
  listed ? Number(listed.first.slice(5)) : weeks ? (weeks.of % 12) + 1 : yearStart;

/** The weekday with which weeks begin, as `Date` numbers it. */
function weekFirst(world: World): number {
  if (world.listed && inWeeks(world)) return at(world.listed.from).getUTCDay();
  return world.weeks && !world.listed ? (world.weeks.ends + 1) % 7 : world.sunday ? 0 : 1;
}

export function periodOf(grain: Grain, day: string, world: World): Days {
  if (grain === 'day') return { from: day, to: day };
  let from = day;
  if (grain === 'week') {
    const first = weekFirst(world);
    while (at(from).getUTCDay() !== first) from = plusDays(from, -1);
    return { from, to: plusDays(from, 6) };
  }
  const all = months(world, world);
  let place = placeOf(day, world);
  while ((Number(all[place]!.name.slice(5)) - firstOf(world) + 12) % GRAIN_MONTHS[grain] !== 0) place--;
  return { from: all[place]!.from, to: all[place + GRAIN_MONTHS[grain] - 1]!.to };
}
export const yearName = (from: string, world: World) =>
  Number(months(world, world)[placeOf(from, world)]!.name.slice(0, 4)) +
  (world.named === 'end' && firstOf(world) > 1 ? 1 : 0);

/** The day as far into its month some months on; at the end of one that is too short, or of weeks the same day of its last one. */
export function monthsOn(day: string, n: number, world: World, keepsWeekday = false): string {
  if (!world.weeks && !world.listed) return plusMonths(day, n);
  const all = months(world, world);
  const place = placeOf(day, world);
  const [here, there] = [all[place]!, all[place + n]!];
  const days = daysOf(there);
  let into = daysOf({ from: here.from, to: day }).length - 1;
  while (keepsWeekday && inWeeks(world) && into >= days.length) into -= 7;
  return days[Math.min(into, days.length - 1)]!;
}
export const beginsMonth = (day: string, world: World) => months(world, world).some(({ from }) => from === day);

/** Steps as they are written in files. */
export function steps(grain: Grain, days: Days, world: World): { code: string; days: Days }[] {
  const found: { code: string; days: Days }[] = [];
  for (let day = days.from; day <= days.to;) {
    const period = periodOf(grain, day, world);
    const year = periodOf('year', period.from, world).from;
    const quarter = Math.floor((placeOf(period.from, world) - placeOf(year, world)) / 3) + 1;
    const code = {
      day: period.from,
      week: period.from,
      month: months(world, world)[placeOf(period.from, world)]!.name,
      quarter: `${yearName(year, world)}-Q${quarter}`,
      year: String(yearName(year, world)),
    }[grain];
    found.push({ code, days: period });
    day = plusDays(period.to, 1);
  }
  return found;
}

export const euros = (rows: readonly Row[]): number | null => {
  const filled = rows.filter(({ cents }) => cents !== null);
  return filled.length === 0 ? null : filled.reduce((sum, { cents }) => sum + cents!, 0) / 100;
};
export const within = (rows: readonly Row[], { from, to }: Days) => rows.filter(({ day }) => day >= from && day <= to);
export const minus = (a: number | null, b: number | null) =>
  a === null || b === null ? null : Math.round(a * 100 - b * 100) / 100;
export const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
export function percentile(values: readonly number[], p: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  const place = (p / 100) * (sorted.length - 1);
  const low = Math.floor(place);
  return low + 1 < sorted.length ? sorted[low]! + (sorted[low + 1]! - sorted[low]!) * (place - low) : sorted[low]!;
}

// Worlds: 1 to 300 shops, blanks, negatives, ties, leap days, a single row, two years and a half.
function worldFrom(seed: number, shops: number, count: number, ties: boolean): Pick<World, 'rows' | 'goals'> {
  let state = seed >>> 0;
  const next = (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * below);
  };
  const rows = Array.from({ length: count }, (_, i): Row => {
    const day = next(25) === 0 ? '2024-02-29' : plusDays('2023-01-01', next(900));
    const cents = i > 0 && next(9) === 0 ? null : ties ? (next(5) - 2) * 100 : next(2_000_000) - 400_000;
    return { day, shop: next(30) === 0 ? '' : `shop ${next(shops) + 1}`, cents };
  });
  const goals = new Map<string, World['goals'][number]>();
  for (let i = next(40); i > 0; i--) {
    const goal = {
      month: plusMonths('2022-07-01', next(42)).slice(0, 7),
      shop: `shop ${next(shops) + 1}`,
      euros: next(900) - 50,
    };
    goals.set(goal.month + goal.shop, goal);
  }
  return { rows, goals: [...goals.values()] };
}

const DAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];

/** Months of any days or of any weeks, a year to five of them. */
const listedMonths = fc
  .record({
    from: fc.integer({ min: -400, max: 700 }).map((days) => plusDays('2023-01-01', days)),
    unit: fc.constantFrom(1, 7),
    lengths: fc.array(fc.nat(9), { minLength: 12, maxLength: 60 }),
  })
  .map(({ from, unit, lengths }) => ({
    first: plusDays(from, 10).slice(0, 7),
    from,
    lengths: lengths.map((n) => (unit === 7 ? 7 * (3 + (n % 4)) : 26 + n)),
  }));

export const world: fc.Arbitrary<World> = fc
  .record({
    seed: fc.nat(),
    shops: fc.constantFrom(1, 2, 5, 40, 300),
    count: fc.oneof(fc.constant(1), fc.integer({ min: 2, max: 30 }), fc.integer({ min: 100, max: 400 })),
    ties: fc.boolean(),
    yearStart: fc.integer({ min: 1, max: 12 }),
    named: fc.constantFrom<'end' | 'start'>('end', 'start'),
    sunday: fc.boolean(),
    holidays: fc.uniqueArray(
      fc.nat(1400).map((days) => plusDays('2022-07-01', days)),
      { maxLength: 60 },
    ),
    workweek: fc.option(fc.uniqueArray(fc.nat(6), { minLength: 1 }), { nil: null }),
    weeks: fc.option(
      fc.record({
        lengths: fc.constantFrom([4, 4, 5], [4, 5, 4], [5, 4, 4]),
        ends: fc.nat(6),
        on: fc.constantFrom<'last' | 'nearest'>('last', 'nearest'),
        of: fc.integer({ min: 1, max: 12 }),
      }),
      { nil: null, freq: 3 },
    ),
    listed: fc.option(listedMonths, { nil: null, freq: 3 }),
  })
  .map(({ seed, shops, count, ties, ...calendar }) => ({ ...calendar, ...worldFrom(seed, shops, count, ties) }));

/** Has the report and its tables, as they were read, ready to answer; the rows may be taken elsewhere. */
export type Opens = (
  report: Report,
  tables: ReadonlyMap<string, Table>,
  world: World,
) => Workspace | Promise<Workspace>;

export async function ask(
  world: World,
  brief: string,
  benchmark: object | null,
  choices: Choices,
  aim: string,
  open: Opens,
): Promise<Numbers> {
  const sales = [
    'day,shop,net',
    ...world.rows.map((r) => `${r.day},${r.shop},${r.cents === null ? '' : (r.cents / 100).toFixed(2)}`),
  ];
  const goals = ['month,shop,goal', '2000-01,nowhere,0', ...world.goals.map((g) => `${g.month},${g.shop},${g.euros}`)];
  const report = checkReport({
    boldRuler: 1,
    name: 'independent',
    calendar: {
      fiscalYearStart: world.yearStart,
      fiscalYearNamed: world.named,
      weekStart: world.sunday ? 'sunday' : 'monday',
      ...(world.holidays.length > 0 ? { holidays: world.holidays } : {}),
      ...(world.weeks
        ? {
            weeks: {
              pattern: world.weeks.lengths.join('-'),
              ends: DAYS[world.weeks.ends],
              on: world.weeks.on,
              of: world.weeks.of,
            },
          }
        : {}),
      ...(world.listed
        ? {
            months: {
              first: world.listed.first,
              from: world.listed.lengths.reduce(
                (days, length) => [...days, plusDays(days.at(-1)!, length)],
                [world.listed.from],
              ),
            },
          }
        : {}),
      ...(world.workweek ? { workweek: world.workweek.map((day) => DAYS[day]) } : {}),
    },
    tables: [
      { id: 'sales', source: { file: 'sales.csv' } },
      { id: 'goals', source: { file: 'goals.csv' } },
    ],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)', aim }],
    benchmarks: benchmark ? [{ name: 'held', ...benchmark }] : [],
  });
  const read = async (id: string, lines: string[], types: Parameters<typeof readCsv>[2], grain?: 'month') =>
    makeTable(await readCsv(id, lines.join('\n'), types), { id, columns: types!, ...(grain ? { grain } : {}) });
  const tables = new Map([
    [
      'sales',
      await read('sales', sales, [
        { name: 'day', type: 'date', read: 'yyyy-MM-dd' },
        { name: 'shop', type: 'text' },
        { name: 'net', type: 'number' },
      ]),
    ],
    [
      'goals',
      await read(
        'goals',
        goals,
        [
          { name: 'month', type: 'date', read: 'yyyy-MM' },
          { name: 'shop', type: 'text' },
          { name: 'goal', type: 'number' },
        ],
        'month',
      ),
    ],
  ]);
  const { source, vocabulary } = await open(report, tables, world);
  return numbersOf(await answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary), choices));
}

/** The periods a question may have, in words and in days. */
