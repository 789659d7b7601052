import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { readCsv } from '../reading';
import { lookFor } from '../form';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { numbersOf } from '../figure';
import { answerBrief, buildUp, landingsOf, priceVolumeMix, variance, waterfallOf, type Cells, type Choices } from '.';
import { ranksOf } from './views';
import { tries } from '../proof/tries.fixture';

async function cells(lines: readonly string[], brief: string, choices: Choices = {}): Promise<Cells> {
  const table = makeTable(
    await readCsv('sales', ['day,shop,net,goal,side', ...lines].join('\n'), [
      { name: 'day', type: 'date', read: 'yyyy-MM-dd' },
      { name: 'shop', type: 'text' },
      { name: 'net', type: 'number' },
      { name: 'goal', type: 'number' },
    ]),
    { id: 'sales' },
  );
  const report = checkReport({
    boldRuler: 1,
    name: 'x',
    tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)' },
      { name: 'pieces', table: 'sales', expression: 'sum(goal)' },
      { name: 'balance', table: 'sales', expression: 'sum(net) - 2 * sum(goal)' },
    ],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
  });
  const { source, vocabulary } = workspaceFor(report, new Map([['sales', table]]));
  return answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary), choices);
}

const cents = fc.integer({ min: -9_999_999, max: 9_999_999 }).map((n) => n / 100);
const maybe = fc.option(cents, { freq: 5 });
const rows = fc.uniqueArray(fc.record({ shop: fc.constantFrom(...'ABCDEFGH'), net: maybe, goal: maybe }), {
  minLength: 1,
  maxLength: 8,
  selector: ({ shop }) => shop,
});
const asLines = (data: readonly { shop: string; net: number | null; goal: number | null }[]) =>
  data.map(({ shop, net, goal }) => `2025-01-01,${shop},${net?.toFixed(2) ?? ''},${goal?.toFixed(2) ?? ''}`);
const sum = (values: readonly (number | null)[]) =>
  values.reduce<number>((s, v) => s + Math.round((v ?? 0) * 100), 0) / 100;

