import { expect, test } from 'vitest';
import { checkReport } from '../report';
import { AHEAD, BAND_TINTS, BEHIND, encode, highlightFor, INK, LEVEL, QUIET } from '.';

const report = (highlights: object[] = []) => checkReport({ boldRuler: 1, name: 'x', highlights });

test('without a highlight of its own a report paints standings by ink and badge', () => {
  const highlight = highlightFor(report(), null);
  expect(encode(highlight, 'ahead')).toEqual({ ink: AHEAD, badge: 'up', rule: 'ahead' });
  expect(encode(highlight, 'level')).toEqual({ ink: LEVEL, badge: 'level', rule: 'level' });
  expect(encode(highlight, 'behind')).toEqual({ ink: BEHIND, badge: 'down', rule: 'behind' });
  expect(encode(highlight, null)).toEqual({ ink: INK, badge: null, rule: null });
});

test('the first rule that is on and fits paints', () => {
  const rule = (id: string, ink: string, on: boolean) => ({ id, when: { standing: 'behind' }, encode: { ink }, on });
  const own = report([
    {
      name: 'loud',
      on: 'standing',
      rules: [rule('off', '#000000', false), rule('first', '#AA0000', true), rule('second', '#BB0000', true)],
    },
  ]);
  expect(encode(highlightFor(own, 'loud'), 'behind')).toEqual({ ink: '#AA0000', badge: null, rule: 'first' });
  expect(encode(highlightFor(own, 'loud'), 'ahead').rule).toBeNull();
});

/** Relative luminance and contrast after WCAG 2.2. */
function contrast(a: string, b: string): number {
  const light = (hex: string) => {
    const [r, g, bl] = [1, 3, 5].map((i) => {
      const c = parseInt(hex.slice(i, i + 2), 16) / 255;
      return c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    }) as [number, number, number];
    return 0.2126 * r + 0.7152 * g + 0.0722 * bl;
  };
  const [x, y] = [light(a), light(b)].sort((p, q) => q - p) as [number, number];
  return (x + 0.05) / (y + 0.05);
}

test('every ink that writes on paper has a contrast of 4.5, and bands grow lighter toward the best', () => {
  for (const ink of [INK, QUIET, AHEAD, BEHIND, LEVEL]) expect(contrast(ink, '#FAFAF7')).toBeGreaterThanOrEqual(4.5);
  for (const tints of Object.values(BAND_TINTS)) {
    for (let i = 1; i < tints.length; i++)
      expect(contrast(INK, tints[i]!)).toBeGreaterThan(contrast(INK, tints[i - 1]!));
  }
});
