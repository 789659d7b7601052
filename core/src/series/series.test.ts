import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  backtest,
  forecast,
  holtWinters,
  leastSquares,
  movingMean,
  predict,
  smoothedWith,
  studentBoth,
  studentCdf,
} from '.';
import { tries } from '../proof/tries.fixture';

/** y and x of the reference data set “Norris” of the NIST Statistical Reference Datasets (linear regression). */
const NORRIS =
  '0.1 0.2 338.8 337.4 118.1 118.2 888.0 884.6 9.2 10.1 228.1 226.5 668.5 666.3 998.5 996.3 449.1 448.6 778.9 777.0 559.2 558.2 0.3 0.4 0.1 0.6 778.1 775.5 668.8 666.9 339.3 338.0 448.9 447.5 10.8 11.6 557.7 556.0 228.3 228.1 998.0 995.8 888.8 887.6 119.6 120.2 0.3 0.3 0.6 0.3 557.6 556.8 339.3 339.1 888.0 887.2 998.5 999.0 778.9 779.0 10.2 11.1 117.6 118.3 228.9 229.2 668.4 669.1 449.2 448.9 0.2 0.5'
    .split(' ')
    .map(Number);
/** Monthly totals of airline passengers 1949–1960 in thousands (Box, Jenkins and Reinsel, Series G). */
const SERIES_G =
  '112 118 132 129 121 135 148 148 136 119 104 118 115 126 141 135 125 149 170 170 158 133 114 140 145 150 178 163 172 178 199 199 184 162 146 166 171 180 193 181 183 218 230 242 209 191 172 194 196 196 236 235 229 243 264 272 237 211 180 201 204 188 235 227 234 264 302 293 259 229 203 229 242 233 267 269 270 315 364 347 312 274 237 278 284 277 317 313 318 374 413 405 355 306 271 306 315 301 356 348 355 422 465 467 404 347 305 336 340 318 362 348 363 435 491 505 404 359 310 337 360 342 406 396 420 472 548 559 463 407 362 405 417 391 419 461 472 535 622 606 508 461 390 432'
    .split(' ')
    .map(Number);

test('least squares reproduce the certified values of a reference data set to twelve digits', () => {
  const line = leastSquares(
    NORRIS.filter((_, i) => i % 2 === 1),
    NORRIS.filter((_, i) => i % 2 === 0),
  )!;
  for (const [ours, certified] of [
    [line.intercept, -0.262323073774029],
    [line.slope, 1.00211681802045],
    [line.deviation, 0.884796396144373],
    [line.rSquared, 0.999993745883712],
  ] as const)
    expect(Math.abs(ours / certified - 1)).toBeLessThan(1e-12);
});

test('a line through points that lie on one is that line, wherever they lie, and blanks are passed over', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: -1000, max: 1000 }),
      fc.integer({ min: -1e6, max: 1e6 }),
      fc.integer({ min: 3, max: 60 }),
      (slope, intercept, n) => {
        const x = Array.from({ length: n }, (_, i) => i + 1);
        const y = x.map((step, i) => (i === 1 ? NaN : intercept + slope * step));
        const line = leastSquares(x, y)!;
        expect(line.slope).toBeCloseTo(slope, 7);
        expect(line.points).toBe(n - 1);
        expect(predict(line, n + 1).value).toBeCloseTo(intercept + slope * (n + 1), 4);
      },
    ),
  ));

test('Student’s distribution has the quantiles of the tables', () => {
  // 97.5 per cent points for 1, 2, 5, 10, 30 degrees of freedom, and the normal one.
  const table: [number, number][] = [
    [1, 12.7062],
    [2, 4.30265],
    [5, 2.57058],
    [10, 2.22814],
    [30, 2.04227],
    [1e6, 1.95997],
  ];
  for (const [degrees, t] of table) expect(studentBoth(0.95, degrees)).toBeCloseTo(t, 4);
  expect(studentCdf(0, 7)).toBeCloseTo(0.5, 12);
});

describe('triple exponential smoothing', () => {
  test('with the published weights of the passengers’ example its state is the published one', () => {
    const { level, trend, season } = smoothedWith(SERIES_G, 12, 'multiplicative', {
      level: 0.2755925,
      trend: 0.03269295,
      season: 0.8707292,
    });
    expect(level).toBeCloseTo(469.3232206, 4);
    expect(trend).toBeCloseTo(3.0215391, 6);
    const published = [
      0.9464611, 0.8829239, 0.9717369, 1.0304825, 1.0476884, 1.1805272, 1.3590778, 1.3331706, 1.1083381, 0.9868813,
      0.8361333, 0.9209877,
    ];
    published.forEach((value, i) => expect(season[i]).toBeCloseTo(value, 6));
  });
  test('the weights found are at least as good as the published ones', () => {
    const { squares } = smoothedWith(SERIES_G, 12, 'multiplicative', {
      level: 0.2755925,
      trend: 0.03269295,
      season: 0.8707292,
    });
    expect(holtWinters(SERIES_G, 12, 'multiplicative')!.meanSquare * 132).toBeLessThanOrEqual(squares * (1 + 1e-6));
  });
  test('a series that is a line and a season is continued exactly', () => {
    const season = [5, -3, -4, 2];
    const values = Array.from({ length: 20 }, (_, i) => 100 + 2 * i + season[i % 4]!);
    const made = forecast({ method: 'smoothing' }, values, 6, 4)!;
    made.forEach(({ value }, h) => expect(value).toBeCloseTo(100 + 2 * (20 + h) + season[(20 + h) % 4]!, 6));
  });
  test('too short a series, and one that a ratio cannot follow, give nothing', () => {
    expect(forecast({ method: 'smoothing' }, [1, 2, 3], 2, 4)).toBeNull();
    expect(forecast({ method: 'smoothing', season: 'multiplicative' }, [1, 0, 3, 1, 2, 3, 1, 2, 3], 2, 4)).toBeNull();
  });
});

