import { expect, test } from 'vitest';
import { fileName } from './fileName';
import { freeId, freeName } from './freeName';

test('a name that every file system takes', () => {
  expect(fileName('Pellwether, sales to March 2026')).toBe('Pellwether-sales-to-March-2026');
  expect(fileName('a/b\\c:d*e?f"g<h>i|j')).toBe('abcdefghij');
  expect(fileName('Süd – Größe')).toBe('Süd-Größe');
  expect(fileName('')).toBe('report');
  expect(fileName('???')).toBe('report');
  expect(fileName('x'.repeat(200))).toHaveLength(80);
  expect(fileName('東京')).toBe('東京');
});

test('names and ids that are free, whatever their case', () => {
  expect(freeName('shared', [])).toBe('shared');
  expect(freeName('shared', ['Shared', 'shared 2'])).toBe('shared 3');
  expect(freeId('f', [])).toBe('f1');
  expect(freeId('f', ['f1', 'f2'])).toBe('f3');
  expect(freeId('f', ['f3', 'x'])).toBe('f4');
});
