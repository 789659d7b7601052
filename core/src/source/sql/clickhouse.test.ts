import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tries } from '../../proof/tries.fixture';
import { CLICKHOUSE, clickhouseColumn, written } from './clickhouse';

/** What the engine reads between two marks: a backslash takes the next letter as it is, or as the one that it stands for. */
function readBack(literal: string, mark: string): string {
  const stands: Readonly<Record<string, string>> = { n: '\n', t: '\t', r: '\r', b: '\b', f: '\f', 0: '\0' };
  expect([literal.at(0), literal.at(-1)]).toEqual([mark, mark]);
  const inside = literal.slice(1, -1);
  let text = '';
  for (let i = 0; i < inside.length; i++) {
    // Whatever ends it early would be read as more of the statement.
    expect(inside[i], literal).not.toBe(mark);
    if (inside[i] !== '\\') text += inside[i];
    else {
      i++;
      expect(i, literal).toBeLessThan(inside.length);
      text += stands[inside[i]!] ?? inside[i]!;
    }
  }
  return text;
}

test('a text as a literal, and a name, are read back as they were, whatever is in them', () => {
  const hostile = fc.string({
    unit: fc.constantFrom('\\', "'", '"', '`', '\n', '\t', ';', '-', '/', '*', 'a', '0', 'é', '\u202E'),
  });
  fc.assert(
    fc.property(fc.oneof(hostile, fc.string({ unit: 'binary' })), (text) => {
      expect(readBack(written(text), "'")).toBe(text.replaceAll('\0', ''));
      expect(readBack(CLICKHOUSE.quoted(text), '"')).toBe(text.replaceAll('\0', ''));
    }),
    { numRuns: tries(2000) },
  );
});

test('types are what they are here, within whatever', () => {
  const of = (type: string) => {
    const { kind, decimals, isInteger, isTimed } = clickhouseColumn('x', type);
    return [kind, decimals, isInteger ?? false, isTimed ?? false];
  };
  expect(of('Nullable(Decimal(12, 2))')).toEqual(['number', 2, false, false]);
  expect(of('LowCardinality(Nullable(String))')).toEqual(['text', undefined, false, false]);
  expect(of('UInt64')).toEqual(['number', 0, true, false]);
  expect(of('Float32')).toEqual(['number', null, false, false]);
  expect(of('Date')).toEqual(['date', undefined, false, false]);
  expect(of("DateTime('UTC')")).toEqual(['date', undefined, false, true]);
  expect(of("Enum8('a' = 1)")).toEqual(['text', undefined, false, false]);
  expect(of('Array(String)')).toEqual([null, undefined, false, false]);
});

test('columns whose names could be something else are read under others, and none twice', () => {
  const columns = ['net', '2', "f('x')", 'column 1', 'null', 'NaN'].map((name) => ({ name, kind: 'number' as const }));
  const { from, columns: called } = CLICKHOUSE.readable('"t"', columns);
  expect(called.map(({ name, as }) => [name, as])).toEqual([
    ['net', undefined],
    ['2', 'column 2'],
    [`f('x')`, 'column 3'],
    ['column 1', undefined],
    ['NaN', 'column 4'],
  ]);
  expect(from).toBe(
    `(select "net" as "net", "2" as "column 2", "f('x')" as "column 3", "column 1" as "column 1", "NaN" as "column 4" from "t") as "rows"`,
  );
  expect(CLICKHOUSE.readable('"t"', columns.slice(0, 1)).from).toBe('"t"');
});

test('a day beyond those of the engine is no wrong day', () => {
  const w = CLICKHOUSE.begin();
  expect(() => w.day(0)).toThrow(/1970-01-02/);
  expect(() => w.day(49_673)).toThrow(/2105-12-31/);
  const day = { sql: 'd', type: 'date', decimals: 0, raw: '"d"' } as const;
  expect(w.within(day, { from: -9, to: -1 })).toBe('0');
  expect(w.within(day, { from: -9, to: 3 })).toBe('"d" between toDate(toUInt16(1)) and toDate(toUInt16(3))');
});
