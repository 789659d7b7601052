import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Condition } from '../brief';
import { NO_DAY, startOf, type Grain, type Span } from '../calendar';
import { checkExpression, readExpression, type Aggregate } from '../measure';
import { codesFor, sharedTable, type Column, type Table } from '../table';
import type { Groups, Query } from '../query';
import { vectorModule } from '../../scripts/generate';
import { columnarSource, columnTypes, scan, scanTogether } from '.';
import { scopeOf } from './scope';
import { broken, failing, inTwo, late, thread } from './threads.fixture';
import { vectorEngine, vectorPlan } from './vector';
import { PROGRAM } from '../vector/program';
import { tries } from '../proof/tries.fixture';

// Every query a scan can meet, against one pass over plain rows: one and two fields with narrow and wide codes, time steps,
// spans over sorted and unsorted dates, conditions, blanks, exact and inexact numbers, more rows than a block holds.

const SCHOOL = { fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

interface Row {
  readonly day: number | null;
  readonly shop: string;
  readonly code: string;
  readonly net: number | null;
  readonly rate: number | null;
}

/** Rows that follow from a seed, so that thousands of them are made quickly. */
function rowsFrom(seed: number, count: number, members: number, sorted: boolean, blanks: boolean): Row[] {
  let state = seed >>> 0;
  const next = (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * below);
  };
  const rows = Array.from({ length: count }, (): Row => ({
    day: blanks && next(40) === 0 ? null : 19_000 + next(900),
    shop: blanks && next(30) === 0 ? '' : `shop ${next(7)}`,
    code: `code ${next(members)}`,
    net: blanks && next(10) === 0 ? null : next(200_000) - 50_000,
    rate: blanks && next(10) === 0 ? null : next(1_000_000) / 7919,
  }));
  return sorted ? rows.filter((row) => row.day !== null).sort((a, b) => a.day! - b.day!) : rows;
}

function text(name: string, values: readonly string[], wide: boolean): Column {
  const members = ['', ...new Set(values.filter((value) => value !== ''))];
  const place = new Map(members.map((member, i) => [member, i]));
  // Codes as wide as those of a hundred thousand members, without the members.
  const codes = wide ? new Uint32Array(values.length) : codesFor(members.length, values.length);
  values.forEach((value, i) => (codes[i] = place.get(value)!));
  return { kind: 'text', name, members, codes, blank: values.filter((value) => value === '').length, convention: '' };
}

function number(name: string, values: readonly (number | null)[], decimals: number | null): Column {
  const held = Float64Array.from(values, (value) => value ?? NaN);
  return {
    kind: 'number',
    name,
    values: held,
    decimals,
    blank: values.filter((value) => value === null).length,
    convention: '',
  };
}

function tableOf(rows: readonly Row[], sorted: boolean, wide = false): Table {
  const days = Int32Array.from(rows, ({ day }) => day ?? NO_DAY);
  const date: Column = {
    kind: 'date',
    name: 'day',
    days,
    grain: 'day',
    blank: rows.filter(({ day }) => day === null).length,
    convention: '',
    read: '',
  };
  return {
    id: 't',
    rows: rows.length,
    columns: [
      date,
      text(
        'shop',
        rows.map((r) => r.shop),
        false,
      ),
      text(
        'code',
        rows.map((r) => r.code),
        wide,
      ),
      number(
        'net',
        rows.map((r) => r.net),
        2,
      ),
      number(
        'rate',
        rows.map((r) => r.rate),
        null,
      ),
    ],
    date: 'day',
    grain: 'day',
    inDateOrder: sorted,
    leftOut: [],
    leftOutCounts: [],
    firstLine: 2,
    skipped: [],
    lines: null,
    emptyLines: 0,
    doubts: [],
    marks: null,
    wide: null,
    orders: {},
  };
}

const MEASURES = [
  'sum(net)',
  'sum(rate)',
  'count(*)',
  'count(net)',
  'min(net)',
  'max(rate)',
  'avg(net)',
  'count(distinct code)',
  'sum(distinct net)',
  'avg(distinct net)',
  'min(distinct net)',
  'stddev_samp(distinct net)',
  'count(distinct case when net > 3 then shop else code end)',
  'stddev_samp(net)',
  'percentile_cont(0.25) within group (order by net)',
  "sum(net) filter (where shop = 'shop 1' and rate > 50)",
] as const;

