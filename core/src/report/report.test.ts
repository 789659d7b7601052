import { describe, expect, test } from 'vitest';
import type { Problem } from '../problem';
import { checkReport, readReport, writeReport } from '.';

const report = {
  boldRuler: 1,
  name: 'Pellwether',
  calendar: { fiscalYearStart: 9 },
  tables: [
    {
      id: 'orders',
      source: { file: 'orders.csv' },
      date: 'ordered',
      grain: 'day',
      columns: [
        { name: 'ordered', type: 'date', read: 'yyyy-MM-dd' },
        { name: 'size', order: ['Small', 'Full'] },
      ],
    },
  ],
  measures: [
    { name: 'net sales', table: 'orders', expression: 'sum(net)', format: { style: 'currency', currency: 'EUR' } },
  ],
  benchmarks: [
    { name: 'plan', kind: 'table', table: 'plan', expression: 'sum(target)', match: { territory: 'region' } },
    { name: 'last year', kind: 'period', back: { years: 1 } },
    { name: 'stretch', kind: 'scaled', of: 'plan', by: 0.2 },
    { name: 'quota', kind: 'fixed', value: 5000, per: ['member', 'month'] },
    { name: 'outlook', kind: 'forecast', method: 'same period last year', growth: 0.04 },
  ],
  figures: [{ id: 'f1', brief: 'net sales', look: { width: 960, bands: { of: 'benchmark', edges: [0.8, 1] } } }],
};

test('a report is read back as it was written, with its defaults, keys in a fixed order', () => {
  const read = checkReport(report);
  expect(read.calendar).toEqual({ fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday', asOf: 'auto' });
  expect(read.measures[0]).toMatchObject({ aim: 'raise', tolerance: 0 });
  const text = writeReport(read);
  expect(readReport(text)).toEqual(read);
  expect(writeReport(readReport(text))).toBe(text);
  const shuffled = Object.fromEntries(Object.entries(read).reverse());
  expect(writeReport(checkReport(shuffled))).toBe(text);
});

describe('a wrong report is refused with the key or the line', () => {
  const refusal = (change: object | string): Problem => {
    try {
      if (typeof change === 'string') readReport(change, 'r.json');
      else checkReport({ ...report, ...change }, 'r.json');
    } catch (error) {
      return error as Problem;
    }
    throw new Error('it was accepted');
  };
  test.each<[object | string, RegExp]>([
    ['{ "boldRuler": 1,\n  "name": }', /r\.json line 2: the JSON is broken at character 11/],
    ['[]', /this is not a report/],
    ['{ "boldRuler": 1, "name": "x", "__proto__": { "a": 1 } }', /__proto__/],
    [{ boldRuler: 3 }, /newer version \(3; this one reads 1\)/],
    [{ boldRuler: undefined }, /boldRuler is missing/],
    [{ colour: 1 }, /does not know: colour/],
    [
      { measures: [{ ...report.measures[0], aims: 'raise' }] },
      /measures\[0\] has a key this version does not know: aims/,
    ],
    [{ measures: [{ ...report.measures[0], aim: 'rise' }] }, /measures\[0\]\.aim must be one of raise, cut, hold/],
    [
      { measures: [report.measures[0], { ...report.measures[0], name: 'Net Sales' }] },
      /two measures called “net sales”/,
    ],
    [{ benchmarks: [{ name: 'x', kind: 'fixd', value: 1 }] }, /kind must be one of/],
    [{ benchmarks: [{ name: 'x', kind: 'period', back: { days: 1 } }] }, /back/],
    [
      {
        benchmarks: [
          { name: 'a', kind: 'scaled', of: 'b', by: 1 },
          { name: 'b', kind: 'scaled', of: 'a', by: 1 },
        ],
      },
      /rests on itself: a → b → a/,
    ],
    [{ calendar: { asOf: '2026-02-30' } }, /asOf/],
    [{ figures: [{ id: 'f', brief: 'x', look: { width: 1e9 } }] }, /figures\[0\]\.look\.width/],
  ])('%o', (change, message) => expect(refusal(change).message).toMatch(message));
});
