import { describe, expect, test } from 'vitest';
import { checkReport, type Page, type Report, type TableEntry } from '../report';
import { editedPlain } from '.';

const reportWith = (tables: readonly object[], more: object = {}): Report =>
  checkReport({ boldRuler: 1, name: 'Pellwether', tables, ...structuredClone(more) });
const sales = (more: object = {}): object => ({ id: 'sales', source: { file: 'sales.csv' }, ...more });

describe('an earlier state', () => {
  const back = (now: readonly object[], then: readonly object[]): readonly TableEntry[] =>
    editedPlain(reportWith(now), { edit: 'restore-state', state: reportWith(then) }).report.tables;

  test('comes back as it was, and tables that have come since stay', () => {
    const then = sales({ columns: [{ name: 'shop', order: ['Birch', 'Alder'] }], date: 'day' });
    expect(back([sales(), { id: 'goals', source: { file: 'goals.csv' } }], [then]).map(({ id }) => id)).toEqual([
      'sales',
      'goals',
    ]);
    expect(back([sales()], [then])[0]).toEqual(reportWith([then]).tables[0]);
  });

  test('does not say of rows that they are those of an earlier file, or were read in another way', () => {
    const newer = { id: 'sales', source: { file: 'newer.csv' } };
    expect(back([newer], [sales()])[0]!.source.file).toBe('newer.csv');
    const asText = sales({ columns: [{ name: 'code', type: 'text' }] });
    expect(back([asText], [sales()])).toEqual(reportWith([asText]).tables);
    const derived = [{ name: 'gain', expression: 'net - cost' }];
    expect(back([newer], [sales({ derived })])[0]).toEqual({ ...newer, derived });
    expect(back([{ ...newer, derived }], [sales()])[0]).toEqual(newer);
  });

  test('without accepted findings has none again', () => {
    const accepted = [{ code: 'far-days', about: 'table', id: 'sales', reason: 'as agreed' }];
    const now = reportWith([sales()], { accepted });
    const { report } = editedPlain(now, { edit: 'restore-state', state: reportWith([sales()]) });
    expect('accepted' in report).toBe(false);
  });
});

describe('what is put back', () => {
  const figures = [{ id: 'a', brief: 'net' }];
  const page: Page = {
    id: 'p',
    title: 'Page',
    filters: [],
    rows: [
      {
        blocks: [
          { figure: 'a', share: 6 },
          { figure: 'gone', share: 6 },
        ],
      },
      { blocks: [{ figure: 'gone', share: 12 }] },
      { blocks: [{ text: 'It is so.', about: 'gone', share: 12 }] },
    ],
    dismissed: [{ figure: 'gone', kind: 'lands' }],
  };

  test('as a page has no figures that were removed since', () => {
    const { report } = editedPlain(reportWith([], { figures }), { edit: 'put-back', kind: 'pages', content: page });
    expect(report.pages[0]).toEqual({
      id: 'p',
      title: 'Page',
      filters: [],
      rows: [{ blocks: [{ figure: 'a', share: 6 }] }, { blocks: [{ text: 'It is so.', share: 12 }] }],
    });
  });

  test('stands beside what has come in its name since', () => {
    const content = { id: 'a', brief: 'net by shop', look: {} };
    const { report } = editedPlain(reportWith([], { figures }), { edit: 'put-back', kind: 'figures', content });
    expect(report.figures.map(({ id, brief }) => `${id}: ${brief}`)).toEqual(['a: net', 'a 2: net by shop']);
  });
});
