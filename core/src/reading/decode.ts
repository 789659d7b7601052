import { once } from '../table';
import type { SourceFile } from './file';

/** Text of a file in pieces. */
export interface Decoded {
  /** Made when it is asked for, where its bytes say the same. */
  readonly text: string;
  /** Characters of the text. */
  readonly length: number;
  /** Bytes read from the file so far. */
  readonly bytes: number;
  /** The text's own bytes, where each character is one. */
  readonly ascii: Uint8Array | null;
}

/**
 * The encoding of a file by its first bytes. A byte order mark decides; without one UTF-8 is taken when the beginning is
 * valid UTF-8, UTF-16 when every other byte is zero, else Windows-1252, in which every byte means something.
 */
export function encodingOf(first: Uint8Array): string {
  if (first[0] === 0xff && first[1] === 0xfe) return 'utf-16le';
  if (first[0] === 0xfe && first[1] === 0xff) return 'utf-16be';
  const zeros = [0, 0];
  const looked = Math.min(first.length, 200) & ~1;
  for (let i = 0; i < looked; i++) if (first[i] === 0) zeros[i & 1]!++;
  if (looked >= 4 && zeros[1]! * 2 > looked * 0.7 && zeros[0] === 0) return 'utf-16le';
  if (looked >= 4 && zeros[0]! * 2 > looked * 0.7 && zeros[1] === 0) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(first, { stream: true });
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/**
 * Decodes a file piece by piece.
 * @param strict bytes that mean nothing throw `NotUtf8`, so that the caller begins again in another encoding.
 */
export async function* decode(file: SourceFile, encoding: string, strict = false): AsyncGenerator<Decoded> {
  let decoder: TextDecoder | null = null;
  let bytes = 0;
  // As long as nothing else has come, plain bytes need no decoder.
  let isPlain = encoding === 'utf-8';
  try {
    for await (const piece of file.stream()) {
      bytes += piece.length;
      const ascii = encoding === 'utf-8' && isAscii(piece) ? piece : null;
      if (isPlain && ascii) {
        const text = once(() => new TextDecoder().decode(piece));
        yield {
          length: piece.length,
          bytes,
          ascii,
          get text() {
            return text();
          },
        };
        continue;
      }
      isPlain = false;
      // What looks like a byte order mark is one at the beginning alone.
      decoder ??= new TextDecoder(encoding, { fatal: strict, ignoreBOM: bytes > piece.length });
      const text = decoder.decode(piece, { stream: true });
      // A character that began in the piece before is longer than its bytes here.
      if (text !== '') yield { text, length: text.length, bytes, ascii: text.length === piece.length ? ascii : null };
    }
    const rest = decoder?.decode();
    if (rest) yield { text: rest, length: rest.length, bytes, ascii: null };
  } catch (error) {
    if (strict && error instanceof TypeError) throw new NotUtf8();
    throw error;
  }
}

function isAscii(bytes: Uint8Array): boolean {
  if (bytes.length < 8) return bytes.every((byte) => byte < 128);
  // Four at a time, from where four lie together.
  const lead = -bytes.byteOffset & 3;
  const words = new Int32Array(bytes.buffer, bytes.byteOffset + lead, (bytes.length - lead) >> 2);
  let all = 0;
  let i = 0;
  for (; i + 3 < words.length; i += 4) all |= words[i]! | words[i + 1]! | words[i + 2]! | words[i + 3]!;
  for (; i < words.length; i++) all |= words[i]!;
  for (let i = 0; i < lead; i++) all |= bytes[i]!;
  for (let i = lead + words.length * 4; i < bytes.length; i++) all |= bytes[i]!;
  return (all & 0x80808080) === 0;
}

/** The file is not UTF-8 after all. */
export class NotUtf8 extends Error {}

/** How many bytes a text takes in an encoding. */
export function byteLength(text: string, encoding: string): number {
  if (encoding.startsWith('utf-16')) return text.length * 2;
  if (encoding !== 'utf-8') return text.length;
  let bytes = 0;
  for (let at = 0; at < text.length;) {
    const { read, written } = encoder.encodeInto(at === 0 ? text : text.slice(at), scratch);
    if (read === 0) break;
    at += read;
    bytes += written;
  }
  return bytes;
}

const encoder = new TextEncoder();
const scratch = new Uint8Array(1 << 20);

/** The first bytes of a file, as many as are asked for where there are that many. */
export async function firstBytes(file: SourceFile, count: number): Promise<Uint8Array> {
  return file.slice(0, Math.min(count, file.size));
}
