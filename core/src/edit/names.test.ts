import { describe, expect, test } from 'vitest';
import { readCsv } from '../reading';
import { checkReport, vocabularyOf, type Named, type Report } from '../report';
import { factsIn, makeTable } from '../table';
import { edited, usageOf } from '.';

const table = makeTable(await readCsv('sales', 'shop,net\nNord,1'), { id: 'sales' });
const report: Report = checkReport({
  boldRuler: 1,
  name: 'x',
  tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
  measures: [
    { name: 'net sales', table: 'sales', expression: 'sum(net)' },
    { name: 'rows', table: 'sales', expression: 'count(*)' },
  ],
  benchmarks: [
    { name: 'plan', kind: 'fixed', value: 5 },
    { name: 'stretch', kind: 'scaled', of: 'plan', by: 0.1 },
  ],
  figures: [
    { id: 'a', brief: 'net sales by shop against plan as bullet', look: { quantity: 'rows' } },
    {
      id: 'b',
      brief: 'cumulative net sales, rows each month against stretch',
      look: { references: ['average', 'plan'], stops: { low: 0, high: 'stretch' } },
    },
    { id: 'c', brief: 'this is no brief' },
  ],
});
const vocabulary = vocabularyOf(report, factsIn(new Map([['sales', table]]), report.calendar));

const renamed = (of: Report, words: typeof vocabulary, kind: Named, from: string, to: string) =>
  edited(of, { edit: 'rename', kind, from, to }, { vocabulary: words, facts: () => undefined }).report;
const withoutNamed = (of: Report, words: typeof vocabulary, kind: Named, name: string) =>
  edited(of, { edit: 'remove', kind, name }, { vocabulary: words, facts: () => undefined }).report;

test('highlights and rulers are followed as well, and a figure without them has its own again', () => {
  const lit = checkReport({
    ...report,
    highlights: [{ name: 'loud', on: 'value', rules: [] }],
    rulers: [{ id: 'euros', kind: 'linear' }],
    figures: [{ id: 'a', brief: 'net sales by shop as bullet, lit by loud, on euros' }],
  });
  const words = vocabularyOf(lit, factsIn(new Map([['sales', table]]), lit.calendar));
  const brief = (next: Report) => next.figures[0]!.brief;
  expect(usageOf(lit, words, 'ruler', 'euros').figures).toEqual(['a']);
  const calm = renamed(lit, words, 'highlight', 'loud', 'calm');
  expect([brief(calm), calm.highlights[0]!.name]).toEqual([
    'net sales by shop as bullet, lit by calm, on euros',
    'calm',
  ]);
  const money = renamed(lit, words, 'ruler', 'euros', 'money');
  expect([brief(money), money.rulers[0]!.id]).toEqual(['net sales by shop as bullet, lit by loud, on money', 'money']);
  const bare = withoutNamed(withoutNamed(lit, words, 'highlight', 'loud'), words, 'ruler', 'euros');
  expect([brief(bare), bare.highlights, bare.rulers]).toEqual(['net sales by shop as bullet', [], []]);
});

describe('a name is followed to every place that uses it', () => {
  test('where it is used', () => {
    expect(usageOf(report, vocabulary, 'measure', 'net sales').figures).toEqual(['a', 'b']);
    expect(usageOf(report, vocabulary, 'benchmark', 'plan')).toEqual({
      figures: ['a'],
      looks: ['b'],
      benchmarks: ['stretch'],
    });
  });
  test('renamed in every brief and benchmark; what cannot be read is left alone', () => {
    const next = renamed(report, vocabulary, 'measure', 'net sales', 'sales by day');
    expect(next.figures.map(({ brief }) => brief)).toEqual([
      'sales by day by shop against plan as bullet',
      'cumulative sales by day, rows each month against stretch',
      'this is no brief',
    ]);
    expect(renamed(report, vocabulary, 'measure', 'rows', 'lines').figures[0]!.look).toEqual({ quantity: 'lines' });
    const held = renamed(report, vocabulary, 'benchmark', 'plan', 'goal');
    expect(held.figures[0]!.brief).toBe('net sales by shop against goal as bullet');
    expect(held.benchmarks[1]).toMatchObject({ name: 'stretch', of: 'goal' });
    expect(held.figures[1]!.look).toEqual({ references: ['average', 'goal'], stops: { low: 0, high: 'stretch' } });
  });
  test('removed: figures of the measure go, figures held against a benchmark are held against nothing', () => {
    expect(withoutNamed(report, vocabulary, 'measure', 'net sales').figures.map(({ id }) => id)).toEqual(['c']);
    expect(withoutNamed(report, vocabulary, 'measure', 'rows').figures[0]!.look).toEqual({});
    const next = withoutNamed(report, vocabulary, 'benchmark', 'plan');
    expect(next.benchmarks).toEqual([]);
    expect(next.figures[1]!.look).toEqual({ references: ['average'], stops: { low: 0 } });
    expect(next.figures.map(({ brief }) => brief)).toEqual([
      'net sales by shop as bullet',
      'cumulative net sales, rows each month',
      'this is no brief',
    ]);
  });
});
