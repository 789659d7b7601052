import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable, type Table } from '../table';
import { workspaceFor } from '../workspace';
import { numbersOf } from '../figure';
import { answerBrief, type Numbers } from '.';
import { tries } from '../proof/tries.fixture';

const DAYS_IN = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** Three years of months for two shops, one row a month on its last day; `months` of them are there. */
async function numbers(values: readonly number[], outlook: object, brief: string): Promise<Numbers> {
  const rows = values.flatMap((value, i) => {
    const day = `${2023 + Math.floor(i / 12)}-${String((i % 12) + 1).padStart(2, '0')}-${DAYS_IN[i % 12]}`;
    return [`${day},Nord,${value}`, `${day},Süd,${2 * value}`];
  });
  const table = makeTable(await readCsv('sales', ['day,shop,net', ...rows].join('\n')), { id: 'sales' });
  return numbersOver(table, outlook, brief);
}

async function numbersOver(table: Table, outlook: object, brief: string): Promise<Numbers> {
  const report = checkReport({
    boldRuler: 1,
    name: 'x',
    tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)' },
      { name: 'mean', table: 'sales', expression: 'avg(net)' },
    ],
    benchmarks: [{ name: 'outlook', kind: 'forecast', ...outlook }],
  });
  const { source, vocabulary } = workspaceFor(report, new Map([['sales', table]]));
  return numbersOf(await answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary)));
}

const benchmarks = ({ rows }: Numbers) => rows.map(({ benchmark }) => benchmark);
/** 2023 and 2024 whole, January to March of 2025. */
const known = Array.from({ length: 27 }, (_, i) => 100 + i);

