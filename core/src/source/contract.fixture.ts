import { beforeAll, describe, expect, test } from 'vitest';
import type { Condition } from '../brief';
import { isoDay, readIsoDay, startOf, type Grain } from '../calendar';
import { aggregatesOf, checkExpression, converted, readExpression, type Aggregate } from '../measure';
import { power, tidy } from '../number';
import type { Groups, Query, Source } from '../query';
import { EVER, type Rates } from '../table';

// What every source has to answer, whatever its rows are kept in: the same rows, asked in every way, and counted here one by one.

export interface Row {
  readonly day: number | null;
  readonly shop: string;
  readonly line: string;
  readonly net: number | null;
  readonly pieces: number;
}

const SHOPS = ['Alder', 'Birch', 'Cedar', ''];
const LINES = ['brass', 'keys', 'Strings, bowed'];

/** The rows a source under test holds, in this order, as the table `sales`. */
export const ROWS: readonly Row[] = Array.from({ length: 240 }, (_, i) => ({
  day: i % 41 === 7 ? null : readIsoDay('2025-01-03')! + ((i * 17) % 150),
  shop: SHOPS[(i * 7) % SHOPS.length]!,
  line: LINES[(i * 5) % LINES.length]!,
  net: i % 19 === 3 ? null : (((i * 7919) % 5000) - 900) / 100,
  pieces: (i * 3) % 11,
}));

const cell = (text: string) => (text.includes(',') ? `"${text}"` : text);

/** The same as a file. */
export const CSV = [
  'day,shop,line,net,pieces',
  ...ROWS.map(({ day, shop, line, net, pieces }) =>
    [day === null ? '' : isoDay(day), shop, cell(line), net === null ? '' : net.toFixed(2), pieces].join(','),
  ),
].join('\n');

const COLUMNS = new Map([
  ['day', 'date'],
  ['shop', 'text'],
  ['line', 'text'],
  ['net', 'number'],
  ['pieces', 'number'],
] as const);
const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

const aggregate = (text: string): Aggregate =>
  checkExpression(readExpression(text), text, COLUMNS, 'groups').expression as Aggregate;
const query = (of: Partial<Query>): Query => ({
  table: 'sales',
  aggregates: [],
  by: [],
  grain: null,
  span: null,
  where: [],
  ...of,
});

const passes = (row: Row, condition: Condition): boolean => {
  const value = row[condition.field as keyof Row];
  if ('value' in condition)
    return (
      typeof value === 'number' && (condition.kind === 'at least' ? value >= condition.value : value < condition.value)
    );
  const is = condition.members.some((member) => (member ?? '') === String(value ?? ''));
  return condition.kind === 'is' ? is : !is;
};

/** The answer, counted row by row: for each group its rows and what some functions make of its amounts. */
function counted({ by, grain, span, where }: Query): Map<string, { rows: number; nets: number[]; lines: Set<string> }> {
  const found = new Map<string, { rows: number; nets: number[]; lines: Set<string> }>();
  for (const row of ROWS) {
    if ((span || grain) && row.day === null) continue;
    if (span && (row.day! < span.from || row.day! > span.to)) continue;
    if (!where.every((condition) => passes(row, condition))) continue;
    const key = JSON.stringify([
      ...by.map((field) => String(row[field as keyof Row] ?? '')),
      grain ? startOf(grain, row.day!, YEARS) : null,
    ]);
    const group = found.get(key) ?? { rows: 0, nets: [], lines: new Set() };
    found.set(key, group);
    group.rows++;
    if (row.net !== null) group.nets.push(row.net);
    group.lines.add(row.line);
  }
  return found;
}

const keysOf = ({ count, fields, steps }: Groups): string[] =>
  Array.from({ length: count }, (_, i) =>
    JSON.stringify([...fields.map(({ members, codes }) => members[codes[i]!]!), steps ? steps[i]! : null]),
  );
const valueAt = ({ values }: Groups, place: number, i: number): number => {
  const { of, decimals } = values[place]!;
  return decimals === null ? of[i]! : of[i]! / power(decimals);
};
const sum = (list: readonly number[]) =>
  list.length === 0 ? NaN : tidy(list.reduce((a, b) => a + Math.round(b * 100), 0) / 100);

const WHERES: readonly (readonly Condition[])[] = [
  [],
  [{ kind: 'is', field: 'shop', members: ['Alder', null] }],
  [{ kind: 'is not', field: 'line', members: ['keys'] }],
  [
    { kind: 'at least', field: 'net', value: 5 },
    { kind: 'below', field: 'pieces', value: 9 },
  ],
  [{ kind: 'is', field: 'shop', members: ['nobody'] }],
];
const SPANS = [null, { from: readIsoDay('2025-02-01')!, to: readIsoDay('2025-03-15')! }] as const;
const GRAINS: readonly (Grain | null)[] = [null, 'day', 'week', 'month', 'quarter', 'year'];
const FIELDS = [[], ['shop'], ['line', 'shop']] as const;

