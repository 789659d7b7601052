import fc from 'fast-check';
import { expect } from 'vitest';
import { dayOf, isoDay, PATTERNS, WEEKDAYS, type FiscalWeeks } from '../calendar';
import { forms } from '../form';
import { readCsv } from '../reading';
import { drawFigure, type Drawn } from '../figure';
import { isProblem } from '../problem';
import { checkReport, type Look } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import type { NumbersRow } from '../query';
import { numbersIn, tells } from './readBack.fixture';
import { tries } from './tries.fixture';

// Worlds and questions for laws about what is said: any calendar, form, view, benchmark and selection.

const SHOPS = ['Alder', 'Birch', 'Cedar', 'Dune', 'Elm', 'Fir'];
const LINES = ['brass', 'keys'];

export interface World {
  readonly seed: number;
  readonly shops: number;
  readonly rows: number;
  readonly large: number;
  readonly yearStart: number;
  readonly named: 'end' | 'start';
  readonly sunday: boolean;
  readonly weeks: FiscalWeeks | null;
  /** Months from one day of the calendar's months to the next. */
  readonly monthsFrom: number | null;
  readonly goalGaps: boolean;
  readonly asOf: 'auto' | string;
}

export const world: fc.Arbitrary<World> = fc.record({
  seed: fc.nat(),
  shops: fc.integer({ min: 1, max: 6 }),
  rows: fc.constantFrom(3, 40, 300),
  large: fc.constantFrom(1, 30, 4_000, 900_000),
  yearStart: fc.integer({ min: 1, max: 12 }),
  named: fc.constantFrom<'end' | 'start'>('end', 'start'),
  sunday: fc.boolean(),
  weeks: fc.option(
    fc.record({
      pattern: fc.constantFrom(...PATTERNS),
      ends: fc.constantFrom(...WEEKDAYS),
      on: fc.constantFrom<'last' | 'nearest'>('last', 'nearest'),
      of: fc.integer({ min: 1, max: 12 }),
    }),
    { nil: null, freq: 2 },
  ),
  monthsFrom: fc.option(fc.integer({ min: 2, max: 28 }), { nil: null, freq: 3 }),
  goalGaps: fc.boolean(),
  asOf: fc.constantFrom('auto', '2025-03-31', '2025-02-28'),
});

/** Three years of months that begin on a day of the calendar's months, called after the month they end in. */
function listedFrom(day: number) {
  const from = Array.from({ length: 37 }, (_, i) =>
    isoDay(dayOf(2022 + Math.floor((i + 5) / 12), ((i + 5) % 12) + 1, day)),
  );
  return { first: '2022-07', from };
}

/** Names as they first stand in lines, called so that they are in the order of their letters. */
function inLetters(lines: readonly string[], names: readonly string[], place: number): (line: string) => string {
  const seen = [...new Set(lines.map((line) => line.split(',')[place]!))];
  const others = names.filter((name) => !seen.includes(name));
  const sorted = [...names].sort();
  const called = new Map([...seen, ...others].map((name, i) => [name, sorted[i]!]));
  return (line) => line.replaceAll(new RegExp(names.join('|'), 'g'), (name) => called.get(name)!);
}

/**
 * What is known of a world: its report, its tables, and the lines they are made of.
 * @param sorted whether names first stand in the order of their letters, as databases have them
 */
export async function described(w: World, sorted = false) {
  let state = w.seed >>> 0;
  const next = (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * below);
  };
  const day = (n: number) => new Date(Date.UTC(2023, 6, 1 + n)).toISOString().slice(0, 10);
  let sales = Array.from({ length: w.rows }, () => {
    const net = next(12) === 0 ? '' : ((next(9_000) - 1_500) * w.large) / 100;
    return `${day(next(625))},${SHOPS[next(w.shops)]},${LINES[next(2)]},${net},${next(9) + 1}`;
  });
  let goals: string[] = [];
  for (let m = 0; m < 36; m++)
    for (const shop of SHOPS.slice(0, w.shops))
      if (!w.goalGaps || next(6) > 0)
        goals.push(`${new Date(Date.UTC(2023, m, 1)).toISOString().slice(0, 7)},${shop},${next(400) * w.large}`);
  if (sorted)
    for (const [names, place] of [
      [SHOPS, 1],
      [LINES, 2],
    ] as const) {
      const rename = inLetters(sales, names, place);
      [sales, goals] = [sales.map(rename), goals.map(rename)];
    }
  const report = checkReport({
    boldRuler: 1,
    name: 'words',
    calendar: {
      fiscalYearStart: w.yearStart,
      fiscalYearNamed: w.named,
      weekStart: w.sunday ? 'sunday' : 'monday',
      asOf: w.asOf,
      ...(w.weeks ? { weeks: w.weeks } : {}),
      ...(w.monthsFrom ? { months: listedFrom(w.monthsFrom) } : {}),
    },
    tables: [
      { id: 'sales', source: { file: 'sales.csv' } },
      { id: 'goals', source: { file: 'goals.csv' } },
    ],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)', format: { style: 'currency', currency: 'EUR' } },
      { name: 'price', table: 'sales', expression: 'sum(net) / sum(pieces)', tolerance: 0.05 },
      { name: 'returns', table: 'sales', expression: 'count(*)', aim: 'cut' },
    ],
    benchmarks: [
      { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' },
      { name: 'quota', kind: 'fixed', value: 700, per: ['shop', 'month'] },
      { name: 'stretch', kind: 'scaled', of: 'goal', by: 0.1 },
      { name: 'outlook', kind: 'forecast', method: 'same period last year', growth: 0.04 },
    ],
  });
  const wishes = [
    { name: 'day', type: 'date' as const, read: 'yyyy-MM-dd' },
    { name: 'shop', type: 'text' as const },
    { name: 'line', type: 'text' as const },
    { name: 'net', type: 'number' as const },
    { name: 'pieces', type: 'number' as const },
  ];
  const tables = new Map([
    [
      'sales',
      makeTable(await readCsv('sales', ['day,shop,line,net,pieces', ...sales].join('\n'), wishes), {
        id: 'sales',
        columns: wishes,
      }),
    ],
    [
      'goals',
      makeTable(await readCsv('goals', ['month,shop,goal', ...goals].join('\n')), { id: 'goals', grain: 'month' }),
    ],
  ]);
  return { report, tables, sales, goals };
}

