import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { dayOf, isoDay } from '../calendar';
import { Problem } from '../problem';
import { checkReport, type Report } from '../report';
import { readCsv } from '../reading';
import { makeTable, type Table } from '../table';
import { workspaceFor } from '../workspace';
import { numbersOf } from '../figure';
import { answerBrief, numbersCsv, roundedShares, type Numbers } from '.';
import { tries } from '../proof/tries.fixture';

// A second, slow, obvious calculation: row by row, in whole cents, with the platform's dates. It shares no code with core.

interface Line {
  readonly day: string;
  readonly shop: string;
  readonly line: string;
  /** Cents; null is blank. */
  readonly cents: number | null;
}
interface Goal {
  readonly month: string;
  readonly shop: string;
  readonly euros: number;
}

const month = (day: string) => day.slice(0, 7);
const daysIn = (ym: string) => new Date(Date.UTC(Number(ym.slice(0, 4)), Number(ym.slice(5)), 0)).getUTCDate();
const yearBefore = (day: string) => {
  const before = `${Number(day.slice(0, 4)) - 1}${day.slice(4)}`;
  return before.endsWith('02-29') ? before.replace('02-29', '02-28') : before;
};
const isLeap = (day: string) => Number(day.slice(0, 4)) % 4 === 0;
/** Where the data can be said to begin: the first day with an amount, less the longest stretch without rows, in its month. */
const beginningOf = (lines: readonly Line[]) => {
  const filled = lines.filter(({ cents }) => cents !== null).map((l) => l.day);
  const [first, last] = [filled.reduce((a, b) => (a < b ? a : b)), filled.reduce((a, b) => (a > b ? a : b))];
  const number = (text: string) => Date.parse(text) / 86_400_000;
  const open = [...new Set(lines.map((l) => l.day))]
    .filter((one) => one >= first && one <= last)
    .map(number)
    .sort((a, b) => a - b);
  const quiet = Math.max(0, ...open.slice(1).map((one, i) => one - open[i]! - 1));
  return isoDay(Math.max(number(`${month(first)}-01`), number(first) - quiet));
};
const sum = (lines: readonly Line[]) => {
  const filled = lines.filter((l) => l.cents !== null);
  return filled.length === 0 ? null : filled.reduce((s, l) => s + l.cents!, 0) / 100;
};
const between = (lines: readonly Line[], from: string, to: string) => lines.filter((l) => l.day >= from && l.day <= to);

const day = fc.integer({ min: dayOf(2023, 1, 1), max: dayOf(2025, 6, 30) }).map(isoDay);
const shops = ['Alder', 'Birch', 'Cedar', 'Dune', 'Elm'];
const line: fc.Arbitrary<Line> = fc.record({
  day: fc.oneof(day, fc.constantFrom('2024-02-29', '2024-02-28', '2025-02-28')),
  shop: fc.constantFrom(...shops, ''),
  line: fc.constantFrom('strings', 'brass'),
  cents: fc.option(fc.integer({ min: -99_999, max: 999_999 }), { freq: 8 }),
});
// One row with a value, so that there is an as-of date.
const lines = fc
  .tuple(
    fc.array(line, { maxLength: 60 }),
    line.map((l) => ({ ...l, cents: l.cents ?? 1 })),
  )
  .map(([some, one]) => [...some, one]);
const goals = fc.uniqueArray(
  fc.record<Goal>({
    month: fc
      .integer({ min: 0, max: 35 })
      .map((m) => `${2023 + Math.floor(m / 12)}-${String((m % 12) + 1).padStart(2, '0')}`),
    shop: fc.constantFrom(...shops),
    euros: fc.integer({ min: -50, max: 900 }),
  }),
  {
    maxLength: 40,
    selector: (g) => g.month + g.shop,
  },
);

