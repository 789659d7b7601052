import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readWritten, written } from './wire';

const leaf = fc.oneof(
  fc.string(),
  fc.boolean(),
  fc.constant(null),
  fc.integer(),
  fc.float64Array(),
  fc.int32Array(),
  fc.uint8Array(),
  fc.constant(Float64Array.of(NaN, -0, Infinity, 2 ** 53 - 1)),
);
const answer = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 4 },
    leaf,
    fc.array(tie('any'), { maxLength: 4 }),
    fc.dictionary(
      fc.string().filter((key) => key !== '~' && key !== '__proto__'),
      tie('any'),
      { maxKeys: 4 },
    ),
    fc.array(fc.tuple(fc.string(), tie('any')), { maxLength: 4 }).map((pairs) => new Map(pairs)),
  ),
})).any;

test('law: an answer that is sent as text is the same answer', () => {
  fc.assert(
    fc.property(answer, (value) => {
      expect(readWritten(written(value))).toEqual(value);
    }),
  );
});

test('a part of a larger array is sent alone', () => {
  const part = Float64Array.of(1, 2, 3, 4).subarray(1, 3);
  expect(readWritten(written(part))).toEqual(Float64Array.of(2, 3));
});
