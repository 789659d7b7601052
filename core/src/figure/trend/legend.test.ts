import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tries } from '../../proof/tries.fixture';
import type { Look } from '../../report';
import type { Mark } from '../../scene';
import { drawnFrom } from '../drawn.fixture';

const world = fc.record({
  days: fc.constantFrom(3, 12, 40, 100),
  shops: fc.constantFrom(1, 3),
  against: fc.constantFrom('', ' against goal', ' against outlook'),
  draw: fc.constantFrom<NonNullable<Look['draw']> | undefined>(undefined, 'line', 'bars', 'both', 'pairs'),
  smooth: fc.constantFrom(undefined, 3),
  trend: fc.boolean(),
  panels: fc.boolean(),
});

/** How a mark is painted, without how strongly: a pattern and a dash are what a reader sees first. */
const seen = ({ shape, paint }: Mark) =>
  [
    shape === 'circle' ? 'dot' : shape === 'rect' ? 'bar' : paint.stroke && !paint.fill ? 'line' : shape,
    shape === 'circle' || shape === 'rect' ? paint.fill : paint.stroke,
    paint.dash?.join(' ') ?? '',
    paint.pattern ?? '',
  ].join('|');

test('law: the legend of a trend is its picture: each sample is drawn, once, as it stands there', () =>
  fc.assert(
    fc.asyncProperty(world, async ({ days, shops, against, draw, smooth, trend, panels }) => {
      const lines = Array.from({ length: days }, (_, i) => {
        const day = new Date(Date.UTC(2024, 11, 20 + i)).toISOString().slice(0, 10);
        return Array.from({ length: shops }, (_s, s) => `${day},S${s},${20 + ((i * 7 + s) % 11)},${22 + (i % 5)}`);
      }).flat();
      const by = shops > 1 ? ' by shop' : '';
      const { scene } = await drawnFrom(
        ['day,shop,net,goal', ...lines].join('\n'),
        `net${by} each day${against} as trend`,
        {
          date: 'day',
          look: {
            ...(draw ? { draw } : {}),
            ...(smooth ? { smooth } : {}),
            ...(trend ? { trend: true } : {}),
            ...(panels && shops > 1 ? { panels: 'shop' } : {}),
          },
          measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
          benchmarks: [
            { name: 'goal', kind: 'expression', expression: 'sum(goal)' },
            { name: 'outlook', kind: 'forecast', method: 'average of last k', k: 3 },
          ],
        },
      );
      const plot = new Set(scene.marks.filter(({ role }) => !['legend', 'cell'].includes(role)).map(seen));
      const legend = scene.marks.filter(({ role }) => role === 'legend');
      for (const mark of legend) {
        expect(mark.shape === 'path' && mark.role === 'badge').toBe(false);
        if (mark.shape === 'text') continue;
        expect([seen(mark), plot.has(seen(mark))]).toEqual([seen(mark), true]);
      }
      expect(scene.marks.some(({ role }) => role === 'badge')).toBe(false);
      const words = legend.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
      expect(new Set(words).size).toBe(words.length);
    }),
    { numRuns: tries(60) },
  ));