async function tableOf(
  id: string,
  header: string,
  rows: readonly (readonly (string | number)[])[],
  types: { name: string; type: 'text' | 'number' | 'date'; read?: string }[],
): Promise<Table> {
  const text = [header, ...rows.map((row) => row.join(','))].join('\n');
  return makeTable(await readCsv(id, text, types), {
    id,
    columns: types,
    ...(id === 'goals' ? { grain: 'month' as const } : {}),
  });
}

async function numbers(
  data: readonly Line[],
  targets: readonly Goal[],
  brief: string,
  report: Partial<Record<keyof Report, unknown>> = {},
): Promise<Numbers> {
  const sales = await tableOf(
    'sales',
    'day,shop,line,net',
    data.map((l) => [l.day, l.shop, l.line, l.cents === null ? '' : (l.cents / 100).toFixed(2)]),
    [
      { name: 'day', type: 'date', read: 'yyyy-MM-dd' },
      { name: 'net', type: 'number' },
      { name: 'shop', type: 'text' },
      { name: 'line', type: 'text' },
    ],
  );
  const goalTable = await tableOf(
    'goals',
    'month,shop,goal',
    targets.length > 0 ? targets.map((g) => [g.month, g.shop, g.euros]) : [['2000-01', 'Nowhere', 0]],
    [
      { name: 'month', type: 'date', read: 'yyyy-MM' },
      { name: 'goal', type: 'number' },
      { name: 'shop', type: 'text' },
    ],
  );
  const workspace = workspaceFor(
    checkReport({
      boldRuler: 1,
      name: 'test',
      tables: [
        { id: 'sales', source: { file: 'sales.csv' } },
        { id: 'goals', source: { file: 'goals.csv' } },
      ],
      measures: [
        { name: 'net', table: 'sales', expression: 'sum(net)' },
        { name: 'mean', table: 'sales', expression: 'avg(net)' },
        { name: 'lines', table: 'sales', expression: 'count(*)' },
        { name: 'spread', table: 'sales', expression: 'max(net) - min(net)', aim: 'cut' },
        { name: 'strings', table: 'sales', expression: "sum(net) filter (where line = 'strings')" },
      ],
      benchmarks: [
        { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' },
        { name: 'stretch', kind: 'scaled', of: 'goal', by: 0.25 },
        { name: 'quota', kind: 'fixed', value: 5000, per: ['member', 'month'] },
        { name: 'pot', kind: 'fixed', value: 900, per: [] },
      ],
      ...report,
    }),
    new Map([
      ['sales', sales],
      ['goals', goalTable],
    ]),
  );
  return numbersOf(await answerBrief(workspace, readBrief(brief, workspace.vocabulary)));
}

const close = (a: number | null | undefined, b: number | null) => {
  if (b === null) expect(a ?? null).toBeNull();
  else expect(Math.abs(a! - b)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(b)));
};
const rowOf = (n: Numbers, shop: string) => n.rows.find((row) => row.key.shop === (shop === '' ? null : shop));

test('sums, means, counts and filters by member agree with the slow calculation, to the last digit where they are sums', async () => {
  await fc.assert(
    fc.asyncProperty(lines, async (data) => {
      const all = await Promise.all(
        ['net', 'mean', 'lines', 'spread', 'strings'].map((measure) => numbers(data, [], `${measure} by shop`)),
      );
      for (const shop of new Set(data.map((l) => l.shop))) {
        const mine = data.filter((l) => l.shop === shop);
        const filled = mine.flatMap((l) => (l.cents === null ? [] : [l.cents / 100]));
        const [net, mean, count, spread, strings] = all.map((n) => rowOf(n, shop)?.actual ?? null);
        expect(net).toBe(sum(mine));
        close(mean, filled.length === 0 ? null : filled.reduce((a, b) => a + b, 0) / filled.length);
        expect(count).toBe(mine.length);
        close(spread, filled.length === 0 ? null : Math.max(...filled) - Math.min(...filled));
        expect(strings).toBe(sum(mine.filter((l) => l.line === 'strings')));
      }
      expect(all[0]!.total.actual).toBe(sum(data));
    }),
    { numRuns: tries(60) },
  );
});

