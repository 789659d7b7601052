import { expect, test } from 'vitest';
import type { Groups, Query } from '../../query';
import { keptAnswers } from './kept';

const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;
const query = (field: string): Query => ({
  table: 'sales',
  aggregates: [],
  by: [field],
  grain: null,
  span: null,
  where: [],
});
const answer = (count: number) => ({ count }) as Groups;

test('an answer is kept for as long as is said, and no longer', () => {
  let now = 0;
  const kept = keptAnswers(60, YEARS, () => now);
  expect(kept.of(query('shop'))).toBeNull();
  kept.keep(query('shop'), answer(1));
  now = 59_999;
  expect(kept.of(query('shop'))).toEqual({ count: 1 });
  expect(kept.of(query('line'))).toBeNull();
  kept.keep(query('line'), answer(2));
  now = 60_000;
  expect(kept.of(query('shop'))).toBeNull();
  expect(kept.of(query('line'))).toEqual({ count: 2 });
  const none = keptAnswers(0, YEARS, () => now);
  none.keep(query('shop'), answer(1));
  expect(none.of(query('shop'))).toBeNull();
});

test('of more than memory should hold the oldest go, and one that is larger than all is not kept', () => {
  const kept = keptAnswers(60, YEARS, () => 0);
  for (const field of ['a', 'b', 'c']) kept.keep(query(field), answer(900_000));
  expect(['a', 'b', 'c'].map((field) => kept.of(query(field)) !== null)).toEqual([false, true, true]);
  // The same again takes its own place.
  for (let i = 0; i < 5; i++) kept.keep(query('c'), answer(900_000));
  expect(['b', 'c'].map((field) => kept.of(query(field)) !== null)).toEqual([true, true]);
  kept.keep(query('d'), answer(3_000_000));
  expect(['b', 'c', 'd'].map((field) => kept.of(query(field)) !== null)).toEqual([true, true, false]);
});