describe('a forecast as benchmark', () => {
  test('is made from what was before the period, for each step of it, also those to come', async () => {
    const last = await numbers(
      known,
      { method: 'same period last year', growth: 0.1 },
      'net each month during fiscal 2025 against outlook',
    );
    expect(benchmarks(last)).toEqual(Array.from({ length: 12 }, (_, m) => Math.round(3 * (112 + m) * 110) / 100));
    expect(last.rows.map(({ actual }) => actual === null)).toEqual([
      ...Array<boolean>(3).fill(false),
      ...Array<boolean>(9).fill(true),
    ]);
    const line = await numbers(known, { method: 'linear' }, 'net each month during fiscal 2025 against outlook');
    benchmarks(line).forEach((value, m) => expect(value).toBeCloseTo(3 * (124 + m), 9));
    const mean = await numbers(
      known,
      { method: 'average of last k', k: 2 },
      'net each month during fiscal 2025 against outlook',
    );
    expect(new Set(benchmarks(mean))).toEqual(new Set([3 * 122.5]));
  });
  test.each(['linear', 'smoothing'])(
    'what comes as %s expects it is level, not ahead by what computing leaves',
    async (method) => {
      const brief = 'net by shop each month during 2025-01 to 2025-03 against outlook';
      const { rows } = await numbers(
        known,
        { method, ...(method === 'smoothing' ? { season: 'additive' } : {}) },
        brief,
      );
      expect(rows.map(({ gap, standing }) => [gap, standing])).toEqual(Array(6).fill([0, 'level']));
    },
  );
  test('adds up over months and members, and what is due by now is cut by days', async () => {
    const whole = await numbers(known, { method: 'linear' }, 'net by shop during fiscal 2025 against outlook');
    const sum = Array.from({ length: 12 }, (_, m) => 124 + m).reduce((a, b) => a + b);
    expect(whole.rows.map(({ benchmark }) => Math.round(benchmark!))).toEqual([sum, 2 * sum]);
    expect(whole.total.benchmark).toBeCloseTo(3 * sum, 6);
    expect(whole.rows[0]!.due).toBeCloseTo(124 + 125 + 126, 6);
  });
  test('of whom there is too little history, it is what all leave beside the others: rows add up to the whole', async () => {
    const text = (values: readonly (readonly [string, number, number])[]) =>
      values.map(
        ([shop, month, net]) =>
          `${2023 + Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, '0')}-15,${shop},${net}`,
      );
    const steady = Array.from({ length: 24 }, (_, m) => ['Nord', m, 100] as const);
    const asked = async (more: readonly (readonly [string, number, number])[], outlook: object, brief: string) => {
      const lines = ['day,shop,net', ...text([...steady, ...more, ['Nord', 24, 100]])];
      const table = makeTable(await readCsv('sales', lines.join('\n')), { id: 'sales' });
      return numbersOver(table, outlook, brief);
    };
    const byShop = 'net by shop each month during fiscal 2025 against outlook';
    const mean = { method: 'average of last k', k: 3 };
    const one = await asked([['West', 23, 50]], mean, byShop);
    expect(one.rows.map(({ key, benchmark }) => [key.shop, Math.round(benchmark! * 1e6) / 1e6]).slice(0, 13)).toEqual([
      ...Array.from({ length: 12 }, () => ['Nord', 100]),
      ['West', 16.666667],
    ]);
    // Two of them share what is left by what they brought.
    const two = await asked(
      [
        ['West', 23, 50],
        ['East', 22, 20],
        ['East', 23, 5],
      ],
      { method: 'smoothing', season: 'additive' },
      byShop,
    );
    const whole = await asked(
      [
        ['West', 23, 50],
        ['East', 22, 20],
        ['East', 23, 5],
      ],
      { method: 'smoothing', season: 'additive' },
      byShop.replace(' by shop', ''),
    );
    const of = (shop: string, step: string | null) =>
      two.rows.find(({ key, step: at }) => key.shop === shop && at === step)!.benchmark!;
    for (const { step, benchmark } of whole.rows) {
      expect(of('Nord', step) + of('West', step) + of('East', step)).toBeCloseTo(benchmark!, 9);
      expect(of('West', step) / of('East', step)).toBeCloseTo(2, 9);
    }
    expect(two.checks.map(({ text: said }) => said).join()).toContain(
      'West and East have fewer: they are expected to bring what the others leave of the forecast of all',
    );
    // Where last year is repeated, nothing is left for whoever is new.
    const again = await asked([['West', 23, 50]], { method: 'same period last year' }, byShop);
    expect(again.rows.filter(({ key }) => key.shop === 'West')).toEqual([]);
  });
  test('goes on as the period has begun, by the run rate', () =>
    fc.assert(
      fc.asyncProperty(fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 25, maxLength: 36 }), async (values) => {
        const found = await numbers(values, { method: 'run rate' }, 'net during fiscal 2025 against outlook');
        const toDate = values.slice(24);
        const elapsed = toDate.reduce((days, _, m) => days + DAYS_IN[m]!, 0);
        expect(found.total.benchmark! / ((3 * toDate.reduce((a, b) => a + b) * 365) / elapsed)).toBeCloseTo(1, 10);
      }),
      { numRuns: tries(25) },
    ));
  test('says how far off it would have been a year before, and between which values each step is expected', async () => {
    const off = known.map((value, i) => (i === 20 ? value + 50 : value));
    const line = await numbers(off, { method: 'linear' }, 'net each month during fiscal 2025 against outlook');
    // The first year is a straight line; its forecast of the second misses September alone, by 50 of 170.
    expect(line.checks.find(({ code }) => code === 'backtest')!.text).toContain('by 2.5% on average');
    for (const { benchmark, low, high } of line.rows) expect(low! < benchmark! && benchmark! < high!).toBe(true);
    const running = await numbers(
      off,
      { method: 'linear' },
      'cumulative net each month during fiscal 2025 against outlook',
    );
    expect(running.rows[0]).not.toHaveProperty('low');
  });
  test('a trend is the straight line through the steps that have values', async () => {
    const { trends } = await numbers(known, { method: 'linear' }, 'net each month during fiscal 2025 as trend');
    expect(trends).toEqual([{ key: {}, slope: 3, first: 3 * 124, last: 3 * 126, rSquared: 1, steps: 3 }]);
  });
  test('says when there was too little before, and refuses what does not add up', async () => {
    const short = await numbers(
      known.slice(0, 20),
      { method: 'smoothing' },
      'net each month during fiscal 2024 against outlook',
    );
    expect(benchmarks(short).every((value) => value === null)).toBe(true);
    expect(short.checks.map(({ text }) => text).join()).toContain('needs 24 months before the period');
    await expect(numbers(known, { method: 'linear' }, 'mean during fiscal 2025 against outlook')).rejects.toThrow(
      /does not add up/,
    );
    expect(
      benchmarks(await numbers(known, { method: 'linear' }, 'mean each month during fiscal 2025 against outlook'))[0],
    ).toBeCloseTo(1.5 * 124, 6);
  });
});
