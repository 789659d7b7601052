import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { gapOf, gapPercentOf, newOrGone, standingCode, standingOf } from '.';
import { STANDINGS } from './cells';
import { comesTo } from './compare';

// Gaps and standings, from docs/calculations.md.

const cents = fc.integer({ min: -9_999_999, max: 9_999_999 });

test('law: a gap of cents is exact, and its share is of what the benchmark is without its sign', () =>
  fc.assert(
    fc.property(cents, cents, (is, was) => {
      const gap = gapOf(is / 100, was / 100, 2, 2);
      expect(gap).toBe((is - was) / 100);
      const share = gapPercentOf(gap, was / 100);
      if (was === 0) expect(share).toBeNaN();
      else expect((share * Math.abs(was)) / 100).toBeCloseTo((is - was) / 100, 4);
      // Whoever is further above it than before is ahead of it, also of a loss.
      if (was !== 0) expect(Math.sign(share)).toBe(Math.sign(is - was));
    }),
    { numRuns: tries(500) },
  ));

test('of numbers that are not exact a difference that only computing leaves is none, and a real one stays', () => {
  expect(gapOf(0.1 + 0.2, 0.3, null, null)).toBe(0);
  expect(gapOf(-3e9 * (1 + 5e-13), -3e9, null, null)).toBe(0);
  expect(gapOf(1e6 * (1 + 3e-12), 1e6, null, null)).toBeCloseTo(3e-6, 8);
  expect(gapOf(5, 0, null, null)).toBe(5);
  expect(gapOf(0, -5, null, null)).toBe(5);
  expect(gapOf(1e-13, 0, null, 2)).toBe(1e-13);
  // Numbers with decimals keep the last of them, however small it is beside them.
  expect(gapOf(90_000_000_000_000.1, 90_000_000_000_000, 1, 1)).toBe(0.1);
  expect(gapOf(NaN, 5, 2, 2)).toBeNaN();
});

describe('a standing', () => {
  test.each([
    [0.5, 'raise', 'ahead'],
    [-0.5, 'raise', 'behind'],
    [0.5, 'cut', 'behind'],
    [-0.5, 'cut', 'ahead'],
    [0.5, 'hold', 'behind'],
    [-0.5, 'hold', 'behind'],
    [0, 'raise', 'level'],
    [0, 'cut', 'level'],
    [0, 'hold', 'level'],
    [NaN, 'raise', null],
  ] as const)('of a gap of %s with the aim %s is %s', (gap, aim, standing) => {
    expect(standingOf(gap, 10, aim, 0)).toBe(standing);
    expect(standingOf(gap, 0, aim, 0.2)).toBe(standing);
    expect(standingCode(standing)).toBe(standing === null ? 0 : STANDINGS.indexOf(standing) + 1);
  });

  test('is level up to and with its tolerance, a share of the benchmark without its sign', () => {
    for (const benchmark of [10, -10])
      for (const aim of ['raise', 'cut', 'hold'] as const) {
        expect([1, -1].map((gap) => standingOf(gap, benchmark, aim, 0.1))).toEqual(['level', 'level']);
        expect([1.01, -1.01].map((gap) => standingOf(gap, benchmark, aim, 0.1))).not.toContain('level');
      }
    // A tenth of 3 is 0.3 to the last digit, not the 0.30000000000000004 of a computer.
    expect(standingOf(0.3, 3, 'raise', 0.1)).toBe('level');
    expect(standingOf(0.30000000000000004, 3, 'raise', 0.1)).toBe('ahead');
  });
});

test.each([
  [5, NaN, 'new'],
  [5, 0, 'new'],
  [-5, 0, 'new'],
  [1, NaN, 'new'],
  [0, 5, 'gone'],
  [NaN, 1, 'gone'],
  [NaN, -5, 'gone'],
  [0, NaN, null],
  [NaN, NaN, null],
  [0, 0, null],
  [1, 5, null],
  [5, 1, null],
])('%s now and %s then is %s', (is, was, what) => expect(newOrGone(is, was)).toBe(what));

test('values come to a whole where nothing but computing parts them', () => {
  expect(comesTo([0.1, NaN, 0.2], 0.3, null)).toBe(true);
  expect(comesTo([0.1, 0.2], 0.3 + 1e-9, null)).toBe(false);
  expect(comesTo([5, -5, 1e-9], 0, null)).toBe(false);
  expect(comesTo([], 0, 2)).toBe(true);
  expect(comesTo([NaN], 0.01, 2)).toBe(false);
});
