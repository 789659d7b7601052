/** Packs bytes (RFC 1951). Whatever does it, a browser unpacks it. */
export type Deflate = (bytes: Uint8Array) => Uint8Array;

/** Packs in the way that suits the bytes: equal runs (the first), or only letters of which some are frequent (the second). */
export function smallestOf(runs: Deflate, frequent: Deflate): Deflate {
  return (bytes) => {
    const [one, other] = [runs(bytes), frequent(bytes)];
    return one.length <= other.length ? one : other;
  };
}

/** Where a program runs that has nothing built in for it, a library does it as zlib would, to the byte. */
export async function smallestAnywhere(): Promise<Deflate> {
  const { default: pako } = await import('pako');
  return smallestOf(
    (bytes) => pako.deflateRaw(bytes),
    (bytes) => pako.deflateRaw(bytes, { strategy: HUFFMAN_ONLY }),
  );
}

const HUFFMAN_ONLY = 2;
