import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fitsPattern, isPattern } from './pattern';

/** The definition: a * stands for any letters, also none. */
const fits = (name: string, pattern: string): boolean => {
  if (pattern === '') return name === '';
  if (pattern[0] !== '*') return name[0] === pattern[0] && fits(name.slice(1), pattern.slice(1));
  return fits(name, pattern.slice(1)) || (name !== '' && fits(name.slice(1), pattern));
};

test('a name fits a pattern as the definition says', () => {
  const text = (letters: string) => fc.string({ unit: fc.constantFrom(...letters), maxLength: 9 });
  fc.assert(
    fc.property(text('ab.'), text('ab.*'), (name, pattern) => {
      expect(fitsPattern(name, pattern)).toBe(!name.startsWith('.') && fits(name, pattern));
    }),
    { numRuns: 2_000 },
  );
});

test('letters that mean something elsewhere mean themselves', () => {
  expect(fitsPattern('sales (1).csv', 'sales (*).csv')).toBe(true);
  expect(fitsPattern('salesX.csv', 'sales?.csv')).toBe(false);
  expect(['sales/*.csv', 'sales.csv'].map(isPattern)).toEqual([true, false]);
});

test('a pattern of many stars and a long name are answered at once', () => {
  expect(fitsPattern('a'.repeat(5_000), `${'*a'.repeat(400)}*b.csv`)).toBe(false);
});
