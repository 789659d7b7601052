import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../../proof/tries.fixture';
import type { ColumnLook, Look } from '../../report';
import type { Scene } from '../../scene';
import { drawnFrom } from '../drawn.fixture';
import { endsOf, moodAt, moodEdges } from './scores';

const scored = (
  scores: readonly number[],
  columns: readonly ColumnLook[],
  more: Look = {},
  name = 'help (1-5)',
  lit = '',
) =>
  drawnFrom(
    ['shop,score,net', ...scores.map((score, i) => `S${i},${score},${10 + i}`)].join('\n'),
    `net, "${name}" by shop as table${lit}`,
    {
      look: { columns, ...more },
      measures: [
        { name: 'net', table: 't', expression: 'sum(net)' },
        { name, table: 't', expression: 'avg(score)', aim: 'raise' },
      ],
      highlights: [
        { name: 'strong', on: 'value', rules: [{ id: 'r', when: { from: 11 }, encode: { ink: '#147560' } }] },
      ],
    },
  );
const legend = ({ marks }: Scene) =>
  marks.flatMap((mark) => (mark.role === 'legend' && mark.shape === 'text' ? [mark.text] : []));
const HELP = 'help (1-5)';

describe('cells of scores', () => {
  test('a bar begins where the scale of its scores does, and ends where that ends', () =>
    fc.assert(
      fc.asyncProperty(fc.array(fc.integer({ min: 10, max: 50 }), { minLength: 1, maxLength: 6 }), async (tenths) => {
        const scores = tenths.map((n) => n / 10);
        const { scene } = await scored(scores, [{ of: HELP, cell: 'bar' }]);
        const bars = scene.marks.flatMap((mark) =>
          mark.role === 'actual' && mark.shape === 'rect' && scores.includes(mark.value!) && mark.value! <= 5
            ? [mark]
            : [],
        );
        const wide = bars.map(({ value, width }) => width / (value! - 1 || NaN)).filter((one) => !Number.isNaN(one));
        for (const one of wide) expect(one).toBeCloseTo(wide[0]!, 6);
        for (const { x, value, width } of bars) {
          expect(x).toBeCloseTo(bars[0]!.x, 6);
          if (value === 1) expect(width).toBeCloseTo(0, 6);
        }
        expect(legend(scene)).toContain('help (1-5): bars 1 to 5');
      }),
      { numRuns: tries(20) },
    ));

  test('a face is no worse because others are better: its edges are of the scale, or those that were chosen, and are told', async () => {
    const low = await scored([3.31, 4.9], [{ of: HELP, cell: 'face' }]);
    expect(legend(low.scene)).toContain('help (1-5): good from 3.7, fair from 2.3');
    const chosen = await scored([3.31, 4.9], [{ of: HELP, cell: 'face', faces: [3, 4.5] }]);
    expect(legend(chosen.scene)).toContain('help (1-5): good from 4.5, fair from 3');
    const unknown = await scored([3.31, 4.9], [{ of: 'help', cell: 'face' }], {}, 'help');
    expect(legend(unknown.scene).join(' ')).toMatch(/help: good from 4\.4, fair from 3\.8, thirds of those shown/);
  });

  test('law: the edges of a scale know nothing of the values, and a better value has no worse face', () => {
    const score = fc.double({ min: 1, max: 5, noNaN: true });
    const rank = { poor: 0, fair: 1, good: 2 };
    fc.assert(
      fc.property(
        fc.array(score, { minLength: 1 }),
        score,
        score,
        fc.constantFrom('raise', 'cut', 'hold'),
        (values, a, b, aim) => {
          const measure = { name: HELP, expression: 'avg(score)', aim } as never;
          const ends = endsOf(measure, values, undefined);
          expect(ends).toEqual({ low: 1, high: 5, by: 'scores' });
          const edges = moodEdges(ends, measure, undefined);
          const [lower, higher] = [Math.min(a, b), Math.max(a, b)].map((value) => rank[moodAt(value, edges, measure)]);
          if (aim === 'cut') expect(higher).toBeLessThanOrEqual(lower!);
          else expect(higher).toBeGreaterThanOrEqual(lower!);
        },
      ),
    );
  });

  test('the drawer shows between what bars go, and on which side a face is good', async () => {
    const { columnsShown } = await import('./table');
    const shown = async (look: Partial<ColumnLook>, aim: string) => {
      const drawn = await drawnFrom('shop,score\nA,2\nB,4.5', 'score by shop as table', {
        look: { columns: [{ of: 'score', cell: 'bar', ...look }] },
        measures: [{ name: 'score', table: 't', expression: 'avg(score)', aim }],
      });
      return columnsShown(drawn, drawn.request.look, false)[0]!;
    };
    expect(await shown({}, 'raise')).toMatchObject({ ends: [0, 4.5], lessIsBetter: false });
    expect(await shown({ ends: [1, 5] }, 'raise')).toMatchObject({ ends: [1, 5] });
    expect(await shown({ cell: 'face' }, 'cut')).toMatchObject({ faces: [3.7, 2.8], lessIsBetter: true });
  });

  test('dots and tints say between what they tell apart', async () => {
    const told = async (look: Partial<ColumnLook>, name = HELP) =>
      legend((await scored([2, 4.5], [{ of: name, cell: 'dot', ...look }], {}, name)).scene);
    expect(await told({})).toContain('help (1-5): 1 to 5');
    expect(await told({ cell: 'ramp', ends: [2, 6] })).toContain('help (1-5): 2 to 6');
    expect(await told({}, 'help')).toContain('help: 2 to 4.5, the lowest and the highest shown');
  });

  test('a highlight paints whole rows, or cells of the first column, and says so', async () => {
    const lit = ', lit by strong';
    const grounds = async (paints: 'row' | 'column') => {
      const { scene } = await scored([2, 3], [], { paints }, HELP, lit);
      expect(legend(scene)).toContain('from 11');
      return scene.marks.flatMap((mark) =>
        mark.role === 'band' && mark.shape === 'rect' && mark.rule === 'r' ? [mark] : [],
      );
    };
    const [row, ...others] = await grounds('row');
    const [cell, ...more] = await grounds('column');
    expect([others, more]).toEqual([[], []]);
    expect([row!.key, cell!.key]).toEqual([{ shop: 'S1' }, { shop: 'S1' }]);
    expect(row!.width).toBeGreaterThan(2 * cell!.width);
    const { scene } = await scored([2, 3], [], {}, HELP, lit);
    expect(scene.marks.some(({ role, rule }) => role === 'band' && rule === 'r')).toBe(false);
    expect(scene.marks.some(({ role, rule }) => role === 'actual' && rule === 'r')).toBe(true);
    expect(legend(scene)).toContain('from 11');
  });
});