/**
 * The contract of a source: every implementation runs it.
 * @param name what rows are kept in
 * @param open gives a source that holds the rows above as its table `sales`, in calendar years
 * @param order how it puts rows in order that have none of their own; left out where they have
 */
export function contractOf(name: string, open: () => Promise<Source>, order?: (a: Row, b: Row) => number): void {
  const rows = order ? [...ROWS].sort(order) : ROWS;
  describe(`${name}, as every source`, () => {
    let source: Source;
    beforeAll(async () => {
      source = await open();
    });

    test('tells once what its tables are', async () => {
      const facts = (await source.facts()).get('sales')!;
      expect([facts.id, facts.rows, facts.date]).toEqual(['sales', ROWS.length, 'day']);
      expect([...facts.columns]).toEqual([...COLUMNS]);
      expect([...facts.members.get('shop')!].sort()).toEqual(['Alder', 'Birch', 'Cedar']);
      expect([...facts.members.get('line')!].sort()).toEqual([...LINES].sort());
      expect([facts.decimals.get('net'), facts.decimals.get('pieces')]).toEqual([2, 0]);
      const days = ROWS.flatMap(({ day }) => day ?? []);
      expect([facts.span!.from, facts.span!.to]).toEqual([Math.min(...days), Math.max(...days)]);
    });

    test('tells from when to when a column has values, several at once', async () => {
      const asked = [[], ['net'], ['net', 'pieces']].map((columns) => ({ table: 'sales', columns }));
      const found = await source.spans([...asked, { table: 'none', columns: [] }]);
      const days = ROWS.filter(({ net }) => net !== null).flatMap(({ day }) => day ?? []);
      expect([found[1]!.from, found[1]!.to]).toEqual([Math.min(...days), Math.max(...days)]);
      expect(found[2]).toEqual(found[0]);
      expect(found[3]).toBeNull();
    });

    test('groups, cuts and filters: what is added up row by row is what it says, to the last digit', async () => {
      const aggregates = ['sum(net)', 'count(net)', 'min(net)', 'max(net)', 'count(distinct line)'].map(aggregate);
      const queries = FIELDS.flatMap((by) =>
        GRAINS.flatMap((grain) =>
          SPANS.flatMap((span) => WHERES.map((where) => query({ by, grain, span, where, aggregates }))),
        ),
      );
      const answers = await source.groups(queries);
      expect(answers).toHaveLength(queries.length);
      queries.forEach((one, q) => {
        const answer = answers[q]!;
        const expected = counted(one);
        expect([...keysOf(answer)].sort()).toEqual([...expected.keys()].sort());
        keysOf(answer).forEach((key, i) => {
          const { rows, nets, lines } = expected.get(key)!;
          expect(answer.rows[i]).toBe(rows);
          expect(valueAt(answer, 0, i)).toBe(sum(nets));
          expect(valueAt(answer, 1, i)).toBe(nets.length);
          expect(valueAt(answer, 2, i)).toBe(nets.length === 0 ? NaN : Math.min(...nets));
          expect(valueAt(answer, 3, i)).toBe(nets.length === 0 ? NaN : Math.max(...nets));
          expect(valueAt(answer, 4, i)).toBe(lines.size);
        });
        const isTimed = one.grain !== null || one.span !== null;
        expect(answer.undated).toBe(isTimed ? ROWS.filter(({ day }) => day === null).length : 0);
      });
    });

    test('converts amounts row by row, by their currency and their day, and counts those without a rate', async () => {
      // Shops stand for currencies here: one with a rate for each of two months, one with one for all days, one with none.
      const [february, april] = [readIsoDay('2025-02-01')!, readIsoDay('2025-04-01')!];
      const rates: Rates = [
        [
          'Alder',
          [
            [february, february + 27, 0.9],
            [april, april + 29, 1.1234],
          ],
        ],
        ['Birch', [[EVER.from, EVER.to, 2]]],
      ];
      const rateOf = ({ shop, day }: Row) => {
        if (shop === 'Birch') return 2;
        if (shop !== 'Alder' || day === null) return NaN;
        return day >= february && day < february + 28 ? 0.9 : day >= april && day < april + 30 ? 1.1234 : NaN;
      };
      const checked = checkExpression(readExpression('sum(net)'), 'sum(net)', COLUMNS, 'groups').expression;
      const aggregates = aggregatesOf(converted(checked, { column: 'shop', day: 'day', rates }));
      for (const grain of [null, 'month'] as const) {
        const [answer] = await source.groups([query({ by: ['shop'], grain, aggregates })]);
        keysOf(answer!).forEach((key, i) => {
          const [shop, step] = JSON.parse(key) as [string, number | null];
          const behind = rows.filter(
            (row) =>
              row.shop === shop &&
              row.net !== null &&
              (step === null || (row.day !== null && startOf('month', row.day, YEARS) === step)),
          );
          const known = behind.filter((row) => !Number.isNaN(rateOf(row)));
          const amount = known.length === 0 ? NaN : known.reduce((all, row) => all + row.net! * rateOf(row), 0);
          expect(tidy(valueAt(answer!, 0, i))).toBe(tidy(Math.round(amount * 1e6) / 1e6));
          expect([valueAt(answer!, 1, i), valueAt(answer!, 2, i)]).toEqual([behind.length, known.length]);
        });
      }
    });

    test('gives an aggregate of its own conditions', async () => {
      const [answer] = await source.groups([
        query({ by: ['shop'], aggregates: [aggregate("sum(net) filter (where line = 'keys')")] }),
      ]);
      keysOf(answer!).forEach((key, i) => {
        const [shop] = JSON.parse(key) as [string];
        const nets = ROWS.filter((row) => row.shop === shop && row.line === 'keys').flatMap(({ net }) => net ?? []);
        expect(valueAt(answer!, 0, i)).toBe(sum(nets));
      });
    });

    test('gives the rows behind a number, page by page, in their order', async () => {
      for (const where of WHERES)
        for (const span of SPANS) {
          const behind = { table: 'sales', span, where };
          const expected = rows
            .filter(
              (row) =>
                (!span || (row.day !== null && row.day >= span.from && row.day <= span.to)) &&
                where.every((condition) => passes(row, condition)),
            )
            .map(({ day, shop, line, net, pieces }) => [
              day === null ? '' : isoDay(day),
              shop,
              line,
              net === null ? '' : net.toFixed(2),
              String(pieces),
            ]);
          const all = await source.rows(behind, { from: 0, count: Infinity });
          expect([all.rows, all.lines]).toEqual([expected.length, expected]);
          expect(all.columns).toEqual([...COLUMNS].map(([column, kind]) => ({ name: column, kind })));
          const page = await source.rows(behind, { from: 3, count: 4 });
          expect([page.rows, page.lines]).toEqual([expected.length, expected.slice(3, 7)]);
        }
    });

    test('finds names by a part of them', async () => {
      expect([...(await source.members('sales', 'shop', 'E', 10))].sort()).toEqual(['Alder', 'Cedar']);
      expect(await source.members('sales', 'shop', '', 2)).toHaveLength(2);
      expect(await source.members('sales', 'line', 'none', 2)).toEqual([]);
    });

    test('profiles its columns', async () => {
      const { rows, columns } = await source.profile('sales');
      expect(rows).toBe(ROWS.length);
      expect(columns.map(({ name: column, type, blank }) => [column, type, blank])).toEqual([
        ['day', 'date', ROWS.filter(({ day }) => day === null).length],
        ['shop', 'text', ROWS.filter(({ shop }) => shop === '').length],
        ['line', 'text', 0],
        ['net', 'number', ROWS.filter(({ net }) => net === null).length],
        ['pieces', 'number', 0],
      ]);
    });

    test('gives its rows as columns, to be taken along', async () => {
      const span = SPANS[1];
      const table = await source.extract({ table: 'sales', columns: ['day', 'net'], span });
      const column = (name: string) => table.columns.find((one) => one.name === name)!;
      const [days, nets] = [column('day'), column('net')];
      if (days.kind !== 'date' || nets.kind !== 'number') throw new Error('these are days and numbers');
      const within = Array.from(days.days).flatMap((day, row) =>
        day >= span.from && day <= span.to ? [nets.values[row]!] : [],
      );
      const scale = power(nets.decimals ?? 0);
      expect(within).toEqual(
        rows
          .filter(({ day }) => day !== null && day >= span.from && day <= span.to)
          .map(({ net }) => (net === null ? NaN : Math.round(net * scale))),
      );
    });

    test('says what is wrong with a question it cannot answer', async () => {
      await expect(source.groups([query({ table: 'none' })])).rejects.toThrow(/no table “none”/);
      await expect(source.groups([query({ by: ['nobody'] })])).rejects.toThrow(/nobody/);
      await expect(source.members('sales', 'nobody', '', 5)).rejects.toThrow(/nobody/);
      await expect(source.rows({ table: 'none', span: null, where: [] }, { from: 0, count: 1 })).rejects.toThrow(
        /no table “none”/,
      );
    });
  });
}
