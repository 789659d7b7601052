import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import JSZip from 'jszip';
import { describe, expect, test } from 'vitest';
import { isProblem } from '../problem';
import { crc32, readZip } from '.';

const everything = () => true;
const textsOf = (parts: ReadonlyMap<string, Uint8Array>) =>
  [...parts].map(([name, bytes]) => [name, Buffer.from(bytes).toString()]);
const PARTS = { 'a.csv': 'day,net\n2025-01-01,5\n'.repeat(9), 'Größe/b.txt': 'x', 'empty.txt': '' };
const small = zipSync(Object.fromEntries(Object.entries(PARTS).map(([name, text]) => [name, strToU8(text)])));

test('the checksum is that of the standard, in one go or in pieces', () => {
  expect(crc32(strToU8('123456789'))).toBe(0xcbf43926);
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 60 }), fc.nat(60), (bytes, cut) => {
      expect(crc32(bytes.subarray(cut), crc32(bytes.subarray(0, cut)))).toBe(crc32(bytes));
    }),
  );
});

describe('what other programs have packed is read', () => {
  test('with sizes in front', () => expect(textsOf(readZip(small, everything))).toEqual(Object.entries(PARTS)));

  test.each([
    ['with sizes behind each part', { streamFiles: true, compression: 'DEFLATE' as const }],
    ['not packed', { compression: 'STORE' as const }],
    ['with a note at its end', { comment: 'made by hand', compression: 'DEFLATE' as const }],
  ])('%s', async (_, how) => {
    const zip = new JSZip();
    for (const [name, text] of Object.entries(PARTS)) zip.file(name, text, { createFolders: false });
    expect(textsOf(readZip(await zip.generateAsync({ type: 'uint8array', ...how }), everything))).toEqual(
      Object.entries(PARTS),
    );
  });
});

describe('records for large files where nothing is large', () => {
  /** As a script's zip library writes a part whose size it does not know beforehand. */
  const held = Uint8Array.from(
    Buffer.from(
      '504b03042d000000080000002100e6edcbe6ffffffffffffffff05001400612e63737601001000150000000000000015000000000000004b49acd4c94b2de132323032d5353004221d532e00504b01022d032d000000080000002100e6edcbe61500000015000000050000000000000000000000800100000000612e637376504b05060000000001000100330000004c0000000000',
      'hex',
    ),
  );

  test('sizes that stand behind a part’s own header', () => {
    expect(textsOf(readZip(held, everything))).toEqual([['a.csv', 'day,net\n2025-01-01,5\n']]);
    const damaged = held.slice();
    damaged[65]! ^= 1;
    expect(() => readZip(damaged, everything)).toThrow(/checksum|damaged/);
  });

  test('an end of its own before the end', () => {
    const at = held.length - 22;
    const more = new Uint8Array(56 + 20);
    new DataView(more.buffer).setUint32(0, 0x06064b50, true);
    new DataView(more.buffer).setUint32(56, 0x07064b50, true);
    const bytes = Uint8Array.from([...held.subarray(0, at), ...more, ...held.subarray(at)]);
    expect(textsOf(readZip(bytes, everything))).toEqual([['a.csv', 'day,net\n2025-01-01,5\n']]);
    expect(() =>
      readZip(Uint8Array.from([...held.subarray(0, at), 1, 2, 3, 4, ...held.subarray(at)]), everything),
    ).toThrow(/not where it should be/);
  });
});

test('only what is wanted is unpacked, by name and size', () => {
  expect([...readZip(small, ({ size }) => size === 1).keys()]).toEqual(['Größe/b.txt']);
});

test('each bit that is turned over is found, or changes nothing', () => {
  const sound = JSON.stringify(textsOf(readZip(small, everything)));
  let found = 0;
  for (let bit = 0; bit < small.length * 8; bit++) {
    const bytes = small.slice();
    bytes[bit >> 3]! ^= 1 << (bit & 7);
    try {
      expect(JSON.stringify(textsOf(readZip(bytes, everything))), `bit ${bit}`).toBe(sound);
    } catch (error) {
      if (!isProblem(error)) throw error;
      expect(error.code).toBe('broken-zip');
      found++;
    }
  }
  expect(found).toBeGreaterThan(small.length * 4);
});

test('cut anywhere, it is damaged', () => {
  for (let length = 0; length < small.length; length++)
    expect(() => readZip(small.subarray(0, length), everything)).toThrow(
      expect.objectContaining({ code: 'broken-zip' }) as Error,
    );
});

/** Two parts, the second called as the first is, or as it is in capitals. */
function doubled(letter: 'a' | 'A'): Uint8Array {
  const bytes = zipSync({ 'a.csv': strToU8('one'), 'b.csv': strToU8('two') });
  for (let i = 0; i < bytes.length; i++)
    if (Buffer.from(bytes.subarray(i, i + 5)).toString() === 'b.csv') bytes[i] = letter.charCodeAt(0);
  return bytes;
}

/** Two parts, of which the first is as long as it is and so many bytes of what follows. */
function overlapping(more: number): Uint8Array {
  const first = strToU8('one');
  const bytes = zipSync({ 'a.csv': [first, { level: 0 }], 'b.csv': [strToU8('two'), { level: 0 }] });
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const [own] = placesOf(view, 0x04034b50);
  const [listed] = placesOf(view, 0x02014b50);
  const size = first.length + more;
  const begins = own! + 30 + 'a.csv'.length;
  const crc = crc32(bytes.subarray(begins, begins + size));
  for (const [at, value] of [
    [own! + 14, crc],
    [own! + 18, size],
    [own! + 22, size],
    [listed! + 16, crc],
    [listed! + 20, size],
    [listed! + 24, size],
  ] as const)
    view.setUint32(at, value, true);
  return bytes;
}

/** Where a mark of a zip file stands. */
const placesOf = (view: DataView, mark: number) =>
  Array.from({ length: view.byteLength - 3 }, (_, i) => i).filter((i) => view.getUint32(i, true) === mark);

test('a part runs up to the next one, and not into it', () => {
  expect(textsOf(readZip(overlapping(0), everything))).toEqual([
    ['a.csv', 'one'],
    ['b.csv', 'two'],
  ]);
  for (const more of [1, 30, 38]) expect(() => readZip(overlapping(more), everything)).toThrow(/runs into another/);
});

/** A part that says it is smaller, or larger, than it is. */
function resized(size: number): Uint8Array {
  const bytes = zipSync({ 'a.csv': strToU8('0'.repeat(5000)) });
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  view.setUint32(22, size, true);
  for (let i = 0; i < bytes.length - 4; i++)
    if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, size, true);
  return bytes;
}

test.each([
  ['two parts called a.csv', doubled('a')],
  ['two parts called A.csv', doubled('A')],
  ['unpacks to more than is written', resized(100)],
  ['does not have the size', resized(6000)],
  ['unpacks to more|does not have', resized(0xfffffff0)],
  ['its end is missing', strToU8('PK')],
])('%s', (says, bytes) => {
  expect(() => readZip(bytes, everything)).toThrow(new RegExp(says));
});
