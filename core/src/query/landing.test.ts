import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { tries } from '../proof/tries.fixture';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { answerBrief, landingsOf } from '.';
import type { LandingKind } from './landing';

// Where a running sum lands, worked out from docs/calculations.md.

const day = (i: number) => new Date(Date.UTC(2025, 0, 1 + i)).toISOString().slice(0, 10);

async function landings(
  { sales, goals }: { readonly sales: readonly string[]; readonly goals: readonly string[] },
  brief: string,
  { asOf, kept, spread }: { readonly asOf: string; readonly kept?: LandingKind; readonly spread?: 'none' },
) {
  const read = async (id: string, header: string, lines: readonly string[]) =>
    [id, makeTable(await readCsv(id, [header, ...lines].join('\n')), { id })] as const;
  const report = checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    tables: ['sales', 'goals'].map((id) => ({ id, source: { file: `${id}.csv` } })),
    calendar: { asOf },
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
    benchmarks: [
      { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)', ...(spread ? { spread } : {}) },
    ],
  });
  const tables = new Map([await read('sales', 'day,shop,net', sales), await read('goals', 'day,shop,goal', goals)]);
  const { source, vocabulary } = workspaceFor(report, tables);
  return landingsOf(await answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary)), kept);
}

const amounts = fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 90, maxLength: 90 });

test('law: to date, due, end, pace, landing and what each day needs are those of the rows, whatever the steps and the day', () =>
  fc.assert(
    fc.asyncProperty(
      fc.record({ Alder: amounts, Birch: amounts }),
      fc.record({ Alder: amounts, Birch: amounts }),
      fc.integer({ min: 0, max: 89 }),
      fc.constantFrom('day', 'week', 'month', 'quarter'),
      fc.constantFrom<LandingKind>('as so far', 'as planned'),
      async (net, goal, today, grain, kept) => {
        const shops = ['Alder', 'Birch'] as const;
        const lines = (of: typeof net, days: number) =>
          shops.flatMap((shop) => of[shop].slice(0, days).map((value, i) => `${day(i)},${shop},${value}`));
        const found = await landings(
          { sales: lines(net, today + 1), goals: lines(goal, 90) },
          `cumulative net by shop each ${grain} during 2025-01 to 2025-03 against goal`,
          { asOf: day(today), kept },
        );
        const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);
        const wanted = shops.map((shop) => {
          const toDate = sum(net[shop].slice(0, today + 1));
          const due = sum(goal[shop].slice(0, today + 1));
          const end = sum(goal[shop]);
          const left = 89 - today;
          const pace = kept === 'as planned' ? 1 : toDate / due;
          return {
            key: { shop },
            toDate,
            benchmarkToDate: due,
            benchmarkEnd: end,
            pace: expect.closeTo(pace, 10) as number,
            landing: expect.closeTo(toDate + (end - due) * pace, 6) as number,
            daysLeft: left,
            neededPerDay: left === 0 ? NaN : (expect.closeTo((end - toDate) / left, 8) as number),
          };
        });
        expect([...found].sort((a, b) => (a.key['shop']! < b.key['shop']! ? -1 : 1))).toEqual(wanted);
      },
    ),
    { numRuns: tries(40) },
  ));

describe('in the middle of a step', () => {
  const sales = ['2025-01-10,Alder,20', '2025-03-10,Alder,12'];
  const brief = 'cumulative net each month during fiscal 2025 against goal';
  const months = (from: number) =>
    Array.from({ length: 13 - from }, (_, i) => `2025-${String(from + i).padStart(2, '0')},Alder,31`);

  test('a target that is not spread has nothing due that is known, so no pace is kept and nothing lands', async () => {
    const [spread] = await landings({ sales, goals: months(1) }, brief, { asOf: '2025-03-10' });
    expect(spread).toMatchObject({ toDate: 32, benchmarkToDate: 72, benchmarkEnd: 372 });
    const [whole] = await landings({ sales, goals: months(1) }, brief, { asOf: '2025-03-10', spread: 'none' });
    expect(whole).toMatchObject({ toDate: 32, benchmarkToDate: NaN, benchmarkEnd: 372, pace: 1, landing: NaN });
    expect(whole!.neededPerDay).toBeCloseTo((372 - 32) / whole!.daysLeft, 9);
  });

  test('a step that begins on the day counts, and one that ends on it is whole', async () => {
    const [first] = await landings({ sales, goals: months(1) }, brief, { asOf: '2025-03-01' });
    expect(first).toMatchObject({ toDate: 20, benchmarkToDate: 63 });
    const [last] = await landings({ sales, goals: months(1) }, brief, { asOf: '2025-03-31', spread: 'none' });
    expect(last).toMatchObject({ toDate: 32, benchmarkToDate: 93 });
  });

  test('targets that begin later have none due before, and with none at all nothing is due, lands or is needed', async () => {
    const [later] = await landings({ sales, goals: months(5) }, brief, { asOf: '2025-03-10' });
    expect(later).toMatchObject({ toDate: 32, benchmarkToDate: 0, benchmarkEnd: 248, pace: 1, landing: 280 });
    const [none] = await landings({ sales, goals: months(1) }, `${brief.replace('goal', 'last year')}`, {
      asOf: '2025-03-10',
    });
    expect(none).toMatchObject({
      toDate: 32,
      benchmarkToDate: NaN,
      benchmarkEnd: NaN,
      landing: NaN,
      neededPerDay: NaN,
    });
  });
});
