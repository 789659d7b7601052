import { expect, test } from 'vitest';
import type { ReaderChoice } from '@bold-ruler/core/desk';
import { NOTHING, readAddress, writeAddress } from './readerState';

test('what a reader has chosen comes back from the address as it was, blanks and odd names included', () => {
  const choice: ReaderChoice = {
    only: { 'product line': ['Strings & more', null], channel: ['a=b', '50 %'] },
    period: 'fiscal 2026 Q1',
    switched: ['standing/behind'],
    picked: { figure: 'f1', field: 'territory', member: null },
  };
  expect(readAddress(writeAddress('month', choice))).toEqual({ page: 'month', choice });
  const within = { figure: 'f1', field: 'rep', member: 'A & B', within: [{ field: 'territory', member: null }] };
  const gone: ReaderChoice = { ...NOTHING, picked: within };
  expect(readAddress(writeAddress('month', gone))).toEqual({ page: 'month', choice: gone });
  expect(readAddress('?pick=f1&pick=a&pick=b&pick=c').choice.picked).toBeNull();
  expect(writeAddress(null, NOTHING)).toBe('');
  expect(readAddress('?only+__proto__=x&pick=f1').choice.picked).toBeNull();
});
