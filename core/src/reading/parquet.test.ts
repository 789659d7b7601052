import { brotliCompressSync, gzipSync } from 'node:zlib';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { describe, expect, test } from 'vitest';
import { Problem } from '../problem';
import { cellText, makeTable } from '../table';
import { fileOf, readCsv, readParquet } from '.';
import { parquetWithPage } from './parquet.fixture';

const VALUES = [1.5, -2, 1e9, 0];

async function numbersIn(bytes: Uint8Array) {
  const raw = await readParquet(fileOf('x.parquet', bytes));
  return Array.from({ length: raw.rows }, (_, row) => cellText(raw.columns[0]!, row));
}

describe('pages of both versions, with and without a checksum', () => {
  test.each([
    [{ version: 1 }],
    [{ version: 1, crc: 'true' }],
    [{ version: 2 }],
    [{ version: 2, crc: 'true' }],
  ] as const)('%j is read', async (page) => {
    expect((await numbersIn(parquetWithPage(VALUES, page))).map(Number)).toEqual(VALUES);
  });

  test.each([
    [{ version: 1, crc: 'false' }, /checksum of a page/],
    [{ version: 2, crc: 'false' }, /checksum of a page/],
    [{ version: 2, levels: false }, /page header out of range/],
    [{ version: 1, unpacked: 900_000_000 }, /unpack to more than so many bytes hold/],
    [{ version: 1, values: 40_000_000 }, /unpack to more than so many bytes hold/],
  ] as const)('%j is refused', async (page, says) => {
    await expect(numbersIn(parquetWithPage(VALUES, page))).rejects.toThrow(says);
  });

  test('with a checksum each bit of a page that is turned over is found', async () => {
    const sound = parquetWithPage(VALUES, { version: 2, crc: 'true' });
    const plain = parquetWithPage(VALUES, { version: 2 });
    const data = sound.length - plain.length;
    let found = 0;
    for (let bit = 0; bit < VALUES.length * 64; bit++) {
      const bytes = sound.slice();
      const from = Buffer.from(bytes).indexOf(Buffer.from(Float64Array.from(VALUES).buffer));
      bytes[from + (bit >> 3)]! ^= 1 << (bit & 7);
      await expect(numbersIn(bytes)).rejects.toThrow(/checksum/);
      found++;
    }
    expect(data).toBeGreaterThan(0);
    expect(found).toBe(VALUES.length * 64);
  });
});

const packed = (codec: 'GZIP' | 'BROTLI', pack: (bytes: Uint8Array) => Uint8Array) =>
  new Uint8Array(
    parquetWriteBuffer({
      codec,
      compressors: { [codec]: pack },
      columnData: [{ name: 's', data: list((i) => `shop ${i % 4} of ${i}`), type: 'STRING' }],
    }),
  );
const rows = 40;
const list = <T>(of: (i: number) => T) => Array.from({ length: rows }, (_, i) => of(i));
/** Of each encoding and codec that the writer knows, and pages by hand. */
const SOUND: readonly (readonly [string, Uint8Array])[] = [
  ...(['PLAIN', 'DELTA_BINARY_PACKED'] as const).map((encoding) => {
    const columnData = [{ name: 'n', data: list((i) => BigInt(i * 7)), type: 'INT64' as const, encoding }];
    return [encoding, new Uint8Array(parquetWriteBuffer({ columnData }))] as const;
  }),
  ...(['PLAIN', 'RLE_DICTIONARY', 'DELTA_LENGTH_BYTE_ARRAY', 'DELTA_BYTE_ARRAY'] as const).map((encoding) => {
    const columnData = [
      { name: 's', data: list((i) => (i % 9 === 0 ? null : `shop ${i % 4}`)), type: 'STRING' as const, encoding },
    ];
    return [`texts, ${encoding}`, new Uint8Array(parquetWriteBuffer({ columnData }))] as const;
  }),
  [
    'BYTE_STREAM_SPLIT',
    new Uint8Array(
      parquetWriteBuffer({
        columnData: [{ name: 'd', data: list((i) => i / 3), type: 'DOUBLE', encoding: 'BYTE_STREAM_SPLIT' }],
      }),
    ),
  ],
  [
    'yes and no',
    new Uint8Array(
      parquetWriteBuffer({ columnData: [{ name: 'b', data: list((i) => i % 3 === 0), type: 'BOOLEAN' }] }),
    ),
  ],
  [
    'not packed',
    new Uint8Array(
      parquetWriteBuffer({
        codec: 'UNCOMPRESSED',
        columnData: [{ name: 'd', data: list((i) => i / 3), type: 'DOUBLE' }],
      }),
    ),
  ],
  ['gzip', packed('GZIP', gzipSync)],
  ['brotli', packed('BROTLI', brotliCompressSync)],
  [
    'version 2',
    parquetWithPage(
      list((i) => i),
      { version: 2 },
    ),
  ],
  [
    'version 1',
    parquetWithPage(
      list((i) => i),
      { version: 1 },
    ),
  ],
];

