import fc from 'fast-check';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { answerBrief, type Choices, type Numbers } from '.';

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
export const plusMonths = (day: string, n: number) => {
  const months = Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1 + n;
  const [year, month] = [Math.floor(months / 12), months % 12];
  const last = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
  return iso(new Date(Date.UTC(year, month, Math.min(last, Number(day.slice(8))))));
};
const GRAIN_MONTHS = { month: 1, quarter: 3, year: 12 } as const;

export function periodOf(grain: Grain, day: string, { yearStart, sunday }: World): Days {
  if (grain === 'day') return { from: day, to: day };
  let from = day;
  if (grain === 'week') {
    while (at(from).getUTCDay() !== (sunday ? 0 : 1)) from = plusDays(from, -1);
    return { from, to: plusDays(from, 6) };
  }
  from = `${day.slice(0, 7)}-01`;
  const isStart = () => (Number(from.slice(5, 7)) - yearStart + 12) % GRAIN_MONTHS[grain] === 0;
  while (!isStart()) from = plusMonths(from, -1);
  return { from, to: plusDays(plusMonths(from, GRAIN_MONTHS[grain]), -1) };
}
export const yearName = (from: string, { yearStart, named }: World) =>
  Number(from.slice(0, 4)) + (named === 'end' && yearStart > 1 ? 1 : 0);

/** Steps as they are written in files. */
export function steps(grain: Grain, days: Days, world: World): { code: string; days: Days }[] {
  const found: { code: string; days: Days }[] = [];
  for (let day = days.from; day <= days.to;) {
    const period = periodOf(grain, day, world);
    const year = periodOf('year', period.from, world).from;
    const quarter = [0, 3, 6, 9].findIndex((n) => plusMonths(year, n) === period.from) + 1;
    const code = {
      day: period.from,
      week: period.from,
      month: period.from.slice(0, 7),
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
  })
  .map(({ seed, shops, count, ties, ...calendar }) => ({ ...calendar, ...worldFrom(seed, shops, count, ties) }));

export async function ask(
  world: World,
  brief: string,
  benchmark: object | null,
  choices: Choices,
  aim: string,
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
  const { source, vocabulary } = workspaceFor(report, tables);
  return numbersOf(await answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary), choices));
}

/** The periods a question may have, in words and in days. */