/** The same by hand, over the rows of one group. */
function byHand(measure: (typeof MEASURES)[number], rows: readonly Row[]): number {
  const net = rows.flatMap((r) => (r.net === null ? [] : [r.net]));
  const rate = rows.flatMap((r) => (r.rate === null ? [] : [r.rate]));
  const sum = (list: readonly number[]) => (list.length === 0 ? NaN : list.reduce((a, b) => a + b, 0));
  const mean = sum(net) / net.length / 100;
  const deviation = (cents: readonly number[]) => {
    const middle = sum(cents) / cents.length;
    const squares = cents.reduce((all, value) => all + ((value - middle) / 100) ** 2, 0);
    return cents.length < 2 ? NaN : Math.sqrt(squares / (cents.length - 1));
  };
  const different = [...new Set(net)];
  switch (measure) {
    case 'sum(net)':
      return sum(net) / 100;
    case 'sum(rate)':
      return sum(rate);
    case 'count(*)':
      return rows.length;
    case 'count(net)':
      return net.length;
    case 'min(net)':
      return net.length === 0 ? NaN : Math.min(...net) / 100;
    case 'max(rate)':
      return rate.length === 0 ? NaN : Math.max(...rate);
    case 'avg(net)':
      return mean;
    case 'count(distinct code)':
      return new Set(rows.map((r) => r.code)).size;
    case 'stddev_samp(net)':
      return deviation(net);
    case 'sum(distinct net)':
      return sum(different) / 100;
    case 'avg(distinct net)':
      return sum(different) / different.length / 100;
    case 'min(distinct net)':
      return different.length === 0 ? NaN : Math.min(...different) / 100;
    case 'stddev_samp(distinct net)':
      return deviation(different);
    case 'count(distinct case when net > 3 then shop else code end)':
      return new Set(rows.flatMap((r) => (r.net !== null && r.net > 300 ? r.shop : r.code) || [])).size;
    case 'percentile_cont(0.25) within group (order by net)': {
      if (net.length === 0) return NaN;
      const sorted = [...net].sort((a, b) => a - b);
      const at = 0.25 * (sorted.length - 1);
      const low = sorted[Math.floor(at)]!;
      return (low + (sorted[Math.ceil(at)]! - low) * (at - Math.floor(at))) / 100;
    }
    case "sum(net) filter (where shop = 'shop 1' and rate > 50)": {
      const kept = rows.filter((r) => r.shop === 'shop 1' && r.rate !== null && r.rate > 50 && r.net !== null);
      return kept.length === 0 ? NaN : kept.reduce((s, r) => s + r.net!, 0) / 100;
    }
  }
}

function satisfies(row: Row, condition: Condition): boolean {
  if ('value' in condition)
    return (
      row.net !== null &&
      (condition.kind === 'at least' ? row.net / 100 >= condition.value : row.net / 100 < condition.value)
    );
  return condition.members.some((member) => (member ?? '') === row.shop) === (condition.kind === 'is');
}

const condition = fc.oneof<fc.Arbitrary<Condition>[]>(
  fc.record({
    kind: fc.constantFrom('is', 'is not'),
    field: fc.constant('shop'),
    members: fc.subarray(['shop 0', 'shop 1', 'shop 3', null], { minLength: 1 }),
  }),
  fc.record({
    kind: fc.constantFrom('at least', 'below'),
    field: fc.constant('net'),
    value: fc.integer({ min: -400, max: 1500 }),
  }),
);

const world = fc.record({
  seed: fc.nat(),
  count: fc.oneof(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 4000, max: 18_000 })),
  wide: fc.boolean(),
  members: fc.constantFrom(1, 5, 300, 3000),
  sorted: fc.boolean(),
  blanks: fc.boolean(),
  by: fc.constantFrom<string[]>([], ['shop'], ['code'], ['shop', 'code'], ['code', 'shop']),
  grain: fc.option(fc.constantFrom<Grain>('day', 'week', 'month', 'quarter', 'year')),
  span: fc.option(
    fc
      .tuple(fc.integer({ min: 18_900, max: 20_000 }), fc.nat(500))
      .map(([from, more]): Span => ({ from, to: from + more })),
  ),
  where: fc.array(condition, { maxLength: 2 }),
  measures: fc.subarray([...MEASURES], { minLength: 1, maxLength: 3 }),
});