test('last year is like for like, and the target is cut by days where the period ends inside its month', async () => {
  await fc.assert(
    fc.asyncProperty(lines, goals, async (data, targets) => {
      const asOf = data.filter((l) => l.cents !== null).reduce((latest, l) => (l.day > latest ? l.day : latest), '');
      const from = `${asOf.slice(0, 4)}-01-01`;
      const before = await numbers(data, targets, 'net by shop during year to date against last year');
      expect([before.asOf, before.period.from, before.period.to]).toEqual([asOf, from, asOf]);
      const target = await numbers(data, targets, 'net by shop during year to date against goal');
      const whole = await numbers(data, targets, `net by shop during fiscal ${asOf.slice(0, 4)} against goal`);
      for (const shop of shops) {
        const mine = data.filter((l) => l.shop === shop);
        const [rowsNow, begins] = [between(mine, from, asOf), beginningOf(data)];
        // All of February is compared with all of February.
        const until =
          asOf.endsWith('02-28') && !isLeap(asOf) && isLeap(yearBefore(asOf))
            ? `${yearBefore(asOf).slice(0, 4)}-02-29`
            : yearBefore(asOf);
        const rowsThen = between(mine, yearBefore(from), until);
        // Nothing sold is 0 beside what was sold, on days that the data reach.
        const soldIn = (own: readonly Line[], beside: readonly Line[], since: string) =>
          own.length === 0 && sum(beside) !== null && since >= begins ? 0 : sum(own);
        const now = soldIn(rowsNow, rowsThen, from);
        const then = soldIn(rowsThen, rowsNow, yearBefore(from));
        const isCovered = !(yearBefore(from) < begins && until >= begins);
        expect(rowOf(before, shop)?.actual ?? null).toBe(now);
        expect(rowOf(before, shop)?.benchmark ?? null).toBe(then);
        expect(rowOf(before, shop)?.gap ?? null).toBe(
          now === null || then === null || !isCovered ? null : Math.round((now - then) * 100) / 100,
        );
        const goalOf = (to: string) => {
          const mineToo = targets.filter((g) => g.shop === shop && g.month >= month(from) && g.month <= month(to));
          if (mineToo.length === 0) return null;
          return mineToo.reduce(
            (s, g) => s + (g.month === month(to) ? (g.euros * Number(to.slice(8))) / daysIn(g.month) : g.euros),
            0,
          );
        };
        close(rowOf(target, shop)?.benchmark, goalOf(asOf));
        close(rowOf(whole, shop)?.benchmark, goalOf(`${asOf.slice(0, 4)}-12-31`));
        if (whole.period.partial) close(rowOf(whole, shop)?.due, goalOf(asOf));
      }
    }),
    { numRuns: tries(60) },
  );
});

test('months add up to the year, actual and target, and steps to come have a target but no actual', async () => {
  await fc.assert(
    fc.asyncProperty(lines, goals, async (data, targets) => {
      const asOf = data.filter((l) => l.cents !== null).reduce((latest, l) => (l.day > latest ? l.day : latest), '');
      const monthly = await numbers(data, targets, `net each month during fiscal ${asOf.slice(0, 4)} against goal`);
      expect(monthly.rows).toHaveLength(12);
      const add = (pick: (row: Numbers['rows'][number]) => number | null | undefined) =>
        monthly.rows.reduce((s, row) => s + Math.round((pick(row) ?? 0) * 100), 0) / 100;
      expect(add((row) => row.actual)).toBe(monthly.total.actual ?? 0);
      expect(add((row) => row.benchmark)).toBe(monthly.total.benchmark ?? 0);
      for (const row of monthly.rows)
        if (row.step! > month(asOf)) expect([row.actual, row.state]).toEqual([null, 'blank']);
    }),
    { numRuns: tries(40) },
  );
});

