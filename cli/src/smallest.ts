import { constants, deflateRawSync } from 'node:zlib';

/** Bytes packed in the way that suits them: equal runs, or only letters of which some are frequent. */
export function smallest(bytes: Uint8Array): Uint8Array {
  const [runs, frequent] = [deflateRawSync(bytes), deflateRawSync(bytes, { strategy: constants.Z_HUFFMAN_ONLY })];
  return runs.length <= frequent.length ? runs : frequent;
}
