import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tidy } from '../number';
import { bandCentre, bandRuler, fitRuler, place, valueAt, type Fit } from '.';
import { tries } from '../proof/tries.fixture';

const value = fc.oneof(
  fc.double({ min: -1e12, max: 1e12, noNaN: true }).map((x) => (Math.abs(x) < 1e-200 ? 0 : x)),
  fc.integer({ min: -1000, max: 1000 }),
  fc.double({ min: 1e-9, max: 1e-3, noNaN: true }),
);
const fit = fc.constantFrom<Fit>('zero', 'symmetric', 'tight');
const label = 40;

const fitted = (values: number[], f: Fit, width = 600) =>
  fitRuler({ values, fit: f, range: [0, width], extent: () => label, clearance: 10 });

test('a ruler shows every value, its ends fall on ticks, and labels do not touch', () => {
  fc.assert(
    fc.property(
      fc.array(value, { minLength: 1, maxLength: 20 }),
      fit,
      fc.integer({ min: 120, max: 2000 }),
      (values, f, width) => {
        const ruler = fitted(values, f, width);
        const [low, high] = ruler.domain;
        for (const v of values) expect(v >= low && v <= high).toBe(true);
        expect([ruler.ticks[0], ruler.ticks[ruler.ticks.length - 1]]).toEqual([low, high]);
        for (let i = 1; i < ruler.ticks.length; i++) {
          const apart = place(ruler, ruler.ticks[i]!) - place(ruler, ruler.ticks[i - 1]!);
          if (ruler.ticks.length > 3) expect(apart).toBeGreaterThanOrEqual(label + 10 - 1e-6);
        }
        if (f === 'zero') expect(low <= 0 && high >= 0).toBe(true);
        if (f === 'symmetric') expect(low).toBe(-high);
      },
    ),
    { numRuns: tries(500) },
  );
});

test('ticks stand at steps of 1, 2, 2.5 or 5 times a power of ten, written without dust', () => {
  fc.assert(
    fc.property(fc.array(value, { minLength: 1, maxLength: 5 }), (values) => {
      const { ticks } = fitted(values, 'zero');
      const step = (ticks[ticks.length - 1]! - ticks[0]!) / (ticks.length - 1);
      const mantissa = step / 10 ** Math.floor(Math.log10(step) + 1e-9);
      expect([1, 2, 2.5, 5, 10].some((m) => Math.abs(mantissa - m) < 1e-6)).toBe(true);
      for (const tick of ticks) expect(String(tick).replace(/e.*$/, '').length).toBeLessThanOrEqual(16);
    }),
  );
  expect(fitted([0.1, 0.3], 'zero').ticks).toContain(0.3);
});

test('ticks are those of a plain reading of the rule, over a million domains', () => {
  // The finest step of 1, 2, 2.5 or 5 times a power of ten at which labels of 40 pixels stand 10 apart on 600 pixels.
  let state = 20_260_318;
  const next = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
  let different = 0;
  for (let run = 0; run < tries(40_000); run++) {
    const unit = 10 ** (Math.floor(next() * 22) - 11);
    const whole = () => Math.round((next() - (run % 3 === 0 ? 0.5 : 0)) * 10 ** Math.floor(next() * 7));
    const [a, b] = [tidy(whole() * unit), tidy(whole() * unit)] as [number, number];
    const [low, high] = [Math.min(0, a, b), Math.max(0, a, b)];
    const { domain, ticks } = fitted([a, b], 'zero');
    if (high === low) {
      if (domain[0] !== 0 || domain[1] !== 1) different++;
      continue;
    }
    let wanted: readonly [number, number, number] | null = null;
    for (let power = Math.floor(Math.log10(high - low)) - 3; !wanted; power++)
      for (const mantissa of [1, 2, 2.5, 5]) {
        const step = mantissa * 10 ** power;
        const [from, to] = [Math.floor(low / step + 1e-7), Math.ceil(high / step - 1e-7)];
        if (600 / (to - from) >= 50) {
          wanted = [from * step, to * step, to - from + 1];
          break;
        }
      }
    const near = (x: number, y: number) => Math.abs(x - y) <= 1e-9 * (high - low);
    if (!near(domain[0], wanted[0]) || !near(domain[1], wanted[1]) || ticks.length !== wanted[2]) different++;
  }
  expect(different).toBe(0);
});

