import { expect, test } from 'vitest';
import { linesNamed } from '.';

const named = (lines: readonly number[], files?: readonly string[], count = lines.length) =>
  linesNamed({ lines, ...(files ? { files } : {}) }, count, 3);

test('lines are named with their files, once for those beside one another, and the rest is counted', () => {
  expect(named([4])).toBe('line 4');
  expect(named([4, 9])).toBe('lines 4, 9');
  expect(named([4, 9, 11], undefined, 1204)).toBe('lines 4, 9, 11 and 1,201 more');
  expect(named([66, 187, 66], ['May.csv', 'May.csv', 'June.csv'])).toBe(
    'lines 66, 187 of May.csv; line 66 of June.csv',
  );
  expect(named([1, 2, 3, 4], ['a', 'b', 'a', 'c'])).toBe('line 1 of a; line 2 of b; line 3 of a and 1 more');
});