async function deskOf(w: World) {
  const { report, tables, sales, goals } = await described(w);
  return { ...workspaceFor(report, tables), sales, goals };
}

export const question = fc.record({
  form: fc.constantFrom(...forms()),
  view: fc.constantFrom(
    'net',
    'net',
    'price',
    'returns',
    'cumulative net',
    'share of net',
    'rank of net',
    'change in net',
    'smoothed 2 net',
    'net, rank of net, share of net',
  ),
  by: fc.constantFrom('', ' by shop', ' by shop', ' by line, shop'),
  each: fc.constantFrom('', '', ' each month', ' each quarter', ' each week'),
  during: fc.constantFrom(
    '',
    ' during year to date',
    ' during latest quarter',
    ' during fiscal 2025',
    ' during 2024-03 to 2025-02',
    ' during previous month',
    ' during quarter to date',
  ),
  against: fc.constantFrom(
    '',
    ' against goal',
    ' against last year',
    ' against average',
    ' against quota',
    ' against stretch',
    ' against outlook',
  ),
  keep: fc.constantFrom(
    '',
    '',
    ', keep 2 highest',
    ', keep 2 furthest behind and the rest',
    ', keep 2 largest either sign',
  ),
  only: fc.constantFrom('', '', ', only line is brass', ', only shop is not Birch'),
  trend: fc.boolean(),
  zoom: fc.boolean(),
});
export type Question = typeof question extends fc.Arbitrary<infer Q> ? Q : never;

export const briefOf = (q: Omit<Question, 'view'> & { readonly view: string }) =>
  `${q.view}${q.by}${q.each}${q.during}${q.against} as ${q.form}${q.keep}${q.only}`;

export type Known = readonly (number | null | undefined)[];

const NUMBERS_OF_ROW = [
  'actual',
  'benchmark',
  'due',
  'gap',
  'gapPercent',
  'dueGap',
  'dueGapPercent',
  'rank',
  'share',
  'rankChange',
  'landing',
  'low',
  'high',
] as const;

/** What a row, or a whole, may tell. */
export const toldBy = (row: Partial<NumbersRow>): Known => [
  ...NUMBERS_OF_ROW.map((name) => row[name]),
  ...Object.values(row.values ?? {}),
];

export function check(what: string, text: string, known: Known): void {
  for (const shown of numbersIn(text))
    if (!tells(shown, known))
      throw new Error(
        `${what}: “${text}” shows ${shown.text}, and the numbers are ${known
          .filter((one) => one !== null && one !== undefined)
          .slice(0, 40)
          .join(', ')}`,
      );
}

/** A figure of a world, or null where it cannot be drawn: that says nothing. */
async function drawnIn(w: World, q: Question) {
  const desk = await deskOf(w);
  const look: Look = {
    ...(q.trend ? { trend: true as const, smooth: 2 } : {}),
    ...(q.zoom ? { zoom: true as const } : {}),
    width: 1100,
  };
  try {
    const drawn: Drawn = await drawFigure(desk, { id: 'f', brief: briefOf(q), look });
    return { drawn, desk };
  } catch (error) {
    if (isProblem(error)) return null;
    throw error;
  }
}

/** Holds a law in some worlds, of which at least so many must have been drawn; more of both where more is tried. */
export async function inWorlds(
  few: number,
  atLeast: number,
  law: (drawn: Drawn, desk: Awaited<ReturnType<typeof deskOf>>, q: Question) => void | Promise<void>,
): Promise<void> {
  let drawnOnes = 0;
  await fc.assert(
    fc.asyncProperty(world, question, async (w, q) => {
      const found = await drawnIn(w, q);
      if (!found) return;
      drawnOnes++;
      await law(found.drawn, found.desk, q);
    }),
    { numRuns: tries(few) },
  );
  expect(drawnOnes).toBeGreaterThan(tries(atLeast));
}