test('law: no finer step would do, and of far ends each tick is the decimal number nearest to it', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: -300, max: 300 }).chain((tens) =>
        fc.record({
          values: fc.array(
            fc.integer({ min: 1, max: 9999 }).map((n) => Number(`${n}e${tens / 10 > 25 ? 25 : Math.round(tens / 10)}`)),
            { minLength: 2, maxLength: 6 },
          ),
          width: fc.integer({ min: 200, max: 1200 }),
        }),
      ),
      ({ values, width }) => {
        const { ticks, domain } = fitted(values, 'zero', width);
        const high = Math.max(...values);
        const step = ticks[1]! - ticks[0]!;
        const exponent = Math.floor(Math.log10(step) + 1e-9);
        for (const [k, tick] of ticks.entries())
          expect(tick).toBe(Number(`${tidy((k * step) / 10 ** exponent)}e${exponent}`));
        expect(domain).toEqual([0, ticks.at(-1)]);
        // Every finer step has its labels too near to one another.
        for (const finer of [1, 2, 2.5, 5].flatMap((m) => [-2, -1, 0].map((e) => Number(`${m}e${exponent + e}`)))) {
          if (finer >= step * (1 - 1e-9)) continue;
          const count = Math.ceil(tidy(high / finer));
          expect(width / count).toBeLessThan(label + 10);
        }
      },
    ),
    { numRuns: tries(400) },
  ));

test('nothing, one value, and only zero still make a ruler', () => {
  // Values that differ in their last digits only are one value to a ruler.
  const close = fitted([1.0000000000000007e-9, 1.000000000000003e-9], 'tight');
  expect(close.domain[0] < 1e-9 && close.domain[1] > 1.1e-9 && close.ticks.length > 2).toBe(true);
  const [from, to] = fitRuler({
    values: [3],
    fit: 'fixed',
    domain: [1e9, 1e9 + 1e-6],
    range: [0, 500],
    extent: () => 30,
    clearance: 5,
  }).domain;
  expect(to - from).toBeGreaterThan(1);
  expect(fitted([], 'zero').domain).toEqual([0, 1]);
  expect(fitted([0], 'tight').domain).toEqual([0, 1]);
  const [low, high] = fitted([5], 'tight').domain;
  expect(low < 5 && high > 5).toBe(true);
  expect(
    fitRuler({ values: [3, 900], fit: 'fixed', domain: [0, 101], range: [0, 500], extent: () => 30, clearance: 5 })
      .domain,
  ).toEqual([0, 101]);
});

test('a place on the ruler reads back as its value', () => {
  fc.assert(
    fc.property(fc.double({ min: -100, max: 100, noNaN: true }), (v) => {
      const ruler = { domain: [-100, 100] as const, range: [37, 911] as const };
      expect(valueAt(ruler, place(ruler, v))).toBeCloseTo(v, 9);
    }),
  );
});

test('bands of categories: s = L/(n + 2·outer − inner), t = s·(1 − inner)', () => {
  const bands = bandRuler(4, [10, 110], 0.25, 0.5);
  expect(bands.step).toBeCloseTo(100 / 4.75, 12);
  expect(bands.thickness).toBeCloseTo(bands.step * 0.75, 12);
  expect(bandCentre(bands, 3) - bandCentre(bands, 2)).toBeCloseTo(bands.step, 12);
  // As much room behind the last as before the first.
  expect(110 - (bandCentre(bands, 3) + bands.thickness / 2)).toBeCloseTo(
    bandCentre(bands, 0) - bands.thickness / 2 - 10,
    9,
  );
});
