import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { combine, decimalsForParts, decimalsOf, difference, EXACT_LIMIT, finer, power, scaled, tidy, total } from '.';

/** Whole units of the last decimal place, as a sum in any size. */
const units = (values: readonly number[], decimals: number) =>
  values.reduce((sum, value) => sum + BigInt(Math.round(value * 10 ** decimals)), 0n);

const amount = (decimals: number) =>
  fc.integer({ min: -900_000_000_000, max: 900_000_000_000 }).map((whole) => whole / 10 ** decimals);

describe('sums at known decimals', () => {
  test.each([0, 1, 2, 3, 4])(
    'are those of whole units at %d decimals, in any order, blanks passed over',
    (decimals) => {
      fc.assert(
        fc.property(fc.array(fc.oneof(amount(decimals), fc.constant(NaN)), { maxLength: 60 }), (values) => {
          const filled = values.filter((value) => !Number.isNaN(value));
          const sum = total(values, decimals);
          if (filled.length === 0) {
            expect(sum).toBeNaN();
            return;
          }
          const wanted = units(filled, decimals);
          expect(sum).toBe(Number(wanted) / 10 ** decimals);
          expect(total([...values].reverse(), decimals)).toBe(sum);
        }),
        { numRuns: tries(200) },
      );
    },
  );

  test('beyond what integers in a double hold, digits that are lost are carried beside the sum', () => {
    const large = EXACT_LIMIT / 100;
    expect(total([large, large, 0.01, -large, -large], 2)).toBeCloseTo(0.01, 6);
    expect(total([1e15, 1e15, 1e15], 0)).toBe(3e15);
  });

  test('of two are exact, and a difference is a sum with the sign turned', () => {
    fc.assert(
      fc.property(amount(2), amount(2), (a, b) => {
        expect(combine(a, b, 2)).toBe(Number(units([a, b], 2)) / 100);
        expect(difference(a, b, 2)).toBe(combine(a, -b, 2));
      }),
      { numRuns: tries(300) },
    );
    expect([combine(NaN, 1, 2), difference(1, NaN, null)]).toEqual([NaN, NaN]);
  });
});

test('binary dust is dropped, and numbers with 15 digits are left as they are', () => {
  expect([tidy(0.1 + 0.2), tidy(1.1 * 3), tidy(-0.7 - 0.1)]).toEqual([0.3, 3.3, -0.8]);
  expect([tidy(NaN), tidy(Infinity), tidy(-Infinity), tidy(0)]).toEqual([NaN, Infinity, -Infinity, 0]);
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 6 }), (whole, decimals) => {
      const value = Number(`${whole}e-${decimals}`);
      expect(tidy(value)).toBe(value);
      expect(tidy(value * 3)).toBe(Number(`${whole * 3}e-${decimals}`));
    }),
    { numRuns: tries(300) },
  );
});

test('decimals: how many a number has, the finer of two, and their power', () => {
  expect([1, 1.5, 1.25, 0.001, 0.0001, -2.5].map(decimalsOf)).toEqual([0, 1, 2, 3, 4, 1]);
  expect(decimalsOf(1 / 3)).toBeNull();
  expect([finer(1, 3), finer(null, 2), finer(2, null), finer(0, 0)]).toEqual([3, null, null, 0]);
  expect([0, 1, 2, 3, 4].map(power)).toEqual([1, 10, 100, 1000, 10_000]);
  expect([scaled(1.005, 3), scaled(-0.07, 2), scaled(1.15, 2)]).toEqual([1005, -7, 115]);
});

test('parts of amounts are held at decimals that leave the amounts together within 15 digits, and add up to them', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 100_000_000_000 }),
      fc.integer({ min: 0, max: 4 }),
      fc.integer({ min: 1, max: 12 }),
      (whole, decimals, parts) => {
        const amount = whole / 10 ** decimals;
        const held = decimalsForParts(amount, decimals);
        expect(held).toBeGreaterThanOrEqual(decimals);
        expect(Math.round(amount * 10 ** held)).toBeLessThanOrEqual(1e15);
        const each = Math.round((amount / parts) * 10 ** held);
        const last = Math.round(amount * 10 ** held) - each * (parts - 1);
        const cut = [...Array.from({ length: parts - 1 }, () => each), last].map((one) => one / 10 ** held);
        expect(total(cut, held)).toBeCloseTo(amount, Math.min(held, 9));
      },
    ),
    { numRuns: tries(300) },
  );
});
