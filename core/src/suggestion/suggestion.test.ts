import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readBrief } from '../brief';
import { liveTitle } from '../format';
import { answerBrief, type Cells } from '../query';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { holds, suggestionsOf } from '.';
import { tries } from '../proof/tries.fixture';

async function cellsOf(lines: readonly string[], brief: string, measure: object = {}): Promise<Cells> {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 't', source: { file: 't.csv' }, date: 'day' }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)', tolerance: 0.01, ...measure }],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    calendar: { asOf: 'auto' },
  });
  const table = makeTable(await readCsv('t', ['day,shop,net,goal', ...lines].join('\n')), { id: 't', date: 'day' });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  return answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary));
}

/** What is suggested, as it reads now. */
const said = (cells: Cells) => suggestionsOf(cells).map(({ text }) => liveTitle(text, cells));
const shops = (...rows: string[]) => rows.map((row) => `2026-01-05,${row}`);

test('one who lags is hidden by one who leads, and both are named with what they lack and bring', async () => {
  const cells = await cellsOf(
    shops('Keys,60,100', 'Brass,140,100', 'Strings,201,200'),
    'net by shop against goal as bullet',
  );
  expect(said(cells)).toEqual([
    'As a whole net is level with goal, but Keys lacks 40 (40.0%); against that, Brass is 40 ahead',
    'Keys is furthest behind goal: 40, or 40.0%',
  ]);
});

test('words follow the aim', async () => {
  const cells = await cellsOf(shops('A,60,100', 'B,180,100', 'C,90,100'), 'net by shop against goal as bullet', {
    aim: 'cut',
  });
  expect(said(cells)).toEqual(['B is furthest worse than goal: 80, or 80.0%']);
});

test('where less is better, who is above is not said to lack', async () => {
  const costs = shops('Keys,140,100', 'Brass,75,100', 'Strings,186,200');
  const cells = await cellsOf(costs, 'net by shop against goal as bullet', { aim: 'cut' });
  expect(said(cells)).toEqual([
    'As a whole net is level with goal, but Keys is 40 (40.0%) above it; against that, Brass is 25 below',
    'Keys is furthest worse than goal: 40, or 40.0%',
  ]);
});

test('the furthest of those shown is not called that of all, and of two that are as far none is', async () => {
  const rows = shops('A,60,100', 'B,90,100', 'C,10,100', 'D,95,100');
  const of = async (keep: string) => said(await cellsOf(rows, `net by shop against goal as bullet, keep ${keep}`));
  expect(await of('3 highest')).toEqual(['Of the 3 highest of 4, A is furthest behind goal: 40, or 40.0%']);
  expect(await of('3 highest and the rest')).toEqual([
    'Of the 3 highest of 4, A is furthest behind goal: 40, or 40.0%',
  ]);
  const tied = await cellsOf(shops('A,60,100', 'B,60,100', 'C,95,100'), 'net by shop against goal as bullet');
  expect(said(tied)).toEqual([]);
  expect(holds({ kind: 'largest gap', member: 'A', standing: 'behind' }, tied)).toBe(false);
});

test('who took the lead, and from whom', async () => {
  const lines = [
    '2025-01-05,A,9,1',
    '2025-01-05,B,5,1',
    '2025-01-05,C,1,1',
    '2025-02-05,A,5,1',
    '2025-02-05,B,4,1',
    '2025-02-05,C,9,1',
  ];
  const cells = await cellsOf(lines, 'rank of net by shop each month as bump');
  expect(said(cells)).toEqual(['C has taken first place in net from A, 2 places up']);
  expect(holds({ kind: 'took the lead', member: 'C', from: 'A' }, cells)).toBe(true);
  expect(holds({ kind: 'took the lead', member: 'B', from: 'A' }, cells)).toBe(false);
});

test('where a running sum will land', async () => {
  const lines = [
    '2025-01-05,A,100,1',
    '2025-06-05,A,100,1',
    '2025-12-05,A,200,1',
    '2026-01-05,A,50,1',
    '2026-03-31,A,0,1',
  ];
  const cells = await cellsOf(lines, 'cumulative net each month during fiscal 2026 against last year as pace');
  expect(said(cells)).toEqual(['At the pace so far net lands at 200, 200 short of last year']);
  expect(holds({ kind: 'lands', standing: 'behind' }, cells)).toBe(true);
  expect(holds({ kind: 'lands', standing: 'ahead' }, cells)).toBe(false);
});

test('one far from all others stands out; names that a text would read otherwise are left alone', async () => {
  const many = ['A,10,1', 'B,11,1', 'C,12,1', 'D,11,1', 'E,9,1'];
  expect(said(await cellsOf(shops(...many, 'F,-90,1'), 'net by shop as bars'))).toEqual([
    'F stands out from the other shop members with −90',
  ]);
  expect(said(await cellsOf(shops(...many, '{F},-90,1'), 'net by shop as bars'))).toEqual([]);
});

test('a value of a member that is gone is a dash, and the claim is no longer true', async () => {
  const cells = await cellsOf(shops('A,5,7', 'B,6,4', 'C,1,1'), 'net by shop against goal as bullet');
  expect(liveTitle('{gap of Z} {actual of A} {gap % of B} {rank of C} {share of A}', cells)).toBe('– 5 50.0% 3 41.7%');
  expect(() => liveTitle('{gop of A}', cells)).toThrow('a title has no value “gop of A”');
  expect(holds({ kind: 'largest gap', member: 'Z', standing: 'behind' }, cells)).toBe(false);
});

test('whatever the numbers, what is suggested holds, reads without gaps, and its arithmetic is that of the rows', async () => {
  const row = fc.record({
    shop: fc.constantFrom('A', 'B', 'C', 'D', 'E', 'F', 'G'),
    month: fc.integer({ min: 1, max: 12 }),
    net: fc.integer({ min: -200, max: 900 }),
    goal: fc.integer({ min: 0, max: 500 }),
  });
  const briefs = [
    'net by shop against goal as bullet',
    'net by shop as bars',
    'rank of net by shop each month as bump',
    'cumulative net each month during fiscal 2025 against goal as pace',
    'share of net by shop against average as table',
  ];
  let found = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(row, { minLength: 3, maxLength: 40 }),
      fc.constantFrom(...briefs),
      async (rows, brief) => {
        const lines = rows.map(
          (one) => `2025-${String(one.month).padStart(2, '0')}-03,${one.shop},${one.net},${one.goal}`,
        );
        const cells = await cellsOf(lines, brief);
        for (const { claim, text } of suggestionsOf(cells)) {
          found += 1;
          expect(holds(claim, cells)).toBe(true);
          expect(liveTitle(text, cells)).not.toMatch(/–|NaN|undefined|[{}]/);
          if (claim.kind !== 'largest gap') continue;
          // By hand: the sum of each shop's rows, held against the sum of its goals.
          const gaps = new Map<string, number>();
          for (const one of rows) gaps.set(one.shop, (gaps.get(one.shop) ?? 0) + one.net - one.goal);
          if (brief === briefs[0]) {
            const side = claim.standing === 'behind' ? Math.min(...gaps.values()) : Math.max(...gaps.values());
            expect(gaps.get(claim.member)).toBe(side);
          }
        }
      },
    ),
    { numRuns: tries(100) },
  );
  expect(found).toBeGreaterThan(50);
});
