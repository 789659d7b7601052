/** A file that can be read in order and in parts, wherever it lies. */
export interface SourceFile {
  readonly name: string;
  /** Bytes. */
  readonly size: number;
  /** Its bytes in pieces; as often as asked. */
  stream(): AsyncIterable<Uint8Array>;
  slice(from: number, to: number): Promise<Uint8Array>;
}

/** Bytes given at a time. */
const PIECE = 1 << 20;

/** A file that lies in memory. */
export function fileOf(name: string, bytes: Uint8Array): SourceFile {
  return {
    name,
    size: bytes.length,
    async *stream() {
      // In pieces, as no text may be longer than 512 MB.
      for (let at = 0; at < bytes.length; at += PIECE) yield bytes.subarray(at, at + PIECE);
    },
    slice: (from, to) => Promise.resolve(bytes.subarray(from, to)),
  };
}
