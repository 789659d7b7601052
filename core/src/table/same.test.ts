import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { cells, open, rowsOf } from '../workspace/opened.fixture';

describe('names that are read as others', () => {
  const GOALS = ['rep,goal', 'N. Ohara,5', 'Nils Ohara,1', '"Vale, Ines",7'];

  test('are one member before anything else is made of them', async () => {
    const desk = await open({ orders: ['rep,net', 'N. Ohara,1', 'Nils Ohara,2', 'Ines Vale,4'], goals: GOALS }, [
      { id: 'orders', same: { rep: { 'N. Ohara': 'Nils Ohara' } }, derived: [{ name: 'who', expression: 'rep' }] },
      { id: 'goals', same: { rep: { 'N. Ohara': 'Nils Ohara', 'Vale, Ines': 'Ines Vale', nobody: 'Nils Ohara' } } },
    ]);
    expect(cells(desk, 'orders', 'who')).toEqual(['Nils Ohara', 'Nils Ohara', 'Ines Vale']);
    expect(desk.vocabulary.members('rep')).toEqual(['Ines Vale', 'Nils Ohara']);
    expect(cells(desk, 'goals', 'rep')).toEqual(['Nils Ohara', 'Nils Ohara', 'Ines Vale']);
    expect(await rowsOf(desk, 'net by rep as bars')).toEqual([
      ['Ines Vale', 4],
      ['Nils Ohara', 3],
    ]);
  });

  test('law: reading names twice is reading them once, and no row is lost', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.constantFrom<string>('a', 'b', 'c', 'constructor', '__proto__', 'd'), {
          minLength: 1,
          maxLength: 20,
        }),
        fc.array(
          fc.tuple(
            fc.constantFrom<string>('a', 'b', 'c', 'constructor', 'toString'),
            fc.constantFrom('a', 'b', 'd', 'new', 'constructor'),
          ),
        ),
        async (members, pairs) => {
          const map = JSON.parse(
            `{${pairs.map(([from, to]) => `${JSON.stringify(from)}:${JSON.stringify(to)}`).join()}}`,
          ) as object;
          const lines = (all: readonly string[]) => ['rep,net', ...all.map((name) => `${name},1`)];
          const entry = { id: 'orders', columns: [{ name: 'rep', type: 'text' }], same: { rep: map } };
          const once = cells(await open({ orders: lines(members) }, [entry]), 'orders', 'rep');
          const twice = cells(await open({ orders: lines(once) }, [entry]), 'orders', 'rep');
          expect(once).toHaveLength(members.length);
          expect(twice).toEqual(once);
          const last = new Map(pairs);
          members.forEach((name, i) => expect(once[i] === name || last.has(name)).toBe(true));
        },
      ),
      { numRuns: tries(60) },
    ));
});
