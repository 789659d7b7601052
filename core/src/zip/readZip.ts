import { Inflate } from 'fflate';
import { Problem } from '../problem';
import { crc32 } from './crc32';

/** A part of a zip file (APPNOTE 6.3), as its directory lists it. */
export interface ZipEntry {
  readonly name: string;
  /** Bytes when unpacked. */
  readonly size: number;
}

interface Found extends ZipEntry {
  readonly rawName: Uint8Array;
  readonly method: number;
  readonly flags: number;
  readonly crc: number;
  readonly packed: number;
  readonly at: number;
}

const DIRECTORY_END = 0x06054b50;
const DIRECTORY_ENTRY = 0x02014b50;
const LOCAL_HEADER = 0x04034b50;
const LARGE_END = 0x06064b50;
const ENDING = 22;
/** Where a part's own header has its checksum. */
const CRC = 14;
/** Packed bytes unpacked at a time. */
const PIECE = 1 << 16;
/** The flag that a name is UTF-8. */
const UTF8 = 0x800;
const MOST_ENTRIES = 65_534;

const damaged = (sentence: string) => new Problem('broken-zip', sentence, undefined, 'ask for the file once more');

/**
 * Unpacks the parts of a zip file that are wanted. Nothing is taken on trust: the directory has to fit the parts' own headers,
 * names are there once, parts do not overlap, and each unpacks to the size and the checksum that are written.
 * Throws a `Problem` (`broken-zip`) where anything of that is not so.
 * @param wanted is asked for every part in the order of the directory, and may throw
 */
export function readZip(bytes: Uint8Array, wanted: (entry: ZipEntry) => boolean): Map<string, Uint8Array> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const { entries, begins } = directoryOf(bytes, view);
  const names = new Set<string>();
  for (const { name } of entries) {
    const key = name.toLowerCase();
    if (names.has(key)) throw damaged(`it holds two parts called ${name.slice(0, 80)}`);
    names.add(key);
  }
  const places = entries.map((entry) => ({ entry, from: entry.at, data: dataOf(bytes, view, entry) }));
  const ordered = [...places].sort((a, b) => a.from - b.from);
  ordered.forEach(({ entry, data }, i) => {
    if (data + entry.packed > (ordered[i + 1]?.from ?? begins))
      throw damaged(`its part ${entry.name} runs into another`);
  });
  const parts = new Map<string, Uint8Array>();
  for (const { entry, data } of places)
    if (wanted(entry)) parts.set(entry.name, unpacked(entry, bytes.subarray(data, data + entry.packed)));
  return parts;
}

/** The list of parts at the end of the file. */
function directoryOf(bytes: Uint8Array, view: DataView): { entries: Found[]; begins: number } {
  let end = bytes.length - ENDING;
  while (end >= 0 && end > bytes.length - ENDING - 0x10000 && view.getUint32(end, true) !== DIRECTORY_END) end--;
  if (end < 0 || view.getUint32(end, true) !== DIRECTORY_END) throw damaged('its end is missing');
  const count = view.getUint16(end + 10, true);
  const size = view.getUint32(end + 12, true);
  const begins = view.getUint32(end + 16, true);
  if (count > MOST_ENTRIES || size === 0xffffffff || begins === 0xffffffff)
    throw damaged('it is of the kind for more than 4 GB, which is not read');
  if (view.getUint32(end + 4, true) !== 0 || view.getUint16(end + 8, true) !== count)
    throw damaged('it is a part of several');
  // Some programs write the records for large files (Zip64) also where they are not needed.
  const behind = begins + size;
  const isLarge = behind + 4 <= end && view.getUint32(behind, true) === LARGE_END;
  if (behind !== end && !isLarge) throw damaged('its list of parts is not where it should be');
  const entries: Found[] = [];
  let at = begins;
  for (let i = 0; i < count; i++) {
    if (at + 46 > behind || view.getUint32(at, true) !== DIRECTORY_ENTRY) throw damaged('its list of parts is damaged');
    const length = view.getUint16(at + 28, true);
    const next = at + 46 + length + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    if (next > behind) throw damaged('its list of parts is damaged');
    const rawName = bytes.subarray(at + 46, at + 46 + length);
    const flags = view.getUint16(at + 8, true);
    entries.push({
      name: textOf(rawName, flags),
      rawName,
      flags,
      method: view.getUint16(at + 10, true),
      crc: view.getUint32(at + 16, true),
      packed: view.getUint32(at + 20, true),
      size: view.getUint32(at + 24, true),
      at: view.getUint32(at + 42, true),
    });
    at = next;
  }
  if (at !== behind) throw damaged('its list of parts is damaged');
  return { entries, begins };
}

/** Names are UTF-8 where that is said, else single bytes. */
function textOf(raw: Uint8Array, flags: number): string {
  if (flags & UTF8) return new TextDecoder().decode(raw);
  return Array.from(raw, (byte) => String.fromCharCode(byte)).join('');
}

/** Where the bytes of a part begin; its own header has to say what the directory says. */
function dataOf(bytes: Uint8Array, view: DataView, entry: Found): number {
  const { at, name, rawName, method, crc, packed, size } = entry;
  const wrong = () => damaged(`the header of its part ${name.slice(0, 80)} says something else than its list of parts`);
  if (at + 30 > bytes.length || view.getUint32(at, true) !== LOCAL_HEADER) throw wrong();
  const flags = view.getUint16(at + 6, true);
  const length = view.getUint16(at + 26, true);
  const isSame =
    length === rawName.length &&
    rawName.every((byte, i) => bytes[at + 30 + i] === byte) &&
    view.getUint16(at + 8, true) === method &&
    ((flags ^ entry.flags) & UTF8) === 0;
  if (!isSame) throw wrong();
  if ((flags | entry.flags) & 1) throw damaged('it is locked with a password');
  // Where sizes were not known yet, they stand behind the part.
  const later = (flags & 8) !== 0;
  const says = (place: number, value: number) => {
    const own = view.getUint32(at + place, true);
    // Sizes that were held for large ones stand further behind; the checksum tells.
    return own === value || (later && own === 0) || (place !== CRC && own === 0xffffffff);
  };
  if (!says(CRC, crc) || !says(18, packed) || !says(22, size)) throw wrong();
  return at + 30 + length + view.getUint16(at + 28, true);
}

function unpacked({ name, method, size, packed, crc }: Found, data: Uint8Array): Uint8Array {
  const wrong = (what: string) => damaged(`its part ${name.slice(0, 80)} ${what}`);
  if (data.length !== packed) throw wrong('is cut off');
  let content: Uint8Array;
  if (method === 0) content = data.slice();
  else if (method === 8) content = inflated(data, size, wrong);
  else throw wrong(`is packed in a way that is not read (${method})`);
  if (content.length !== size) throw wrong('does not have the size that is written');
  if (crc32(content) !== crc) throw wrong('is damaged: its checksum is another');
  return content;
}

/** Unpacks no more than the size that is written. */
function inflated(data: Uint8Array, size: number, wrong: (what: string) => Problem): Uint8Array {
  const content = new Uint8Array(Math.min(size, data.length * 1100 + 1024));
  let filled = 0;
  const inflate = new Inflate((chunk) => {
    if (filled + chunk.length > size || filled + chunk.length > content.length)
      throw wrong('unpacks to more than is written');
    content.set(chunk, filled);
    filled += chunk.length;
  });
  try {
    for (let at = 0; at < data.length || at === 0; at += PIECE)
      inflate.push(data.subarray(at, at + PIECE), at + PIECE >= data.length);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw wrong('is damaged and cannot be unpacked');
  }
  return content.subarray(0, filled);
}