describe('waterfalls tie out to the last cent', () => {
  const ties = ({ steps }: ReturnType<typeof waterfallOf>) =>
    steps.forEach((step, i) => {
      if (step.kind === 'step' && i > 0) expect(step.start).toBe(steps[i - 1]!.end);
      if (step.kind !== 'step') expect([step.start, step.end]).toEqual([0, step.value]);
    });
  test('a build-up ends at the sum, a variance begins at the benchmark and ends at the actual', () =>
    fc.assert(
      fc.asyncProperty(rows, async (data) => {
        const built = buildUp(await cells(asLines(data), 'net by shop'));
        ties(built);
        expect(built.steps.at(-1)!.end).toBe(sum(data.map(({ net }) => net)));
        const varied = variance(await cells(asLines(data), 'net by shop against goal'));
        ties(varied);
        expect(varied.steps[0]!.value).toBe(sum(data.map(({ goal }) => goal)));
        expect(varied.steps.at(-1)!.end).toBe(sum(data.map(({ net }) => net)));
      }),
      { numRuns: tries(100) },
    ));
  test('who has only a target is not gone, and who was not there last year is new; a group ends in its subtotal', async () => {
    const then = variance(
      await cells(
        ['2024-01-01,Süd,3,', '2024-01-01,West,2,', '2025-01-01,Nord,5,', '2025-01-01,West,2,'],
        'net by shop during fiscal 2025 against last year',
      ),
    );
    expect(then.steps.map(({ name, value, mark }) => [name, value, mark])).toEqual([
      ['last year', 5, null],
      ['Nord', 5, 'new'],
      ['Süd', -3, 'gone'],
      ['West', 0, null],
      ['net', 7, null],
    ]);
    const found = variance(
      await cells(['2025-01-01,Nord,5,', '2025-01-01,Süd,,3', '2025-01-01,West,2,2'], 'net by shop against goal'),
    );
    expect(found.steps.map(({ name, value, mark }) => [name, value, mark])).toEqual([
      ['goal', 5, null],
      ['Nord', 5, null],
      ['Süd', -3, null],
      ['West', 0, null],
      ['net', 7, null],
    ]);
    const grouped = waterfallOf(
      null,
      [
        { name: 'a', value: 1, group: 'x' },
        { name: 'b', value: 2, group: 'x' },
        { name: 'c', value: -4, group: 'y' },
      ],
      'all',
      0,
    );
    expect(grouped.steps.map(({ kind, name, value, start, end }) => [kind, name, value, start, end])).toEqual([
      ['step', 'a', 1, 0, 1],
      ['step', 'b', 2, 1, 3],
      ['subtotal', 'x', 3, 0, 3],
      ['step', 'c', -4, 3, -1],
      ['subtotal', 'y', -4, 3, -1],
      ['total', 'all', -1, 0, -1],
    ]);
  });
  test('the numbers of a waterfall say where each step begins and ends', async () => {
    const { rows: found } = numbersOf(
      await cells(['2025-01-01,Nord,5,4', '2025-01-01,Süd,1,3'], 'net by shop against goal as waterfall'),
    );
    expect(found.map(({ start, end }) => [start, end])).toEqual([
      [7, 8],
      [8, 6],
    ]);
  });
  test('the whole of several terms counts what members that lack one of them have of the others, and everything ties to it', () =>
    fc.assert(
      fc.asyncProperty(rows, async (data) => {
        const all = (pick: (one: (typeof data)[number]) => number | null) =>
          data.every((one) => pick(one) === null) ? NaN : sum(data.map(pick));
        const whole = all(({ net }) => net) - 2 * all(({ goal }) => goal);
        const of = await cells(asLines(data), 'balance by shop');
        if (Number.isNaN(whole)) {
          expect(of.total.actual).toBeNaN();
          return;
        }
        expect(of.total.actual).toBeCloseTo(whole, 6);
        const built = buildUp(of);
        ties(built);
        expect(built.steps.at(-1)!.value).toBeCloseTo(whole, 6);
        const members = data.filter(({ net, goal }) => net !== null && goal !== null);
        const together = sum(members.map(({ net }) => net)) - 2 * sum(members.map(({ goal }) => goal));
        const isTold = of.checks.some(({ code }) => code === 'does-not-add-up');
        expect(isTold).toBe(Math.abs(together - whole) > 1e-6);
        // What the kept ones leave is computed from the rows that are left, so that both are the whole.
        const { rows: kept } = numbersOf(await cells(asLines(data), 'balance by shop, keep 1 highest and the rest'));
        if (kept.length === 2 && kept.every(({ actual }) => actual !== null))
          expect(kept[0]!.actual! + kept[1]!.actual!).toBeCloseTo(whole, 6);
      }),
      { numRuns: tries(150) },
    ));
  test('what cancels to nothing leaves no step of dust', async () => {
    const lines = ['2025-01-01,A,1000000000.1234567,', '2025-01-01,B,-1000000000.1234566,', '2025-01-01,C,0.3333333,'];
    const { steps } = buildUp(await cells(lines, 'net by shop'));
    expect(steps.map(({ name }) => name)).toEqual(['A', 'B', 'C', 'total']);
  });
  test('of two fields the first is the parent, and its members end in its subtotal', async () => {
    const lines = ['2025-01-01,Alder,5,4,east', '2025-01-01,Birch,7,7,west', '2025-01-01,Cedar,1,3,east'];
    const { waterfall } = numbersOf(
      await cells(lines, 'net by side, shop against goal as waterfall, sorted by value down'),
    );
    expect(waterfall!.map(({ kind, name, value, start, end }) => [kind, name, value, start, end])).toEqual([
      ['total', 'goal', 14, 0, 14],
      ['step', 'Birch', 0, 14, 14],
      ['subtotal', 'west', 0, 14, 14],
      ['step', 'Alder', 1, 14, 15],
      ['step', 'Cedar', -2, 15, 13],
      ['subtotal', 'east', -1, 14, 13],
      ['total', 'net', 13, 0, 13],
    ]);
  });
  test('a named quantity splits the gap to last year into volume, price and mix', async () => {
    const lines = [
      '2024-01-01,Alder,100,10,',
      '2025-01-01,Alder,180,15,',
      '2025-01-01,Birch,40,1,',
      '2024-01-01,Cedar,30,3,',
    ];
    const { waterfall, total } = numbersOf(
      await cells(lines, 'net by shop during fiscal 2025 against last year as waterfall', { quantity: 'pieces' }),
    );
    expect(waterfall!.map(({ name, value, end }) => [name, value, end])).toEqual([
      ['last year', 130, 130],
      ['volume', 50, 180],
      ['price', 30, 210],
      ['mix', 0, 210],
      ['new', 40, 250],
      ['gone', -30, 220],
      ['net', 220, 220],
    ]);
    expect(total.actual).toBe(220);
    // Of a selection it tells what was selected; where the rest is shown too, of all.
    const selected = async (keep: string) =>
      numbersOf(
        await cells(lines, `net by shop during fiscal 2025 against last year as waterfall, keep ${keep}`, {
          quantity: 'pieces',
        }),
      ).waterfall!.map(({ name, value }) => `${name} ${value}`);
    const none = ['price 30', 'mix 0', 'new 0', 'gone 0'];
    expect(await selected('1 highest')).toEqual(['last year 100', 'volume 50', ...none, 'net 180']);
    expect(await selected('1 highest and the rest')).toEqual([
      'last year 130',
      'volume 50',
      'price 30',
      'mix 0',
      'new 40',
      'gone -30',
      'net 220',
    ]);
    // A look outlives a change of form.
    const look = { quantity: 'pieces', stops: { high: 'gone' } };
    expect((await cells(lines, 'net by shop as bars', lookFor('bars', look))).extras.mix).toBeNull();
    const refused = cells(lines, 'net by shop against goal as waterfall', { quantity: 'pieces' });
    await expect(refused).rejects.toThrow(/two periods/);
  });
  test('price, volume, mix, new and gone add up to the gap exactly, and each is what its name says', () => {
    const amount = fc.integer({ min: 0, max: 500 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ value: cents, quantity: amount, valueBefore: cents, quantityBefore: amount }), {
          minLength: 1,
          maxLength: 9,
        }),
        (some) => {
          const members = some.map((m, i) => ({ name: String(i), ...m }));
          const effect = priceVolumeMix(members, 2);
          const gap = sum(some.map(({ value }) => value)) - sum(some.map(({ valueBefore }) => valueBefore));
          expect(Math.round(100 * (effect.volume + effect.price + effect.mix + effect.new + effect.gone))).toBe(
            Math.round(100 * gap),
          );
        },
      ),
      { numRuns: tries(200) },
    );
    const one = { name: 'x', valueBefore: 100, quantityBefore: 10 };
    expect(priceVolumeMix([{ ...one, value: 150, quantity: 15 }], 2)).toEqual({
      volume: 50,
      price: 0,
      mix: 0,
      new: 0,
      gone: 0,
    });
    expect(priceVolumeMix([{ ...one, value: 120, quantity: 10 }], 2)).toEqual({
      volume: 0,
      price: 20,
      mix: 0,
      new: 0,
      gone: 0,
    });
    const shifted = [
      { name: 'dear', valueBefore: 100, quantityBefore: 10, value: 150, quantity: 15 },
      { name: 'cheap', valueBefore: 10, quantityBefore: 10, value: 5, quantity: 5 },
    ];
    expect(priceVolumeMix(shifted, 2)).toEqual({ volume: 0, price: 0, mix: 45, new: 0, gone: 0 });
  });
});

