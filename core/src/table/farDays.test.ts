import fc from 'fast-check';
import { expect, test } from 'vitest';
import { NO_DAY, PLAIN_CALENDAR, readIsoDay } from '../calendar';
import { farDays, knownSpan, makeTable, profileTable, type Column, type RawTable } from '.';
import { tries } from '../proof/tries.fixture';

function tableOf(days: readonly (number | null)[]) {
  const list = Int32Array.from(days, (day) => day ?? NO_DAY);
  const blank = days.filter((day) => day === null).length;
  const day: Column = {
    kind: 'date',
    name: 'day',
    days: list,
    grain: 'day',
    blank,
    read: 'yyyy-MM-dd',
    convention: '',
  };
  const raw: RawTable = {
    rows: days.length,
    columns: [day],
    leftOut: [],
    leftOutCounts: [],
    firstLine: 2,
    skipped: [],
    lines: null,
    emptyLines: 0,
    doubts: [],
    marks: null,
    wide: null,
  };
  return makeTable(raw, { id: 'sales' });
}

const day = (text: string) => readIsoDay(text)!;
const two = Array.from({ length: 400 }, (_, i) => day('2025-01-01') + i);

test.each(['9999-12-31', '2205-03-02', '1925-03-02'])(
  '%s among two years is far, and no end of the known days',
  (far) => {
    const table = tableOf([...two.slice(0, 56), day(far), ...two.slice(56)]);
    expect(farDays(table)).toMatchObject({ rows: [56], count: 1, from: day(far), to: day(far) });
    expect(knownSpan(table, PLAIN_CALENDAR)).toMatchObject({ from: two[0], to: two[399] });
    expect(profileTable(table, 'x.csv').farDays).toMatchObject({ lines: [58], from: far, othersTo: '2026-02-04' });
  },
);

test('many rows, near years, long tables with gaps and few rows are not far', () => {
  expect(farDays(tableOf([...two, ...Array.from({ length: 30 }, () => day('2035-01-01'))]))).toBeNull();
  expect(farDays(tableOf([...two, day('2023-01-01')]))).toBeNull();
  const twelveYears = Array.from({ length: 400 }, (_, i) => day('2010-01-01') + i * 11);
  expect(farDays(tableOf([...twelveYears, day('2030-01-01')]))).toBeNull();
  expect(farDays(tableOf([day('2010-01-01'), day('2020-01-01'), day('2030-01-01')]))).toBeNull();
  expect(farDays(tableOf([null, null]))).toBeNull();
});

test('a twentieth of the rows may be far, and no more', () => {
  const rowsWith = (count: number) => [...two.slice(0, count - 1), day('2205-03-02')];
  expect(farDays(tableOf(rowsWith(20)))).toMatchObject({ count: 1, rows: [19] });
  expect(farDays(tableOf(rowsWith(19)))).toBeNull();
});

test('what is far is told from stretches of 64 days: more than 18 of them empty, before or behind, and more than the others last', () => {
  const first = day('2025-01-01');
  const many = (days: number) => Array.from({ length: 100 }, (_, i) => first + Math.round((i / 99) * (days - 1)));
  const isFar = (days: readonly number[], one: number) => farDays(tableOf([...days, one])) !== null;
  // The others lie in the first stretch, which begins with the first day of all.
  expect([20 * 64 - 1, 20 * 64].map((after) => isFar(many(1), first + after))).toEqual([false, true]);
  expect([20 * 64 - 1, 20 * 64].map((before) => isFar(many(1), first - before))).toEqual([false, true]);
  // The others lie in 30 stretches.
  const long = many(30 * 64);
  expect([61 * 64 - 1, 61 * 64].map((after) => isFar(long, first + after))).toEqual([false, true]);
});

test('the first hundred far rows are listed, all are counted', () => {
  const days = [...two, ...two, ...two, ...two, ...two, ...two, ...two, ...two];
  const far = Array.from({ length: 120 }, (_, i) => day('2205-01-01') + i);
  const found = farDays(tableOf([...days, null, ...far]))!;
  expect([found.rows.length, found.rows[0], found.rows[99], found.count]).toEqual([100, 3201, 3300, 120]);
  expect(found).toMatchObject({ from: far[0], to: far[119], others: { from: two[0], to: two[399] } });
});

test('whatever the days: the far ones are few, apart from the others by more than three years, and all are counted', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.oneof(
          fc.integer({ min: 18_000, max: 19_000 }),
          fc.integer({ min: -700_000, max: 3_000_000 }),
          fc.constant(null),
        ),
        {
          minLength: 1,
          maxLength: 120,
        },
      ),
      (days) => {
        const table = tableOf(days);
        const found = farDays(table);
        const dated = days.filter((one): one is number => one !== null);
        const span = knownSpan(table, PLAIN_CALENDAR);
        if (!found) {
          expect(span?.to ?? null).toBe(dated.length === 0 ? null : Math.max(...dated));
          return;
        }
        const { from, to } = found.others;
        const far = dated.filter((one) => one < from || one > to);
        expect(far).toHaveLength(found.count);
        expect(far.length * 20).toBeLessThanOrEqual(dated.length);
        for (const one of far) expect(Math.max(from - one, one - to)).toBeGreaterThan(365 * 3);
        expect(span).toMatchObject({ from, to });
      },
    ),
    { numRuns: tries(150) },
  ));
