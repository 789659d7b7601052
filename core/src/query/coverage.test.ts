import { expect, test } from 'vitest';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { open } from '../workspace/opened.fixture';
import { answerBrief } from '.';

const ORDERS = ['day,shop,net', '2025-04-02,A,100', '2025-05-03,A,120', '2025-06-10,B,80', '2025-06-30,A,10'];
const GOALS = ['month,shop,goal', '2025-04,A,90', '2025-05,A,100', '2025-06,A,20', '2025-06,B,70'];

async function asked(goals: readonly string[], brief: string) {
  const desk = await open(
    { orders: ORDERS, goals },
    [
      { id: 'orders', date: 'day' },
      { id: 'goals', date: 'month', grain: 'month' },
    ],
    { benchmarks: [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' }] },
  );
  const { rows, total, checks } = numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
  return { gaps: [...rows.map(({ gap }) => gap), total.gap], told: checks.map(({ text }) => text) };
}

test('rows and targets that begin together within the period are held against one another', async () => {
  expect(await asked(GOALS, 'net by shop during year to date against goal')).toEqual({ gaps: [20, 10, 30], told: [] });
  expect((await asked(GOALS, 'net during year to date against goal')).gaps).toEqual([30, 30]);
});

test('targets for days before the rows begin are held against nothing, for whom there are such; the days are told', async () => {
  const { gaps, told } = await asked([...GOALS, '2025-02,A,50'], 'net by shop during year to date against goal');
  expect(gaps).toEqual([null, 10, null]);
  expect(told).toEqual([
    '“goal” has targets for days before 1 Apr 2025, when the rows of “orders” begin: what it has is not held against more than it covers, so the gap there is left blank',
  ]);
});
