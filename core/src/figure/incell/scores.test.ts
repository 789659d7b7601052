import fc from 'fast-check';
import { expect, test } from 'vitest';
import { contrast, textOn } from '../../highlight';
import { inkBetween } from './scores';

const channels = (ink: string) => [1, 3, 5].map((at) => parseInt(ink.slice(at, at + 2), 16));
/** Red more than green is the side of what is behind, green more than red that of what is ahead. */
const side = (ink: string) => Math.sign(channels(ink)[1]! - channels(ink)[0]!);
const amount = fc.double({ min: 0.2, max: 1, noNaN: true });

test('law: the inks of a column part at zero, the worse side by the aim, one scale for both, and letters can be read on them', () => {
  fc.assert(
    fc.property(amount, amount, fc.double({ min: 0.1, max: 5000, noNaN: true }), (a, b, most) => {
      const [low, high] = [-a * most, b * most];
      const strongest = Math.max(-low, high);
      for (const [aim, better] of [
        ['raise', 1],
        ['cut', -1],
      ] as const) {
        expect(side(inkBetween(-strongest, low, high, aim))).toBe(-better);
        expect(side(inkBetween(strongest, low, high, aim))).toBe(better);
        // As far below as above is as strong.
        const [under, over] = [-a, a].map((part) => inkBetween(part * strongest, low, high, aim));
        expect([side(under!), side(over!)]).toEqual([-better, better]);
        for (const value of [low, low / 2, 0, high / 2, high]) {
          const ink = inkBetween(value, low, high, aim);
          expect(contrast(ink, textOn(ink))).toBeGreaterThanOrEqual(4.5);
        }
      }
      // What is to be held is as strong on both sides, and neither red nor green.
      for (const part of [a, b])
        expect(inkBetween(-part * strongest, low, high, 'hold')).toBe(inkBetween(part * strongest, low, high, 'hold'));
      const [red, green, blue] = channels(inkBetween(strongest, low, high, 'hold'));
      expect(Math.max(red!, green!, blue!) - Math.min(red!, green!, blue!)).toBeLessThan(40);
      // A column of all the same side has one ink, the darker the higher.
      const [light, dark] = [inkBetween(0, 0, high), inkBetween(high, 0, high)].map((ink) =>
        channels(ink).reduce((sum, n) => sum + n, 0),
      );
      expect(dark!).toBeLessThan(light!);
    }),
  );
});
