import fc from 'fast-check';
import { beforeAll, expect, test } from 'vitest';
import { readIsoDay, type Grain } from '../../calendar';
import { checkExpression, readExpression, type Aggregate } from '../../measure';
import type { Groups, Query, Source } from '../../query';
import { readCsv } from '../../reading';
import { makeTable } from '../../table';
import { tries } from '../../proof/tries.fixture';
import { CSV } from '../contract.fixture';
import { columnarSource } from '../columnarSource';
import { planOf, rolledUp } from './rollUp';

const YEARS = { fiscalYearStart: 4, fiscalYearNamed: 'end', weekStart: 'monday' } as const;
let source: Source;
beforeAll(async () => {
  source = columnarSource(
    new Map([['sales', makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' })]]),
    YEARS,
  );
});

const COLUMNS = new Map([
  ['net', 'number'],
  ['pieces', 'number'],
  ['line', 'text'],
] as const);
const aggregate = (text: string): Aggregate =>
  checkExpression(readExpression(text), text, COLUMNS, 'groups').expression as Aggregate;
const AGGREGATES = [
  'sum(net)',
  'count(*)',
  'min(net)',
  'max(pieces)',
  'avg(net)',
  'count(distinct line)',
  'sum(net) filter (where pieces > 4)',
].map(aggregate);
const FEBRUARY = { from: readIsoDay('2025-02-01')!, to: readIsoDay('2025-02-28')! };
const SPRING = { from: readIsoDay('2025-01-20')!, to: readIsoDay('2025-05-05')! };

const query: fc.Arbitrary<Query> = fc.record({
  table: fc.constant('sales'),
  aggregates: fc.subarray(AGGREGATES),
  by: fc.constantFrom<string[]>([], ['shop'], ['line'], ['shop', 'line'], ['line', 'shop']),
  grain: fc.constantFrom<Grain | null>(null, null, 'day', 'week', 'month', 'year'),
  span: fc.constantFrom(null, FEBRUARY, SPRING),
  where: fc.constantFrom<Query['where']>([], [{ kind: 'is', field: 'line', members: ['keys'] }]),
});

/** Groups by their names, in their order. */
const said = ({ count, fields, steps, rows, values, undated }: Groups) => ({
  undated,
  decimals: values.map(({ decimals }) => decimals),
  groups: Array.from({ length: count }, (_, i) => [
    ...fields.map(({ members, codes }) => members[codes[i]!]),
    steps?.[i] ?? null,
    rows[i],
    ...values.map(({ of }) => of[i]),
  ]),
});

test('what follows from other answers is what is said when it is asked for itself, and no more is asked', async () => {
  let followed = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(query, { minLength: 1, maxLength: 12 }), async (queries) => {
      const { asked, from } = planOf(queries, () => true);
      expect(asked.length).toBeLessThanOrEqual(queries.length);
      const answers = await source.groups(asked);
      const wanted = await source.groups(queries);
      queries.forEach((one, q) => {
        const [other, answer] = [asked[from[q]!]!, answers[from[q]!]!];
        if (one === other) return expect(said(answer)).toEqual(said(wanted[q]!));
        followed++;
        expect(said(rolledUp(one, other, answer, YEARS)!)).toEqual(said(wanted[q]!));
      });
    }),
    { numRuns: tries(400) },
  );
  expect(followed).toBeGreaterThan(tries(100));
});

test('sums that are not exact, or are larger than a number is exact, do not follow', () => {
  const sum = aggregate('sum(net)');
  const of = (by: string[]): Query => ({ table: 'sales', aggregates: [sum], by, grain: null, span: null, where: [] });
  expect(planOf([of([]), of(['shop'])], () => false).asked).toHaveLength(2);
  const answer = (values: number[], decimals: number | null): Groups => ({
    count: 2,
    fields: [{ members: ['', 'a', 'b'], codes: Int32Array.of(1, 2) }],
    steps: null,
    rows: Float64Array.of(1, 1),
    values: [{ of: Float64Array.from(values), decimals }],
    undated: 0,
  });
  expect(rolledUp(of([]), of(['shop']), answer([1, 2], null), YEARS)).toBeNull();
  expect(rolledUp(of([]), of(['shop']), answer([2 ** 53, 2], 0), YEARS)).toBeNull();
  expect(rolledUp(of([]), of(['shop']), answer([1, NaN], 0), YEARS)!.values[0]!.of).toEqual(Float64Array.of(1));
  expect(rolledUp(of([]), of(['shop']), answer([NaN, NaN], 0), YEARS)!.values[0]!.of).toEqual(Float64Array.of(NaN));
});