const shop = (name: string, cents: number, at = '2025-03-10'): Line => ({ day: at, shop: name, line: 'brass', cents });
const year = [
  shop('Alder', 120_00),
  shop('Birch', 80_00),
  shop('Cedar', 80_00),
  shop('Dune', -200_00),
  shop('Alder', 10_00, '2025-06-30'),
];

describe('benchmarks', () => {
  test('a fixed number belongs to a member and a month, or to the whole', async () => {
    const quota = await numbers(year, [], 'net by shop during 2025-Q2 against quota');
    expect(quota.rows.map((row) => row.benchmark)).toEqual([15_000]);
    const four = await numbers(year, [], 'net by shop during 2025-Q1 against quota');
    expect([four.rows.map((row) => row.benchmark), four.total.benchmark]).toEqual([
      [15_000, 15_000, 15_000, 15_000],
      60_000,
    ]);
    const pot = await numbers(year, [], 'net by shop during 2025-Q1 against pot');
    expect([pot.rows.map((row) => row.benchmark), pot.total.benchmark]).toEqual([[225, 225, 225, 225], 900]);
  });
  test('scaled, average of the peers, and standing with aim and tolerance', async () => {
    const targets = [{ month: '2025-03', shop: 'Alder', euros: 96 }];
    const stretch = await numbers(year, targets, 'net by shop during 2025-03 against stretch, only shop is Alder');
    expect(stretch.rows[0]).toMatchObject({ actual: 120, benchmark: 120, gap: 0, gapPercent: 0, standing: 'level' });
    const average = await numbers(year, [], 'net by shop during 2025-03 against average');
    expect(average.rows.map((row) => [row.benchmark, row.standing])).toEqual([
      [20, 'ahead'],
      [20, 'ahead'],
      [20, 'ahead'],
      [20, 'behind'],
    ]);
  });
  test('a target that lacks a field is refused unless it says how to split', async () => {
    const targets = [{ month: '2025-03', shop: 'Alder', euros: 100 }];
    await expect(numbers(year, targets, 'net by shop, line during 2025-03 against goal')).rejects.toThrow(
      /no target by “line”/,
    );
    const even = [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)', split: 'even' }];
    const split = await numbers(
      [...year, { ...shop('Alder', 100), line: 'strings' }],
      targets,
      'net by shop, line during 2025-03 against goal, only shop is Alder',
      { benchmarks: even },
    );
    expect(split.rows.map((row) => row.benchmark)).toEqual([50, 50]);
  });
  test('a filter the target cannot follow is said', async () => {
    const n = await numbers(
      year,
      [{ month: '2025-03', shop: 'Alder', euros: 100 }],
      'net by shop during 2025-03 against goal, only line is brass',
    );
    expect(n.checks.map(({ code }) => code)).toContain('filter-not-followed');
  });
});