test('a running sum lands where its pace leads, and says what each day left must bring', async () => {
  // Ten of thirty-one days of January are known; the goal is 31 a month, spread over the days of the table.
  const lines = Array.from(
    { length: 31 },
    (_, i) => `2025-01-${String(i + 1).padStart(2, '0')},Nord,${i < 10 ? 2 : ''},1`,
  );
  const running = await cells(lines, 'cumulative net each day during 2025-01 against goal');
  const found = landingsOf(running);
  // Where the report says on which days somebody works, these are what is left: from the 11th, a Saturday, fifteen less a holiday.
  const working = landingsOf({ ...running, calendar: { ...running.calendar, holidays: ['2025-01-13', '2025-01-12'] } });
  expect(working).toEqual([{ ...found[0], workdaysLeft: 14, neededPerWorkday: expect.closeTo(11 / 14, 12) }]);
  expect(found).toEqual(
    [
      {
        key: {},
        toDate: 20,
        benchmarkToDate: 10,
        benchmarkEnd: 31,
        pace: 2,
        landing: 62,
        daysLeft: 21,
        neededPerDay: 11 / 21,
      },
    ].map((landing) => ({ ...landing, neededPerDay: expect.closeTo(landing.neededPerDay, 12) })),
  );
});

test('equal values share a rank, share it without a gap, or are told apart by name', () => {
  const values = [5, 9, 9, NaN, 1];
  expect(ranksOf(values, 'raise', null)).toEqual([3, 1, 1, NaN, 4]);
  expect(ranksOf(values, 'raise', null, 'dense')).toEqual([2, 1, 1, NaN, 3]);
  expect(ranksOf(values, 'raise', null, 'ordinal')).toEqual([3, 1, 2, NaN, 4]);
  expect(ranksOf(values, 'cut', null, 'ordinal')).toEqual([2, 3, 4, NaN, 1]);
});

test('shares are steps of their own size, and come to the whole', async () => {
  // Whole numbers: what is shared has no decimals, its shares have.
  const lines = ['2025-01-01,A,1,', '2025-01-01,B,2,', '2025-01-01,C,5,'];
  const { steps } = buildUp(await cells(lines, 'share of net by shop as waterfall'));
  expect(steps.map(({ name, start, end }) => [name, start, end])).toEqual([
    ['A', 0, 0.125],
    ['B', 0.125, 0.375],
    ['C', 0.375, 1],
    ['total', 0, 1],
  ]);
});

test('what is equally far from a target is so in decimals, whatever binary fractions make of it', () => {
  const pairs = [0.3, 0.4, 0.9].map((value, i) => [value, [0.1, 0.6, 0.7][i]!] as const);
  const ranked = ranksOf(
    pairs.map(([value]) => value),
    'hold',
    pairs.map(([, target]) => target),
  );
  expect(ranked).toEqual([1, 1, 1]);
});
