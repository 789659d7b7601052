// What the library fflate does with functions of its own, by what Node has built in: the bundle has this in its place, as packing is
// a good part of writing a file. What is not here is the library's.
import { deflateRawSync, deflateSync } from 'node:zlib';
import { crc32 } from '@bold-ruler/core/zip';

export * from 'fflate';

/** Packs bytes as zlib has it (RFC 1950). */
export const zlibSync = (bytes: Uint8Array): Uint8Array => deflateSync(bytes);

/** A file of an archive, and how it is put there: level 0 stores it as it is. */
type Put = readonly [Uint8Array, { readonly level: number; readonly mtime: Date }];

const [STORED, DEFLATED] = [0, 8];
/** Version 2.0 of ZIP, which knows folders and deflating. */
const VERSION = 20;
/** Names are UTF-8. */
const UTF8 = 0x0800;
const HEADER = Buffer.from('PK\x03\x04', 'latin1');

/** Files by their paths as a ZIP archive (APPNOTE 6.3.3, 4.3), without folders of their own, comments and the 64-bit form. */
export function zipSync(files: Readonly<Record<string, Put>>): Uint8Array {
  const [parts, list]: [Uint8Array[], Uint8Array[]] = [[], []];
  let at = 0;
  for (const [path, [bytes, { level, mtime }]] of Object.entries(files)) {
    const content = level === 0 ? bytes : deflateRawSync(bytes, { level });
    const name = Buffer.from(path);
    const about = Buffer.alloc(26);
    about.writeUInt16LE(VERSION, 0);
    about.writeUInt16LE(UTF8, 2);
    about.writeUInt16LE(level === 0 ? STORED : DEFLATED, 4);
    about.writeUInt16LE((mtime.getHours() << 11) | (mtime.getMinutes() << 5) | (mtime.getSeconds() >> 1), 6);
    about.writeUInt16LE(((mtime.getFullYear() - 1980) << 9) | ((mtime.getMonth() + 1) << 5) | mtime.getDate(), 8);
    about.writeUInt32LE(crc32(bytes), 10);
    about.writeUInt32LE(content.length, 14);
    about.writeUInt32LE(bytes.length, 18);
    about.writeUInt16LE(name.length, 22);
    parts.push(HEADER, about, name, content);
    // In the list behind the files: made by what version, then the same, then a comment, a disk, attributes, and where the file is.
    const entry = Buffer.alloc(46);
    entry.writeUInt32LE(0x02014b50, 0);
    entry.writeUInt16LE(VERSION, 4);
    about.copy(entry, 6);
    entry.writeUInt32LE(at, 42);
    list.push(entry, name);
    at += HEADER.length + about.length + name.length + content.length;
  }
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(list.length / 2, 8);
  end.writeUInt16LE(list.length / 2, 10);
  end.writeUInt32LE(
    list.reduce((sum, { length }) => sum + length, 0),
    12,
  );
  end.writeUInt32LE(at, 16);
  return Buffer.concat([...parts, ...list, end]);
}