describe('forecasts', () => {
  const months = Array.from({ length: 24 }, (_, i) => 10 + (i % 12) + (i >= 12 ? 100 : 0));
  const values = (wish: Parameters<typeof forecast>[0], steps: number) =>
    forecast(wish, months, steps, 12)!.map(({ value }) => value);
  test('by last year, by the last season, by the mean of the last steps, by the line', () => {
    expect(values({ method: 'same period last year', growth: 0.1 }, 2)).toEqual([121, 122.1]);
    expect(values({ method: 'same period last year', growth: 1 }, 13)[12]).toBe(440);
    expect(values({ method: 'seasonal naive' }, 13)[12]).toBe(110);
    expect(values({ method: 'average of last k', k: 2 }, 2)).toEqual([120.5, 120.5]);
    expect(forecast({ method: 'linear' }, [1, 3, 5], 2, 12)!.map(({ value }) => value)).toEqual([7, 9]);
  });
  test('an interval holds its value, and grows with the distance', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 1000 }), { minLength: 26, maxLength: 40 }),
        fc.constantFrom(
          'linear' as const,
          'smoothing' as const,
          'seasonal naive' as const,
          'average of last k' as const,
        ),
        (history, method) => {
          const made = forecast({ method }, history, 14, 12)!;
          made.forEach(({ value, low, high }) => {
            expect(low).toBeLessThanOrEqual(value);
            expect(high).toBeGreaterThanOrEqual(value);
          });
          const width = ({ low, high }: (typeof made)[number]) => high - low;
          expect(width(made[13]!)).toBeGreaterThanOrEqual(width(made[0]!) - 1e-9);
        },
      ),
      { numRuns: tries(60) },
    ));
  test('the backtest is the mean error of the last year, had it been forecast', () => {
    expect(backtest({ method: 'same period last year' }, months, 12)).toBeCloseTo(
      months.slice(12).reduce((sum, value, i) => sum + Math.abs(months[i]! - value) / value, 0) / 12,
      12,
    );
    expect(backtest({ method: 'linear' }, [1, 2], 12)).toBeNull();
  });
});

test('moving means take the steps they say, and are blank where one is missing', () => {
  const values = [1, 2, 3, 4, 5, NaN, 7];
  expect(movingMean(values, 3, 'trailing', 0)).toEqual([NaN, NaN, 2, 3, 4, NaN, NaN]);
  expect(movingMean(values, 3, 'preceding', 0)).toEqual([NaN, NaN, NaN, 2, 3, 4, NaN]);
  expect(movingMean(values, 3, 'centred', 0)).toEqual([NaN, 2, 3, 4, NaN, NaN, NaN]);
  expect(movingMean([1, 2, 3, 4, 5, 6], 4, 'centred', 0)).toEqual([NaN, NaN, 3, 4, NaN, NaN]);
});

test('steps that vary each on their own, as those before did, come to lie within the range of 95 of 100', () => {
  // Park and Miller's generator; normal noise by Box and Muller.
  let seed = 4400;
  const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
  const noise = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const level = () => 100 + 5 * noise();
  const course: readonly (readonly [Parameters<typeof forecast>[0], (i: number) => number])[] = [
    [{ method: 'average of last k', k: 12 }, level],
    [{ method: 'linear' }, (i) => 50 + 3 * i + 5 * noise()],
    [{ method: 'seasonal naive' }, (i) => 100 + 30 * Math.sin((i * Math.PI) / 6) + 5 * noise()],
  ];
  for (const [wish, at] of course) {
    let held = 0;
    for (let n = 0; n < 4000; n++) {
      const [next] = forecast(
        wish,
        Array.from({ length: 48 }, (_, i) => at(i)),
        1,
        12,
      )!;
      const came = at(48);
      if (came >= next!.low && came <= next!.high) held += 1;
    }
    expect(held / 4000, wish.method).toBeGreaterThan(0.935);
    expect(held / 4000, wish.method).toBeLessThan(0.965);
  }
});
