import fc from 'fast-check';
import { unzipSync, unzlibSync, zipSync as libraryZip } from 'fflate';
import { expect, test } from 'vitest';
import { readZip } from '@bold-ruler/core/zip';
import { zipSync, zlibSync } from './packing';

// What the bundle has instead of the library is held against the library, and against our own reader, which takes nothing on trust.

const path = fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' }).filter((name) => !/[/\\]/.test(name));
const bytes = fc.uint8Array({ maxLength: 400 });
const mtime = new Date(1980, 0, 1);

test('an archive holds what was put into it, packed or as it is, under any name', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.tuple(path, bytes, fc.constantFrom(0, 6)), { selector: ([name]) => name.toLowerCase() }),
      (wanted) => {
        const archive = new Uint8Array(
          zipSync(Object.fromEntries(wanted.map(([name, content, level]) => [name, [content, { level, mtime }]]))),
        );
        for (const held of [unzipSync(archive), Object.fromEntries(readZip(archive, () => true))]) {
          expect(Object.keys(held).sort()).toEqual(wanted.map(([name]) => name).sort());
          for (const [name, content] of wanted) expect([...held[name]!]).toEqual([...content]);
        }
      },
    ),
  );
});

test('is the library’s byte for byte where nothing is packed, but for saying that all names are UTF-8', () => {
  const content = new Uint8Array(2000).map((_, i) => (i * i) % 251);
  const files = { 'a/b.bin': [content, { level: 0, mtime: new Date(2026, 2, 18, 13, 14, 16) }] } as const;
  const theirs = libraryZip(files as never);
  const own = zipSync(files);
  expect(own.length).toBe(theirs.length);
  expect([...own].flatMap((byte, i) => (byte === theirs[i] ? [] : i))).toEqual([7, 30 + 'a/b.bin'.length + 2000 + 9]);
});

test('what is packed for a PDF is unpacked by the library', () => {
  fc.assert(
    fc.property(bytes, (content) => {
      expect([...unzlibSync(new Uint8Array(zlibSync(content)))]).toEqual([...content]);
    }),
  );
});