test('a scan agrees with one plain pass over the rows, for every kind of query', async () => {
  await fc.assert(
    fc.asyncProperty(
      world,
      fc.nat(9000),
      async ({ seed, count, wide, members, sorted, blanks, by, grain, span, where, measures }, at) => {
        const rows = rowsFrom(seed, count, members, sorted, blanks);
        const table = tableOf(rows, sorted, wide);
        const aggregates = measures.map(
          (m) => checkExpression(readExpression(m), m, columnTypes(table), 'groups').expression as Aggregate,
        );
        const query: Query = { table: 't', aggregates, by, grain, span, where };
        const groups: Groups = scan(table, query, SCHOOL);
        // Whoever runs it, and in how many parts, it is the same to the last digit.
        expect(scan(table, query, SCHOOL, null)).toEqual(groups);
        expect(scan(table, query, SCHOOL, inTwo(vectorEngine()!, at))).toEqual(groups);
        for (const threads of [
          [thread(Infinity)],
          [thread(1), late, thread(2)],
          [thread(0), broken],
          [thread(1), failing],
        ])
          expect(await scanTogether(sharedTable(table), query, SCHOOL, threads, { least: 1, size: 700 })).toEqual(
            groups,
          );

        const expected = new Map<string, Row[]>();
        for (const row of rows) {
          if ((grain || span) && row.day === null) continue;
          if (span && (row.day! < span.from || row.day! > span.to)) continue;
          if (!where.every((c) => satisfies(row, c))) continue;
          const key = [
            ...by.map((field) => (field === 'shop' ? row.shop : row.code)),
            grain ? startOf(grain, row.day!, SCHOOL) : '',
          ].join('|');
          expected.set(key, [...(expected.get(key) ?? []), row]);
        }
        expect(groups.count).toBe(expected.size);
        for (let g = 0; g < groups.count; g++) {
          const key = [
            ...groups.fields.map(({ members: names, codes }) => names[codes[g]!]!),
            grain ? groups.steps![g]! : '',
          ].join('|');
          const mine = expected.get(key)!;
          expect(groups.rows[g]).toBe(mine.length);
          measures.forEach((measure, m) => {
            const { of, decimals } = groups.values[m]!;
            const value = decimals === null ? of[g]! : of[g]! / 10 ** decimals;
            const wanted = byHand(measure, mine);
            if (Number.isNaN(wanted)) expect(value).toBeNaN();
            else if (measure === 'sum(net)' || measure.startsWith('count')) expect(value).toBe(wanted);
            else expect(Math.abs(value - wanted)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(wanted)));
          });
        }
      },
    ),
    { numRuns: tries(60) },
  );
});

test('what is exact is for the engine, whatever it is grouped by; what depends on the order of rows is not', () => {
  const table = tableOf(rowsFrom(3, 500, 300, false, true), false);
  const isPlanned = (measure: string, by: readonly string[], grain: Grain | null) => {
    const { expression } = checkExpression(readExpression(measure), measure, columnTypes(table), 'groups');
    const query: Query = { table: 't', aggregates: [expression as Aggregate], by, grain, span: null, where: [] };
    return vectorPlan(table, query, scopeOf(table, query, SCHOOL)) !== null;
  };
  const exact = [
    'sum(net)',
    'avg(net)',
    'count(*)',
    'count(rate)',
    'count(distinct code)',
    'sum(net) filter (where net > 3)',
  ];
  for (const measure of exact) {
    expect(isPlanned(measure, [], null)).toBe(true);
    expect(isPlanned(measure, ['shop', 'code'], 'month')).toBe(true);
  }
  expect(
    ['sum(rate)', 'min(net)', 'stddev_samp(net)', 'sum(distinct net)'].some((one) => isPlanned(one, [], null)),
  ).toBe(false);
});

test('the program of the loops is what their source makes', async () => {
  expect(await vectorModule()).toContain(`'${PROGRAM}'`);
});

test('more groups than can be counted by place are found by hashing', () => {
  const rows = rowsFrom(7, 6000, 3000, false, false);
  const table = tableOf(rows, false);
  // 3000 codes × 8 shops × 900 days leaves the dense limit.
  const aggregates = [
    checkExpression(readExpression('sum(net)'), 'sum(net)', columnTypes(table), 'groups').expression as Aggregate,
  ];
  const groups = scan(
    table,
    { table: 't', aggregates, by: ['code', 'shop'], grain: 'day', span: null, where: [] },
    SCHOOL,
  );
  const keys = new Set(rows.map((r) => `${r.code}|${r.shop}|${r.day}`));
  expect(groups.count).toBe(keys.size);
  const sum = (list: Iterable<number>) => [...list].reduce((a, b) => a + b, 0);
  expect(sum(groups.values[0]!.of)).toBe(sum(rows.map((r) => r.net!)));
});

test('what is put together from a roll-up is what the rows say, whatever was asked before', async () => {
  await fc.assert(
    fc.asyncProperty(
      world,
      fc.array(fc.subarray(['shop 0', 'shop 1', 'shop 3', null]), { minLength: 3, maxLength: 3 }),
      async (one, changes) => {
        const { seed, count, members, sorted, blanks, by, grain, span, where, measures } = one;
        const table = tableOf(rowsFrom(seed, count, members, sorted, blanks), sorted);
        const aggregates = measures.map(
          (m) => checkExpression(readExpression(m), m, columnTypes(table), 'groups').expression as Aggregate,
        );
        const source = columnarSource(new Map([['t', table]]), SCHOOL);
        for (const chosen of changes) {
          const channel: Condition = { kind: 'is', field: 'shop', members: chosen };
          const query: Query = { table: 't', aggregates, by, grain, span, where: [...where, channel] };
          expect(await source.groups([query])).toEqual([scan(table, query, SCHOOL)]);
        }
      },
    ),
    { numRuns: tries(30) },
  );
});
