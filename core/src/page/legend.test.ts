import fc from 'fast-check';
import { expect, test } from 'vitest';
import { drawFigure } from '../figure';
import { pagePptx } from '../office';
import { tries } from '../proof/tries.fixture';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import type { Scene } from '../scene';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { drawPage, SHEET } from '.';

const LINES = [
  'day,shop,net',
  '2025-01-05,North,100',
  '2025-02-05,South,300',
  '2026-01-05,North,250',
  '2026-02-05,East,50',
  '2026-03-05,South,80',
];
const FIGURES = {
  bullets: 'net by shop during fiscal 2026 against last year as bullet',
  bars: 'net by shop during fiscal 2026 against last year as bars',
  shorter: 'net by shop during fiscal 2026 against last year as bullet, keep 1 highest',
  course: 'cumulative net each month during fiscal 2026 against last year as pace',
  steps: 'net by shop during fiscal 2026 against last year as waterfall',
  ranks: 'rank of net by shop each month during fiscal 2026 as bump',
  gone: 'net by nothing as bars',
};

async function desk() {
  const report = checkReport({
    boldRuler: 1,
    name: 'Spring',
    calendar: { asOf: '2026-03-31' },
    tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: 'day' }],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
    figures: Object.entries(FIGURES).map(([id, brief]) => ({ id, brief })),
  });
  const sales = makeTable(await readCsv('sales', LINES.join('\n')), { id: 'sales', date: 'day' });
  return workspaceFor(report, new Map([['sales', sales]]));
}

const legendOf = ({ marks }: Scene) =>
  marks.flatMap((mark) => (mark.role === 'legend' && mark.shape === 'text' ? [mark.text] : []));

const row = fc.record(
  {
    blocks: fc.array(fc.record({ figure: fc.constantFrom(...Object.keys(FIGURES)), share: fc.constant(4) }), {
      minLength: 1,
      maxLength: 3,
    }),
    height: fc.constantFrom(150, 220, 340),
  },
  { requiredKeys: ['blocks'] },
);

test('what legends of a page share stands once, at its foot; what a figure has of its own stays; nothing is lost', async () => {
  const workspace = await desk();
  await fc.assert(
    fc.asyncProperty(fc.array(row, { minLength: 1, maxLength: 3 }), fc.constantFrom(380, 1160), async (rows, width) => {
      const page = { id: 'p', title: 'P', filters: [], rows };
      const { placed } = await drawPage(workspace, page, { width });
      const foot = placed.find(({ kind }) => kind === 'foot');
      const atFoot = foot ? legendOf(foot.scene) : [];
      const figures = placed.filter(({ kind }) => kind === 'figure');
      const alone = await Promise.all(
        figures.map(async ({ figure }) =>
          drawFigure(
            workspace,
            workspace.report.figures.find(({ id }) => id === figure)!,
          ),
        ),
      );
      const counts = new Map<string, number>();
      for (const { legend } of alone) for (const key of legend.keys()) counts.set(key, (counts.get(key) ?? 0) + 1);
      const isStacked = width < SHEET.narrow;
      if (isStacked) expect(atFoot).toEqual([]);
      figures.forEach(({ scene }, i) => {
        // Long words go on in further lines.
        const own = legendOf(scene).join(' ');
        for (const [key, { entry }] of alone[i]!.legend) {
          const isShared = counts.get(key)! > 1 && !isStacked;
          if (isShared) expect(atFoot.filter((words) => words === entry.words).length).toBeGreaterThan(0);
          else expect(own.includes(entry.words) || atFoot.includes(entry.words)).toBe(true);
        }
      });
      const shared = [...counts].filter(([, count]) => count > 1);
      if (!isStacked) {
        expect(atFoot.length).toBeGreaterThanOrEqual(shared.length);
        for (const { drawn } of figures)
          for (const [key, { isTold }] of drawn!.legend) if (counts.get(key)! > 1) expect(isTold).toBe(true);
      }
      // Drawn again, with what is known of it by now, it is the same.
      const again = await drawPage(workspace, page, { width });
      expect(again.placed.map(({ scene }) => scene)).toEqual(placed.map(({ scene }) => scene));
    }),
    { numRuns: tries(30) },
  );
});

test('two figures that share all of it say nothing of it themselves; on a slide each says all', async () => {
  const workspace = await desk();
  const blocks = ['bullets', 'shorter'].map((figure) => ({ figure, share: 6 }));
  const page = await drawPage(workspace, { id: 'p', title: 'P', filters: [], rows: [{ blocks }] });
  const [first, second, foot] = page.placed.filter(({ kind }) => kind === 'figure' || kind === 'foot');
  expect([legendOf(first!.scene).length, legendOf(second!.scene)]).toEqual([1, []]);
  expect(legendOf(foot!.scene)).toContain('last year');
  expect(new Set(legendOf(foot!.scene)).size).toBe(legendOf(foot!.scene).length);
  const pictured: Scene[] = [];
  await pagePptx(page, (scene) => {
    pictured.push(scene);
    return Promise.resolve({ svg: '<svg/>', png: new Uint8Array() });
  });
  for (const scene of pictured) expect(legendOf(scene)).toContain('last year');
});