describe('selection and views', () => {
  test('the rest is exact, ties at the edge are broken by name and said', async () => {
    const n = await numbers(year, [], 'net by shop during 2025-03, keep 2 highest and the rest');
    expect(n.rows.map((row) => [row.key.shop, row.actual])).toEqual([
      ['Alder', 120],
      ['Birch', 80],
      ['the rest', -120],
    ]);
    expect(n.checks.map(({ code }) => code)).toContain('tie-at-the-edge');
  });
  test('largest either sign comes in signed order; fewer members than asked are as many as there are', async () => {
    const n = await numbers(year, [], 'net by shop during 2025-03, keep 2 largest either sign');
    expect(n.rows.map((row) => row.key.shop)).toEqual(['Alder', 'Dune']);
    const few = await numbers(year, [], 'net by shop, keep 9 highest');
    expect([few.rows.length, few.checks[0]!.code]).toEqual([4, 'fewer-than-asked']);
  });
  test('ranks leave room for ties; a high cost is not the best', async () => {
    const n = await numbers(year, [], 'rank of net by shop during 2025-03');
    expect(n.rows.map((row) => row.rank)).toEqual([1, 2, 2, 4]);
    const cut = await numbers(year, [], 'rank of spread by shop');
    expect(cut.rows.map((row) => row.rank)).toEqual([4, 1, 1, 1]);
  });
  test('a running sum stops at the as-of date, its target does not', async () => {
    const n = await numbers(
      [shop('A', 1_00, '2025-01-05'), shop('A', 2_00, '2025-02-05')],
      [
        { month: '2025-01', shop: 'A', euros: 5 },
        { month: '2025-12', shop: 'A', euros: 7 },
      ],
      'cumulative net each month during fiscal 2025 against goal',
    );
    expect(n.rows.slice(0, 3).map((row) => row.actual)).toEqual([1, 3, null]);
    expect(n.rows[11]).toMatchObject({ actual: null, benchmark: 12, gap: null });
  });
  test('shares as rounded percentages add to a hundred', () => {
    expect(roundedShares([1 / 3, 1 / 3, 1 / 3])).toEqual([34, 33, 33]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 10_000 }), { minLength: 1, maxLength: 300 }), (parts) => {
        const whole = parts.reduce((a, b) => a + b, 0);
        const rounded = roundedShares(parts.map((part) => part / whole));
        return rounded.reduce((a, b) => a + b, 0) === 100;
      }),
    );
  });
});

test('rows without dates have numbers, and neither a period nor an as-of date', async () => {
  const undated = { tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: null }] };
  const table = makeTable(await readCsv('x', 'shop,net\nA,1\nB,2'), { id: 'sales' });
  const report = checkReport({
    boldRuler: 1,
    name: 'x',
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
    ...undated,
  });
  const { source, vocabulary } = workspaceFor(report, new Map([['sales', table]]));
  const answer = async (brief: string) =>
    numbersOf(await answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary)));
  expect(await answer('net by shop')).toMatchObject({
    asOf: null,
    period: { from: null, to: null },
    total: { actual: 3 },
  });
  await expect(answer('net during year to date')).rejects.toThrow(/no date column/);
});

test('rows without a day are in no step over time, and so neither in the whole nor in what is selected', async () => {
  const lines = fc.array(
    fc.record({
      day: fc.option(fc.constantFrom('2025-01-10', '2025-02-10', '2025-03-20', '2025-06-01'), { freq: 2 }),
      shop: fc.constantFrom('Alder', 'Birch', 'Cedar'),
      net: fc.integer({ min: 1, max: 90 }),
    }),
    { minLength: 1, maxLength: 9 },
  );
  await fc.assert(
    fc.asyncProperty(lines, async (rows) => {
      const dated = rows.filter((row) => row.day !== null);
      if (dated.length === 0) return;
      const csv = ['day,shop,net', ...rows.map((row) => `${row.day ?? ''},${row.shop},${row.net}`)].join('\n');
      const columns = [{ name: 'day', type: 'date', read: 'yyyy-MM-dd' }] as const;
      const table = makeTable(await readCsv('sales', csv, columns), { id: 'sales', date: 'day' });
      const report = checkReport({
        boldRuler: 1,
        name: 'x',
        tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: 'day' }],
        measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
      });
      const workspace = workspaceFor(report, new Map([['sales', table]]));
      const asked = async (brief: string) =>
        numbersOf(await answerBrief(workspace, readBrief(brief, workspace.vocabulary)));
      const add = (some: typeof rows) => some.reduce((sum, { net }) => sum + net, 0);
      const { rows: steps, total, checks } = await asked('net each month');
      expect(total.actual).toBe(add(dated));
      expect(steps.reduce((sum, { actual }) => sum + (actual ?? 0), 0)).toBe(add(dated));
      const blank = rows.length - dated.length;
      expect(checks.some(({ text }) => text.includes('in no step'))).toBe(blank > 0);
      // Of everything they are a part; of what is shown over time they choose nobody.
      expect((await asked('net by shop')).total.actual).toBe(add(rows));
      const best = Math.max(...dated.map(({ shop }) => add(dated.filter((row) => row.shop === shop))));
      const kept = await asked('net by shop each month, keep 1 highest');
      expect(kept.rows.reduce((sum, { actual }) => sum + (actual ?? 0), 0)).toBe(best);
    }),
    { numRuns: tries(40) },
  );
});

