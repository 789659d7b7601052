import { constants, deflateRawSync } from 'node:zlib';
import { smallestOf } from '@bold-ruler/core/handover';

/** Bytes packed by what Node has built in, in the way that suits them. */
export const smallest = smallestOf(
  (bytes) => deflateRawSync(bytes),
  (bytes) => deflateRawSync(bytes, { strategy: constants.Z_HUFFMAN_ONLY }),
);
