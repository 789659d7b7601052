import { expect, test } from 'vitest';
import { writeNumber, writePercent, writingFor } from '.';

const euros = { style: 'currency', currency: 'EUR' } as const;

test.each<[Parameters<typeof writingFor>[0], number, number, string]>([
  [euros, 1_579_882.86, 1_579_882.86, '€1.58M'],
  [euros, 1_579_882.86, 45_210, '€0.05M'],
  [euros, 91_000, 12_340, '€12.3K'],
  [euros, 912, 912.4, '€912'],
  [euros, 1e15, 1e15, '€1,000,000B'],
  [euros, 1e15, 5_000_000, '€5.00M'],
  [euros, 1e15, -0.25, '−€0.25'],
  [euros, 45_210, 0, '€0'],
  [{ ...euros, scale: 'B' }, 1e15, 5_000_000, '€0B'],
  [{ ...euros, scale: 'none', decimals: 2 }, 1, -1234567.5, '−€1,234,567.50'],
  [{ style: 'currency', currency: 'CHF', decimals: 2, scale: 'none' }, 1, 5, 'CHF\u00a05.00'],
  [{ style: 'number', decimals: 1, unit: 'days' }, 10, 5.25, '5.3\u00a0days'],
  [{ style: 'percent' }, 1, 0.1235, '12.4%'],
  [{ style: 'number', decimals: 2 }, 10, 1.005, '1.01'],
  [{ style: 'number', decimals: 0 }, 10, -0.4, '0'],
  [{ style: 'number' }, 10, NaN, '–'],
  [{ style: 'number', blank: 'none' }, 10, NaN, 'none'],
  [{ ...euros, scale: 'none', decimals: 2, negative: 'parentheses' }, 1, -1234.5, '(€1,234.50)'],
  [{ style: 'number', decimals: 1, plus: true }, 10, 2, '+2.0'],
  [{ style: 'number', decimals: 1, plus: true }, 10, 0, '0.0'],
  [{ style: 'points' }, 1, 0.0512, '5.1\u00a0pp'],
  [{ style: 'number', decimals: 1, scale: 'none', separators: 'comma' }, 1e6, -1234567.5, '−1.234.567,5'],
  [{ style: 'number', decimals: 0, scale: 'none', separators: 'space' }, 1e6, 1234567, '1\u202f234\u202f567'],
  [{ style: 'number', decimals: 0, unit: 'No.', unitBefore: true }, 10, 7, 'No.\u00a07'],
])('%o up to %d: %d is %s', (format, magnitude, value, text) => {
  expect(writeNumber(value, writingFor(format, magnitude))).toBe(text);
});

test('0.1 + 0.2 prints 0.3, and signs are true signs', () => {
  expect(writeNumber(0.1 + 0.2, writingFor({ style: 'number', decimals: 1 }, 1))).toBe('0.3');
  expect([writePercent(0.05), writePercent(-0.05), writePercent(0)]).toEqual(['+5.0%', '−5.0%', '±0.0%']);
});

test('a percentage has the separators and the sign of what it stands beside', () => {
  const format = {
    style: 'currency',
    currency: 'EUR',
    negative: 'parentheses',
    separators: 'comma',
    plus: true,
  } as const;
  expect(writePercent(-41.609, 1, true, format)).toBe('(4.160,9%)');
  expect(writePercent(0.108, 1, true, format)).toBe('+10,8%');
  expect(writePercent(0.108, 1, false, format)).toBe('10,8%');
  expect(writePercent(-0.108)).toBe('−10.8%');
});
