import fc from 'fast-check';
import { expect, test } from 'vitest';
import { likeTest } from './like';
import { tries } from '../proof/tries.fixture';

/** By the definition: every way of giving text to each `%`. */
function slowly(pattern: readonly string[], text: readonly string[]): boolean {
  const [first, ...rest] = pattern;
  if (first === undefined) return text.length === 0;
  if (first === '%')
    return Array.from({ length: text.length + 1 }, (_, i) => i).some((i) => slowly(rest, text.slice(i)));
  return text.length > 0 && (first === '_' || first === text[0]) && slowly(rest, text.slice(1));
}

test('it is what the definition says', () =>
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('a', 'b', '%', '%', '_', '😀', '.'), { maxLength: 7 }),
      fc.array(fc.constantFrom('a', 'b', '😀', '\n', '.'), { maxLength: 8 }),
      (pattern, text) => {
        expect(likeTest(pattern.join(''))(text.join(''))).toBe(slowly(pattern, text));
      },
    ),
    { numRuns: tries(1000) },
  ));

test('long notes that almost fit are looked through once', () => {
  const note = 'abcdefghij'.repeat(2_000);
  for (const pattern of ['%a%o%e%x%', `${'%a'.repeat(300)}%x`, `%${'_'.repeat(50)}%a%b%c%d%x%`])
    expect(likeTest(pattern)(note)).toBe(false);
  expect(likeTest('%j%a%j')(note)).toBe(true);
});
