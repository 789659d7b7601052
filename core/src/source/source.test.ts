import fc from 'fast-check';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { readIsoDay } from '../calendar';
import { checkExpression, readExpression, type Aggregate } from '../measure';
import { readCsv } from '../reading';
import { leftWith, openedSource, openSource, type Groups, type Query, type Source } from '../query';
import { makeTable, type Table } from '../table';
import { tries } from '../proof/tries.fixture';
import { contractOf, ROWS, CSV } from './contract.fixture';
import { columnarSource, columnTypes, withDerived } from '.';

const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;
let table: Table;
beforeAll(async () => {
  table = makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' });
});

contractOf('columns in memory', async () => columnarSource(new Map([['sales', table]]), YEARS));

describe('questions of one moment', () => {
  const query = (field: string): Query => ({
    table: 'sales',
    aggregates: [],
    by: [field],
    grain: null,
    span: null,
    where: [],
  });
  const answered = (queries: readonly Query[]) => queries.map(({ by }) => ({ asked: by }) as unknown as Groups);
  const sourceWith = (groups: Source['groups'], spans: Source['spans'] = async (asked) => asked.map(() => null)) =>
    openedSource(
      { groups, spans, rows: vi.fn(), members: vi.fn(), profile: vi.fn(), extract: vi.fn(), facts: vi.fn() } as never,
      () => undefined,
    );

  test('are asked together, the same only once, and each has its own answer', async () => {
    const asked: string[][] = [];
    const source = sourceWith(async (queries) => {
      asked.push(queries.map(({ by }) => by[0]!));
      return answered(queries);
    });
    const found = await Promise.all(['shop', 'line', 'shop'].map((field) => source.groups(query(field))));
    expect(asked).toEqual([['shop', 'line']]);
    expect(found).toEqual([{ asked: ['shop'] }, { asked: ['line'] }, { asked: ['shop'] }]);
    await source.groups(query('shop'));
    expect(asked).toHaveLength(2);
  });

  test('one that cannot be answered is no problem of the others', async () => {
    const source = sourceWith(async (queries) => {
      if (queries.some(({ by }) => by[0] === 'none')) throw new Error('there is no field “none”');
      return answered(queries);
    });
    const found = await Promise.allSettled(['shop', 'none', 'line'].map((field) => source.groups(query(field))));
    expect(found.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
    expect(found[2]).toMatchObject({ value: { asked: ['line'] } });
  });

  test('end once all who wait have left, and none is asked again; who stays has an answer', async () => {
    const begun: { readonly fields: readonly string[]; readonly signal: AbortSignal | undefined; answer(): void }[] =
      [];
    const source = sourceWith(
      (queries, signal) =>
        new Promise((answer, fail) => {
          begun.push({ fields: queries.map(({ by }) => by[0]!), signal, answer: () => answer(answered(queries)) });
          signal?.addEventListener('abort', () => fail(new Error('left')));
        }),
    );
    const [one, other] = [new AbortController(), new AbortController()];
    const leaving = [one, other].map(({ signal }) => leftWith(source, signal));
    const both = Promise.allSettled(leaving.flatMap((of) => [of.groups(query('shop')), of.groups(query('line'))]));
    await Promise.resolve();
    expect(begun[0]!.fields).toEqual(['shop', 'line']);
    one.abort();
    expect(begun[0]!.signal!.aborted).toBe(false);
    other.abort();
    expect((await both).map(({ status }) => status)).toEqual(Array(4).fill('rejected'));
    expect(begun).toHaveLength(1);
    // One who does not leave keeps it going.
    const third = new AbortController();
    const kept = Promise.all([leftWith(source, third.signal).groups(query('shop')), source.groups(query('shop'))]);
    await Promise.resolve();
    third.abort();
    expect(begun[1]!.signal).toBeUndefined();
    begun[1]!.answer();
    expect(await kept).toEqual(Array(2).fill({ asked: ['shop'] }));
  });

  test('days are kept once they are known, and asked for again where they could not be told', async () => {
    let asked = 0;
    const source = sourceWith(
      async (queries) => answered(queries),
      async (spans) => {
        asked++;
        if (asked === 1) throw new Error('not now');
        return spans.map(() => ({ from: 1, to: 2, begins: 1 }));
      },
    );
    await expect(source.span('sales', ['net'])).rejects.toThrow('not now');
    expect(await source.span('sales', ['net'])).toEqual({ from: 1, to: 2, begins: 1 });
    await Promise.all([source.span('sales', ['net']), source.span('sales', [])]);
    expect(asked).toBe(3);
  });

  test('a source elsewhere has its facts asked for when it is opened', async () => {
    const source = await openSource(columnarSource(new Map([['sales', table]]), YEARS));
    expect(source.facts('sales')?.rows).toBe(ROWS.length);
    expect(source.facts('none')).toBeUndefined();
  });
});

describe('a column that is computed', () => {
  const derived = [
    { name: 'price', expression: 'net / pieces' },
    { name: 'big', expression: 'net > 10' },
    { name: 'place', expression: "case when big then shop else 'elsewhere' end" },
  ];
  test('costs nothing until something reads it, and is then what its expression says', async () => {
    const net = vi.fn(() => Float64Array.from([400, 600]));
    const base = {
      ...table,
      rows: 2,
      columns: [
        {
          kind: 'number' as const,
          name: 'net',
          decimals: 2,
          blank: 0,
          convention: '',
          get values() {
            return net();
          },
        },
      ],
    };
    const grown = withDerived(base, [{ name: 'half', expression: 'net / 2' }]);
    const reads = net.mock.calls.length;
    const source = columnarSource(new Map([['sales', grown]]), YEARS);
    const facts = source.factsAt('sales')!;
    expect([...facts.columns]).toEqual([
      ['net', 'number'],
      ['half', 'number'],
    ]);
    expect(facts.derived).toEqual([{ name: 'half', expression: 'net / 2' }]);
    expect(net.mock.calls.length).toBe(reads);
    const half = grown.columns[1]!;
    expect([...(half as { values: Float64Array }).values]).toEqual([2, 3]);
  });

  test('groups, filters and adds up like one of the file', async () => {
    const grown = withDerived(table, derived);
    const source = columnarSource(new Map([['sales', grown]]), YEARS);
    const count = checkExpression(readExpression('count(*)'), 'count(*)', columnTypes(grown), 'groups').expression;
    const [by] = await source.groups([
      { table: 'sales', aggregates: [count as Aggregate], by: ['place'], grain: null, span: null, where: [] },
    ]);
    const found = new Map(
      Array.from(by!.rows, (rows, i) => [by!.fields[0]!.members[by!.fields[0]!.codes[i]!]!, rows] as const),
    );
    const expected = new Map<string, number>();
    for (const { net, shop } of ROWS) {
      const place = net !== null && net > 10 ? shop : 'elsewhere';
      expected.set(place, (expected.get(place) ?? 0) + 1);
    }
    for (const [place, rows] of expected) if (place !== '') expect([place, found.get(place)]).toEqual([place, rows]);
    expect((await source.members('sales', 'place', 'else', 5))[0]).toBe('elsewhere');
  });
});

test('days before and after those of the rows are no rows', () =>
  fc.assert(
    fc.asyncProperty(fc.integer({ min: -400, max: 400 }), fc.nat(60), async (shift, length) => {
      const source = columnarSource(new Map([['sales', table]]), YEARS);
      const from = readIsoDay('2025-03-01')! + shift;
      const span = { from, to: from + length };
      const { rows } = await source.rows({ table: 'sales', span, where: [] }, { from: 0, count: 0 });
      expect(rows).toBe(ROWS.filter(({ day }) => day !== null && day >= span.from && day <= span.to).length);
    }),
    { numRuns: tries(30) },
  ));