test('what cannot be is refused in words', async () => {
  const refused = (brief: string) => expect(numbers(year, [], brief)).rejects;
  await refused('net by shop against last year').toThrow(/all time has none before it/);
  await refused('change in net by shop').toThrow(/add a grain/);
  await refused('share of mean by shop').toThrow(/does not add up/);
  await expect(
    numbers(year, [], 'wrong', { measures: [{ name: 'wrong', table: 'sales', expression: 'sum(nett)' }] }),
  ).rejects.toThrow(/measure “wrong”.*no column “nett” — did you mean “net”/);
  await expect(
    numbers(year, [], 'lost', { measures: [{ name: 'lost', table: 'sale', expression: 'sum(net)' }] }),
  ).rejects.toThrow(Problem);
});

test('numbers as comma-separated values: blanks stay empty, and text that begins like a formula is harmless', async () => {
  const csv = numbersCsv(await numbers([shop('=1+1', 1_00)], [], 'net by shop during 2025-03 against last year'));
  expect(csv).toBe(
    "shop,actual,benchmark,gap,gapPercent,standing,rank,share,rankChange,state,rows\r\n'=1+1,1,,,,,1,1,,actual,1\r\n",
  );
});

test('columns of comma-separated values have a name each, also where a field is called as a number is', async () => {
  const table = makeTable(await readCsv('x', 'rank,actual,net\nA,east,1\nB,west,2'), { id: 'sales' });
  const report = checkReport({
    boldRuler: 1,
    name: 'x',
    tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  });
  const desk = workspaceFor(report, new Map([['sales', table]]));
  const cells = await answerBrief(desk, readBrief('net by rank, actual', desk.vocabulary));
  const [header, first] = numbersCsv(numbersOf(cells)).split('\r\n');
  expect(header).toBe('rank,actual,actual 2,rank 2,share,state,rows');
  expect(first!.split(',').slice(0, 4)).toEqual(['A', 'east', '1', '2']);
});

test('what cannot be added up to the last digit is told, and is as near as 15 digits are', async () => {
  const amounts = ['90071992547409.93', '90071992547409.93', '0.01', '-45035996273704.96'];
  const rows = ['day,shop,net,pieces', ...amounts.map((net, i) => `2025-01-0${i + 1},A,${net},90000000`)];
  const told = async (expression: string, lines: readonly string[]) => {
    const report = checkReport({
      boldRuler: 1,
      name: 'r',
      tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
      measures: [{ name: 'm', table: 'sales', expression }],
    });
    const table = makeTable(await readCsv('sales', lines.join('\n')), { id: 'sales' });
    const { source, vocabulary } = workspaceFor(report, new Map([['sales', table]]));
    const { total, checks } = numbersOf(await answerBrief({ source, report, vocabulary }, readBrief('m', vocabulary)));
    return [total.actual, checks.some(({ code }) => code === 'not-exact')];
  };
  const exact = 13_510_798_882_111_491n; // hundredths
  const [value, isTold] = await told('sum(net)', rows);
  expect(isTold).toBe(true);
  expect(Math.abs(Number(value) - Number(exact) / 100)).toBeLessThan(1);
  expect(
    await told(
      'sum(net)',
      rows.map((line) => line.replace(/\d{14}\./, '123.')),
    ),
  ).toEqual([expect.anything(), false]);
  expect((await told('sum(pieces * pieces)', rows))[1]).toBe(true);
  expect(await told('sum(pieces)', rows)).toEqual([360_000_000, false]);
});
