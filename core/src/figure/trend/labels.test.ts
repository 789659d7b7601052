import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tries } from '../../proof/tries.fixture';
import { textWidth } from '../../scene';
import { box, drawnFrom } from '../drawn.fixture';

test('a value that is named stands clear of the rule its bar is held against', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 1000 }), fc.integer({ min: -120, max: 120 })), {
        minLength: 3,
        maxLength: 12,
      }),
      fc.boolean(),
      async (months, negative) => {
        const sign = negative ? -1 : 1;
        const lines = months.map(
          ([net, more], i) => `2025-${String(i + 1).padStart(2, '0')}-05,${sign * net},${sign * (net + more)}`,
        );
        const { scene } = await drawnFrom(
          ['day,net,goal', ...lines].join('\n'),
          'net each month against goal as trend',
          {
            date: 'day',
            look: { draw: 'bars', width: 760, height: 380 },
            measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
            benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
          },
        );
        const rules = scene.marks.filter(({ role, shape }) => role === 'benchmark' && shape === 'line');
        const named = scene.marks.flatMap((mark) =>
          mark.shape === 'text' && mark.step !== null && mark.value !== null ? [mark] : [],
        );
        for (const text of named)
          for (const rule of rules) {
            if (rule.step !== text.step) continue;
            const { y0 } = box(rule);
            const isClear = y0 <= text.y - 0.72 * text.size || y0 >= text.y + 1;
            if (!isClear) throw new Error(`“${text.text}” at ${text.y} is crossed by the rule at ${y0}`);
            expect(textWidth(text.text, text.size, text.weight)).toBeGreaterThan(0);
          }
      },
    ),
    { numRuns: tries(60) },
  ));
