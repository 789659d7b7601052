import { LEFT_OUT_KEPT, type Told } from '../table';
import { encodingOf, firstBytes } from './decode';
import type { SourceFile } from './file';

/** The encoding of a file, with the bytes that mean nothing in it; null where there are none. */
export interface JudgedEncoding {
  readonly encoding: string;
  readonly bad: Told | null;
}

/** What stands around a byte that means nothing is told in so many bytes on each side. */
const AROUND = 30;
/** Bytes that show which encoding a file may have at all. */
const FIRST_BYTES = 1 << 16;

const judged = new WeakMap<SourceFile, Promise<JudgedEncoding>>();

/**
 * The encoding of a file by all of its bytes: UTF-8 where more of its letters beyond ASCII are valid in it than are not, else
 * Windows-1252, in which every byte means something. A byte order mark, or zeros in every other byte, decide at once.
 */
export function encodingFor(file: SourceFile): Promise<JudgedEncoding> {
  let found = judged.get(file);
  if (!found) judged.set(file, (found = judge(file)));
  return found;
}

async function judge(file: SourceFile): Promise<JudgedEncoding> {
  const begins = encodingOf(await firstBytes(file, FIRST_BYTES));
  if (begins.startsWith('utf-16')) return { encoding: begins, bad: null };
  let letters = 0;
  let count = 0;
  let line = 1;
  const first: { line: number; raw: string }[] = [];
  // A letter of UTF-8 that is being read: how many bytes are yet to come, and between which the next one lies.
  let [more, low, high] = [0, 0x80, 0xbf];
  let wasCr = false;
  for await (const piece of file.stream()) {
    const bad = (at: number) => {
      count++;
      if (first.length < LEFT_OUT_KEPT && first.at(-1)?.line !== line) first.push({ line, raw: around(piece, at) });
    };
    for (let at = 0; at < piece.length; at++) {
      const byte = piece[at]!;
      if (more > 0) {
        if (byte >= low && byte <= high) {
          [low, high] = [0x80, 0xbf];
          if (--more === 0) letters++;
          continue;
        }
        // It ends before it is whole; the byte begins something else.
        bad(Math.max(0, at - 1));
        [more, low, high] = [0, 0x80, 0xbf];
      }
      if (byte < 0x80) {
        if (byte === 13 || (byte === 10 && !wasCr)) line++;
        wasCr = byte === 13;
        continue;
      }
      wasCr = false;
      if (byte >= 0xc2 && byte <= 0xdf) more = 1;
      else if (byte >= 0xe0 && byte <= 0xef) {
        more = 2;
        if (byte === 0xe0) low = 0xa0;
        if (byte === 0xed) high = 0x9f;
      } else if (byte >= 0xf0 && byte <= 0xf4) {
        more = 3;
        if (byte === 0xf0) low = 0x90;
        if (byte === 0xf4) high = 0x8f;
      } else bad(at);
    }
  }
  if (more > 0) {
    count++;
    if (first.at(-1)?.line !== line) first.push({ line, raw: '�' });
  }
  if (count > letters) return { encoding: 'windows-1252', bad: null };
  return { encoding: 'utf-8', bad: count === 0 ? null : { what: 'bad bytes', count, first } };
}

/** The text around a byte, within its line. */
function around(piece: Uint8Array, at: number): string {
  const text = new TextDecoder().decode(piece.subarray(Math.max(0, at - AROUND), at + AROUND));
  const [before = '', after = ''] = [text.slice(0, text.indexOf('�')), text.slice(text.indexOf('�'))];
  return `${before.split(/[\r\n]/).at(-1)!}${after.split(/[\r\n]/)[0]!}`;
}
