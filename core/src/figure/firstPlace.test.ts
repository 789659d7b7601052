import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { drawnFrom } from './drawn.fixture';

const titleOf = async (values: readonly number[], more = '') => {
  const csv = ['shop,net', ...values.map((value, i) => `${'ABCDEF'[i]},${value}`)].join('\n');
  const { scene } = await drawnFrom(csv, `rank of net by shop as bars${more}`, {
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  });
  return scene.title;
};

test('“first” is said of the one that is first, “shares first place” where several are, neither where the first is not shown', () =>
  fc.assert(
    fc.asyncProperty(fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 2, maxLength: 6 }), async (values) => {
      const most = Math.max(...values);
      const leaders = values.flatMap((value, i) => (value === most ? 'ABCDEF'[i]! : []));
      const title = await titleOf(values);
      if (leaders.length === 1) expect(title).toBe(`${leaders[0]} first in net`);
      else expect(title).toMatch(new RegExp(`^[${leaders.join('')}] shares first place in net$`));
    }),
    { numRuns: tries(30) },
  ));

test('of the lowest alone nobody is called first', async () => {
  expect(await titleOf([3, 2, 1], ', keep 1 lowest')).not.toContain('first');
  expect(await titleOf([3, 2, 1], ', keep 1 highest')).toBe('A first in net');
});
