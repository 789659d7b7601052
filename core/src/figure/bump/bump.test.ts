import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../../proof/tries.fixture';
import { place } from '../../ruler';
import { csvOf, dated, marksOf, world } from '../change.fixture';
import { redrawn } from '..';
import { box, drawnFrom } from '../drawn.fixture';

describe('a bump', () => {
  const ranked = (shops: number) =>
    drawnFrom(
      [
        'day,shop,net',
        ...Array.from(
          { length: shops * 3 },
          (_, i) => `2025-0${1 + Math.floor(i / shops)}-02,S${i % shops},${(i * 7) % 11}`,
        ),
      ].join('\n'),
      'rank of net by shop each month as bump',
      { date: 'day', measures: [{ name: 'net', table: 't', expression: 'sum(net)' }] },
    );
  test('has coarser steps where its own would be a scribble, says so, and keeps notes in place', async () => {
    const months = Array.from(
      { length: 24 },
      (_, m) => `${2024 + Math.floor(m / 12)}-${String((m % 12) + 1).padStart(2, '0')}`,
    );
    const lines = months.flatMap((month, m) =>
      ['A', 'B', 'C'].map((shop, s) => `${month}-03,${shop},${((m + 1) * (s + 2) * 7) % 23}`),
    );
    const at = (width: number, height: number) =>
      drawnFrom(['day,shop,net', ...lines].join('\n'), 'rank of net by shop each month as bump', {
        look: { width, height, notes: [{ text: 'strike', at: { key: { shop: 'B' }, step: '2024-08' } }] },
        date: 'day',
        calendar: { fiscalYearStart: 1, asOf: '2025-12-31' },
        measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      });
    const [small, large] = await Promise.all([at(240, 220), at(760, 400)]);
    const stepsOf = ({ scene }: typeof small) => [...new Set(marksOf(scene, 'cell').map(({ step }) => step))];
    expect(stepsOf(large)).toEqual(months);
    expect(stepsOf(small)).toEqual([
      '2024-Q1',
      '2024-Q2',
      '2024-Q3',
      '2024-Q4',
      '2025-Q1',
      '2025-Q2',
      '2025-Q3',
      '2025-Q4',
    ]);
    expect(small.scene.description).toContain('each quarter');
    // Drawn again on paper that has room for them, it has its own steps.
    const wide = redrawn(small, { ...small.request.look, width: 760, height: 400 });
    expect(stepsOf(wide)).toEqual(months);
    for (const { scene, rows } of [small, large]) {
      expect(rows.checks.filter(({ code }) => code === 'note-adrift')).toEqual([]);
      const node = marksOf(scene, 'node').find(
        ({ key, step }) => key['shop'] === 'B' && ['2024-08', '2024-Q3'].includes(step!),
      );
      const note = scene.marks.find((mark) => mark.role === 'note' && mark.key['shop'] === 'B')!;
      expect(Math.abs(box(note).x0 - box(node!).x0)).toBeLessThan(120);
    }
    // Ranks of quarters are those of what came together in them.
    const sums = new Map<string, number>();
    for (const line of lines) {
      const [day, shop, net] = line.split(',') as [string, string, string];
      const key = `${day.slice(0, 4)}-Q${Math.ceil(Number(day.slice(5, 7)) / 3)} ${shop}`;
      sums.set(key, (sums.get(key) ?? 0) + Number(net));
    }
    for (const { key, step, at: rank } of marksOf(small.scene, 'cell')) {
      const own = sums.get(`${step} ${key['shop']}`)!;
      expect(rank).toBe(1 + ['A', 'B', 'C'].filter((shop) => sums.get(`${step} ${shop}`)! > own).length);
    }
  });
  test('gives each of at most six lines an ink, at its line and its name; more have none', async () => {
    for (const shops of [2, 6, 7]) {
      const { marks } = (await ranked(shops)).scene;
      const inks = new Map(
        marks.flatMap((mark) => (mark.role === 'link' ? [[mark.key['shop'], mark.paint.stroke]] : [])),
      );
      expect(inks.size).toBe(shops);
      expect(new Set(inks.values()).size).toBe(shops > 6 ? 1 : shops);
      for (const mark of marks)
        if (mark.role === 'label' && mark.key['shop'] !== undefined)
          expect(mark.paint.fill).toBe(inks.get(mark.key['shop']));
    }
  });
});

test('in a bump the height says the rank and nothing else; ties stand beside one another', () =>
  fc.assert(
    fc.asyncProperty(world, fc.constantFrom('competition', 'dense', 'ordinal'), async (w, kind) => {
      const { scene, cells } = await drawnFrom(
        csvOf(w),
        'rank of net by shop each quarter during last 6 quarters as bump',
        dated(w, { rank: kind }),
      );
      const ruler = scene.rulers[0]!;
      const places = new Set<string>();
      for (const node of marksOf(scene, 'node')) {
        if (node.shape !== 'circle') continue;
        expect(node.cy).toBeCloseTo(place(ruler, node.value!), 6);
        const at = `${node.cx} ${node.cy}`;
        expect(places.has(at)).toBe(false);
        places.add(at);
      }
      const ranked = Array.from(cells.rank!).filter((rank) => !Number.isNaN(rank)).length;
      expect(places.size).toBe(ranked);
      if (kind === 'ordinal') {
        // Each rank is held once in each step.
        const held = Array.from(cells.rank!, (rank, i) => `${cells.steps![i]} ${rank}`).filter(
          (one) => !one.endsWith('NaN'),
        );
        expect(new Set(held).size).toBe(held.length);
      }
    }),
    { numRuns: tries(25) },
  ));
