import { crc32 } from '../zip';

// A Parquet file by hand, with one column of doubles in one page, so that a page can be what no program writes.

type Field = readonly [id: number, type: 'i32' | 'i64' | 'binary' | 'list' | 'struct' | 'bool', value: unknown];

const TYPES = { i32: 5, i64: 6, binary: 8, list: 9, struct: 12, bool: 1 } as const;

function varint(value: number): number[] {
  const bytes: number[] = [];
  for (let left = value; ; left = Math.floor(left / 128)) {
    if (left < 128) return [...bytes, left];
    bytes.push((left % 128) | 128);
  }
}

const zigzag = (value: number) => varint(value >= 0 ? value * 2 : -value * 2 - 1);

/** A struct in the compact protocol of Thrift. */
function struct(fields: readonly Field[]): number[] {
  let last = 0;
  const bytes = fields.flatMap(([id, type, value]) => {
    const code = type === 'bool' ? (value ? 1 : 2) : TYPES[type];
    const head = ((id - last) << 4) | code;
    last = id;
    return [head, ...(type === 'bool' ? [] : plain(type, value))];
  });
  return [...bytes, 0];
}

function plain(type: Field[1], value: unknown): number[] {
  switch (type) {
    case 'binary': {
      const bytes = [...new TextEncoder().encode(value as string)];
      return [...varint(bytes.length), ...bytes];
    }
    case 'struct':
      return struct(value as readonly Field[]);
    case 'list': {
      const { of, items } = value as { of: 'i32' | 'binary' | 'struct'; items: readonly unknown[] };
      return [(items.length << 4) | TYPES[of], ...items.flatMap((item) => plain(of, item))];
    }
    default:
      return zigzag(value as number);
  }
}

export interface MadePage {
  readonly version: 1 | 2;
  readonly crc?: 'true' | 'false';
  /** Of a page of version 2: its header says how long its levels are. */
  readonly levels?: boolean;
  /** Bytes and values that the header says there are. */
  readonly unpacked?: number;
  readonly values?: number;
}

/** The bytes of a file with a column `net` of doubles that are all there. */
export function parquetWithPage(
  values: readonly number[],
  { version, crc, levels = true, ...said }: MadePage,
): Uint8Array {
  const data = new Uint8Array(Float64Array.from(values).buffer);
  const check = crc === undefined ? [] : ([[4, 'i32', (crc32(data) ^ (crc === 'true' ? 0 : 1)) | 0]] as const);
  const count = values.length;
  const page: Field[] = [
    [1, 'i32', version === 1 ? 0 : 3],
    [2, 'i32', said.unpacked ?? data.length],
    [3, 'i32', data.length],
    ...check,
    version === 1
      ? [
          5,
          'struct',
          [
            [1, 'i32', said.values ?? count],
            [2, 'i32', 0],
            [3, 'i32', 3],
            [4, 'i32', 3],
          ],
        ]
      : [
          8,
          'struct',
          [
            [1, 'i32', count],
            [2, 'i32', 0],
            [3, 'i32', count],
            [4, 'i32', 0],
            ...(levels
              ? [
                  [5, 'i32', 0],
                  [6, 'i32', 0],
                ]
              : []),
            [7, 'bool', false],
          ],
        ],
  ];
  const pages = [...struct(page), ...data];
  const column: Field[] = [
    [1, 'i32', 5],
    [2, 'list', { of: 'i32', items: [0] }],
    [3, 'list', { of: 'binary', items: ['net'] }],
    [4, 'i32', 0],
    [5, 'i64', count],
    [6, 'i64', pages.length],
    [7, 'i64', pages.length],
    [9, 'i64', 4],
  ];
  const foot = struct([
    [1, 'i32', 2],
    [
      2,
      'list',
      {
        of: 'struct',
        items: [
          [
            [4, 'binary', 'schema'],
            [5, 'i32', 1],
          ],
          [
            [1, 'i32', 5],
            [3, 'i32', 0],
            [4, 'binary', 'net'],
          ],
        ],
      },
    ],
    [3, 'i64', count],
    [
      4,
      'list',
      {
        of: 'struct',
        items: [
          [
            [
              1,
              'list',
              {
                of: 'struct',
                items: [
                  [
                    [2, 'i64', 4],
                    [3, 'struct', column],
                  ],
                ],
              },
            ],
            [2, 'i64', pages.length],
            [3, 'i64', count],
          ],
        ],
      },
    ],
  ]);
  const magic = [...new TextEncoder().encode('PAR1')];
  const length = new Uint8Array(Uint32Array.of(foot.length).buffer);
  return Uint8Array.from([...magic, ...pages, ...foot, ...length, ...magic]);
}
