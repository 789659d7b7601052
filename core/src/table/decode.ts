/** A file's bytes in pieces, as often as asked. */
export type ByteSource = () => AsyncIterable<Uint8Array>;

/**
 * Text from bytes. A byte order mark decides; without one UTF-8 is taken when the first piece is valid UTF-8, else
 * Windows-1252, in which every byte means something.
 */
export function decode(bytes: ByteSource, onBytes: (read: number) => void = () => {}): () => AsyncGenerator<string> {
  return async function* () {
    let decoder: InstanceType<typeof TextDecoder> | null = null;
    let read = 0;
    for await (const piece of bytes()) {
      decoder ??= new TextDecoder(encodingOf(piece));
      read += piece.length;
      const text = decoder.decode(piece, { stream: true });
      onBytes(read);
      if (text !== '') yield text;
    }
    const rest = decoder?.decode();
    if (rest) yield rest;
  };
}

function encodingOf(first: Uint8Array): string {
  if (first[0] === 0xff && first[1] === 0xfe) return 'utf-16le';
  if (first[0] === 0xfe && first[1] === 0xff) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(first, { stream: true });
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}
