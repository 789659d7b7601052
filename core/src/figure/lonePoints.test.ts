import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readCsv } from '../reading';
import { checkReport, type Look } from '../report';
import { legsOf, PAPER, type Scene } from '../scene';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { drawFigure } from '.';

// A step that has a value is seen, whether or not the steps beside it have one.

const MONTHS = 14;
const filled = fc
  .array(fc.boolean(), { minLength: MONTHS, maxLength: MONTHS })
  .filter((list) => list.filter(Boolean).length > 1);

async function drawn(shops: Readonly<Record<string, readonly boolean[]>>, brief: string, look: Look = {}) {
  const lines = Object.entries(shops).flatMap(([shop, months]) =>
    months.flatMap((has, m) =>
      has ? [`${new Date(Date.UTC(2024, m, 28)).toISOString().slice(0, 10)},${shop},${100 + ((m * 37) % 50)}`] : [],
    ),
  );
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 't', source: { file: 't.csv' }, date: 'day' }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  });
  const table = makeTable(await readCsv('t', ['day,shop,net', ...lines].join('\n')), { id: 't', date: 'day' });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  return (await drawFigure({ source, report, vocabulary }, { id: 'f', brief, look })).scene;
}

/** Places on the lines of a member that are seen: ends of segments, and dots. */
function seen({ marks }: Scene, shop: string | null): Set<number> {
  const places = new Set<number>();
  for (const mark of marks) {
    if (shop !== null && mark.key.shop !== shop) continue;
    if (mark.shape === 'circle' && mark.role !== 'legend') places.add(Math.round(mark.cx * 100));
    if (mark.shape !== 'path' || mark.role !== 'path') continue;
    let from: number | null = null;
    for (const { command, to } of legsOf(mark.d)) {
      if (command === 'L') [from, to[0]!].forEach((x) => places.add(Math.round(x! * 100)));
      from = to[0]!;
    }
  }
  return places;
}

test.each([
  ['lines', 'net by shop each month as trend'],
  ['running sums', 'cumulative net by shop each month as pace'],
])('in %s of several members', async (_, brief) => {
  await fc.assert(
    fc.asyncProperty(filled, filled, async (a, b) => {
      const scene = await drawn({ A: a, B: b }, brief);
      for (const [shop, months] of [
        ['A', a],
        ['B', b],
      ] as const)
        expect(seen(scene, shop).size).toBeGreaterThanOrEqual(months.filter(Boolean).length);
    }),
    { numRuns: 25 },
  );
});

test('in small lines: those in the cells of a table, and the one below a number', async () => {
  await fc.assert(
    fc.asyncProperty(filled, async (months) => {
      const count = months.filter(Boolean).length;
      const table = await drawn({ A: months }, 'net by shop each month as table', {
        columns: [{ of: 'net', cell: 'spark line' }],
      });
      expect(seen(table, 'A').size).toBeGreaterThanOrEqual(count);
      // By the month, where there are more than 190 days.
      if (months.lastIndexOf(true) - months.indexOf(true) < 7) return;
      expect(seen(await drawn({ A: months }, 'net as headline', { spark: true }), null).size).toBe(count);
    }),
    { numRuns: 25 },
  );
});

test('a step that still runs and has none beside it is a ring, one that is over a dot', async () => {
  // B’s last rows are of a month that ends three days later.
  const months = (...filled: number[]) => Array.from({ length: MONTHS }, (_, m) => filled.includes(m));
  const { marks } = await drawn({ A: months(0, 1, 2), B: months(0, 2, 4) }, 'net by shop each month as trend');
  const fills = marks.flatMap((mark) =>
    mark.shape === 'circle' && mark.role === 'path' && mark.key.shop === 'B' ? [mark.paint.fill] : [],
  );
  expect(fills).toHaveLength(3);
  expect(fills.map((fill) => fill === PAPER)).toEqual([false, false, true]);
});
