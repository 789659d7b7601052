import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Problem } from '../problem';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { isFiniteScene, type Mark } from '../scene';
import { makeTable } from '../table';
import { tries } from '../proof/tries.fixture';
import { workspaceFor } from '../workspace';
import { drawFigure } from '.';

const FORMS = 'bars bullet waterfall league table dial headline pairs trend pace bump'.split(' ');
const BRIEFS = [
  'net by shop',
  'net by shop against last year',
  'net by shop during 2025-01 to 2025-03 against low',
  'net each month during 2025-01 to 2025-03 against last year',
  'cumulative net each month during 2025-01 to 2025-03 against flat',
  'net by shop each month',
  'squared by shop against flat',
  'share of net by shop',
];
const report = checkReport({
  boldRuler: 1,
  name: 's',
  tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: 'day' }],
  measures: [
    { name: 'net', table: 'sales', expression: 'sum(net)' },
    { name: 'squared', table: 'sales', expression: 'sum(net) * sum(net) * sum(net)' },
  ],
  benchmarks: [
    { name: 'flat', kind: 'fixed', value: 1e308 },
    { name: 'low', kind: 'fixed', value: -1e308 },
  ],
});
const isSized = (mark: Mark) => mark.shape !== 'rect' || (mark.width >= 0 && mark.height >= 0);
const hugeness = fc.constantFrom('1e308', '-1.7e308', '1e60', '-1e60', '1e59', '1e-300', '5', '-7', '0', '');

test('law: a scene holds finite numbers and no negative size, whatever the rows and however narrow it is; else the figure says so', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.tuple(
          fc.constantFrom('2024-02-10', '2025-01-15', '2025-02-14', '2025-03-18'),
          fc.constantFrom('A', 'B', 'C', 'D'),
          hugeness,
        ),
        {
          minLength: 1,
          maxLength: 9,
        },
      ),
      fc.constantFrom(...BRIEFS),
      fc.constantFrom(...FORMS),
      fc.constantFrom({ width: 120, height: 120 }, { width: 120 }, { width: 400 }, {}),
      async (rows, brief, form, look) => {
        const raw = await readCsv('sales', ['day,shop,net', ...rows.map((row) => row.join(','))].join('\n'), [
          { name: 'net', type: 'number' },
        ]);
        const workspace = workspaceFor(report, new Map([['sales', makeTable(raw, { id: 'sales', date: 'day' })]]));
        const drawn = await drawFigure(workspace, { id: 'f', brief: `${brief} as ${form}`, look }).catch(
          (error: unknown) => {
            expect(error).toBeInstanceOf(Problem);
            return null;
          },
        );
        if (!drawn) return;
        const { scene } = drawn;
        expect(isFiniteScene(scene)).toBe(true);
        expect(scene.marks.every(isSized)).toBe(true);
        const said = [
          scene.title,
          scene.description,
          ...scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])),
        ];
        expect(said.join(' ')).not.toMatch(/NaN|Infinity|undefined/);
      },
    ),
    { numRuns: tries(250) },
  ));

test('rows within all proportion are drawn', async () => {
  const raw = await readCsv('sales', 'day,shop,net\n2025-01-15,A,1e59\n2025-01-16,B,-1e59\n2025-02-01,C,3\n');
  const workspace = workspaceFor(report, new Map([['sales', makeTable(raw, { id: 'sales', date: 'day' })]]));
  for (const form of ['bars', 'waterfall', 'league', 'table', 'headline'])
    await drawFigure(workspace, { id: 'f', brief: `net by shop as ${form}`, look: {} });
});
