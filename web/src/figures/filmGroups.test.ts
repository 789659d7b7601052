import { expect, test } from 'vitest';
import type { Page } from '@bold-ruler/core/report';
import { filmGroups } from './filmGroups';

const figures = ['a', 'b', 'c', 'd'].map((id) => ({ id, brief: id, look: {} }));
const page = (title: string, ...shown: string[]): Page => ({
  id: title,
  title,
  filters: [],
  rows: [{ head: 'x' }, { blocks: shown.map((figure) => ({ figure, share: 6 })) }],
});
const named = (...args: Parameters<typeof filmGroups>) =>
  filmGroups(...args).map(({ name, figures: some }) => [name, some.map(({ id }) => id).join('')]);

test('a film is one list, or groups by page or measure: each figure once, in the report’s order', () => {
  const report = { figures, pages: [page('Second', 'd'), page('Empty'), page('First', 'b', 'd')] };
  const measureOf = (id: string) => ({ a: 'net', b: 'margin', c: null, d: 'net' })[id] ?? null;
  expect(named(report, 'order', measureOf)).toEqual([[null, 'abcd']]);
  expect(named(report, 'page', measureOf)).toEqual([
    ['Second', 'd'],
    ['First', 'b'],
    ['on no page', 'ac'],
  ]);
  expect(named(report, 'measure', measureOf)).toEqual([
    ['net', 'ad'],
    ['margin', 'b'],
    ['not drawn yet', 'c'],
  ]);
});