const BITS = (at: number) => (process.env.LAW_TIMES ? [0, 1, 2, 3, 4, 5, 6, 7] : [at % 8, (at + 5) % 8]);

test.each(SOUND)('%s: whatever bit is turned over, it ends with a table or a problem', async (_, sound) => {
  let [tables, problems] = [0, 0];
  for (let at = 0; at < sound.length; at++)
    for (const bit of BITS(at)) {
      const bytes = sound.slice();
      bytes[at]! ^= 1 << bit;
      try {
        makeTable(await readParquet(fileOf('x.parquet', bytes), [], undefined, 1e8), { id: 'x' });
        tables++;
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        problems++;
      }
    }
  expect(tables + problems).toBe(sound.length * BITS(0).length);
  expect(problems).toBeGreaterThan(0);
});

describe('decimal numbers', () => {
  const WRITTEN = ['3.30', '-0.05', null, '1234567.89', '0.00', '-45035996273704.91'];
  const wholes = WRITTEN.map((text) => (text === null ? null : BigInt(text.replace('.', ''))));
  const schemaOf = (type: 'INT32' | 'INT64' | 'BYTE_ARRAY' | 'FIXED_LEN_BYTE_ARRAY', more: object) => [
    { name: 'root', num_children: 1 },
    { name: 'net', type, repetition_type: 'OPTIONAL' as const, ...more },
  ];
  const DECIMAL = { converted_type: 'DECIMAL' as const, scale: 2, precision: 18 };
  const written = (values: readonly (bigint | null)[], schema: ReturnType<typeof schemaOf>) =>
    new Uint8Array(parquetWriteBuffer({ columnData: [{ name: 'net', data: [...values] }], schema }));

  test.each([
    ['of 64 bits', wholes, schemaOf('INT64', DECIMAL)],
    ['of 32 bits', wholes.slice(0, 5), schemaOf('INT32', DECIMAL)],
    ['of bytes', wholes, schemaOf('FIXED_LEN_BYTE_ARRAY', { ...DECIMAL, type_length: 12 })],
  ])('%s are the nearest numbers there are, as in CSV', async (_, values, schema) => {
    const [column] = (await readParquet(fileOf('x.parquet', written(values, schema)))).columns;
    const csv = await readCsv(
      'x.csv',
      `net,n\n${WRITTEN.slice(0, values.length)
        .map((text, n) => `${text ?? ''},${n}`)
        .join('\n')}`,
    );
    const expected = csv.columns[0]!;
    expect(column!.kind === 'number' && [...column!.values]).toEqual(
      expected.kind === 'number' && [...expected.values],
    );
    expect(column!.kind === 'number' && column!.decimals).toBe(2);
  });

  test('beyond what a number holds to the last digit are read as in CSV, and told', async () => {
    const beyond = [9007199254740993n, 110n];
    const [column] = (await readParquet(fileOf('x.parquet', written(beyond, schemaOf('INT64', DECIMAL))))).columns;
    const csv = (await readCsv('x.csv', 'net,n\n90071992547409.93,1\n1.10,2')).columns[0]!;
    expect(column).toMatchObject({ kind: 'number', decimals: null, tooLarge: true });
    expect(column!.kind === 'number' && [...column!.values]).toEqual(csv.kind === 'number' && [...csv.values]);
  });
});
