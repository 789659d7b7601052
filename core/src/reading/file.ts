/** A file that can be read in order and in parts, wherever it lies. */
export interface SourceFile {
  readonly name: string;
  /** Bytes. */
  readonly size: number;
  /** Its bytes in pieces; as often as asked. */
  stream(): AsyncIterable<Uint8Array>;
  slice(from: number, to: number): Promise<Uint8Array>;
}

/** A file that lies in memory. */
export function fileOf(name: string, bytes: Uint8Array): SourceFile {
  return {
    name,
    size: bytes.length,
    async *stream() {
      if (bytes.length > 0) yield bytes;
    },
    slice: (from, to) => Promise.resolve(bytes.subarray(from, to)),
  };
}
