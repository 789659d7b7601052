import { describe, expect, test } from 'vitest';
import { forms } from '../form';
import { drawFigure, type Drawn } from '../figure';
import { readExpression } from '../measure';
import { isProblem } from '../problem';
import { fileOf, readCsv, readFile } from '../reading';
import { checkReport, readReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';

// Every calculation has an end: what would go on for ever, or fill the memory, is counted first and told. A test that hangs fails.

const ROWS = [
  'day,shop,note,net',
  ...Array.from({ length: 400 }, (_, i) => `2025-0${(i % 9) + 1}-1${i % 10},S${i % 7},note ${i},${i}`),
];

async function drawn(
  brief: string,
  { rows = ROWS, more = {}, look = {} }: { rows?: string[]; more?: object; look?: object } = {},
): Promise<Drawn> {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
    benchmarks: [{ name: 'outlook', kind: 'forecast', method: 'linear' }],
    ...more,
  });
  const table = makeTable(await readCsv('sales', rows.join('\n')), { id: 'sales' });
  const desk = workspaceFor(report, new Map([['sales', table]]));
  return drawFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, { id: 'f', brief, look });
}

/** Draws it, or is told in words why not. */
async function ends(work: Promise<unknown>): Promise<string> {
  try {
    await work;
    return 'done';
  } catch (error) {
    if (!isProblem(error)) throw error;
    expect(error.message).not.toMatch(/call stack|heap|NaN|undefined/);
    return error.code;
  }
}

describe('periods and steps', () => {
  test.each([
    ['one day of the year 9999', 'net each day as trend', [...ROWS, '9999-12-31,S1,far,1'], 'done'],
    [
      'days of both ends of time, as many of each',
      'net each day as trend',
      ['day,net', '1000-01-01,1', '9999-12-31,1'],
      'too-many-steps',
    ],
    [
      'the same against a forecast',
      'net each day against outlook as trend',
      ['day,net', '1000-01-01,1', '9999-12-31,1'],
      'too-many-steps',
    ],
    ['a period of a hundred thousand years', 'net during last 99999 years', ROWS, 'period-too-long'],
    ['all days of a thousand years', 'net each day during last 1000 years as trend', ROWS, 'too-many-steps'],
  ])('%s', async (_, brief, rows, code) => expect(await ends(drawn(brief, { rows }))).toBe(code));

  test('an as-of date far ahead', async () => {
    const more = { calendar: { asOf: '9999-12-31' } };
    expect(await ends(drawn('net each day during year to date against outlook as pace', { more }))).toMatch(
      /^[a-z-]+$/,
    );
  });
});

describe('rulers and values', () => {
  test('ends of a ruler that no difference can be taken of', async () => {
    expect(() =>
      checkReport({ boldRuler: 1, name: 'r', figures: [{ id: 'f', brief: 'net', look: { domain: [-1e308, 1e308] } }] }),
    ).toThrow(/above -1e100|below 1e100/);
    expect(await ends(drawn('net by shop as bars', { look: { domain: [-1e100, 1e100] } }))).toBe('done');
  });

  test.each([
    ['1e308', '-1e308'],
    ['1e-320', '5e-324'],
    ['9007199254740993', '0.1'],
  ])('values of %s and %s', async (a, b) => {
    const rows = ['day,shop,net', `2025-01-02,A,${a}`, `2025-01-03,B,${b}`];
    for (const form of forms()) expect(await ends(drawn(`net by shop as ${form}`, { rows }))).toMatch(/^[a-z-]+$/);
  });
});

describe('files', () => {
  test('a header of 30,000 equal cells', async () => {
    expect(await ends(readCsv('x', `${Array(30_000).fill('net').join(',')}\n1,2\n`))).toBe('too-many-columns');
    const wide = await readCsv('x', `${Array(1_900).fill('net').join(',')}\n${Array(1_900).fill('1').join(',')}\n`);
    expect(wide.columns[1_899]!.name).toBe('net (1900)');
  });

  test.each([
    ['[', ']'],
    ['{"a":', '}'],
  ])('JSON and reports that lie 500,000 deep in %s', async (opens, closes) => {
    const text = `${opens.repeat(500_000)}1${closes.repeat(500_000)}`;
    const bytes = new TextEncoder().encode(text);
    expect(await ends(readFile(fileOf('x.json', bytes)))).not.toBe('done');
    await expect(async () => readReport(text)).rejects.toThrow(/nested deeper/);
  });
});

describe('expressions', () => {
  test.each([
    ['brackets', `sum(${'('.repeat(900)}net${')'.repeat(900)})`],
    ['signs', `sum(${'- '.repeat(5_000)}net)`],
    ['negations', `count(*) filter (where ${'not '.repeat(5_000)}net > 1)`],
    ['cases', `sum(${'case when net > 1 then '.repeat(900)}net${' end'.repeat(900)})`],
    ['words', `sum(net${' + net'.repeat(50_000)})`],
    ['functions', `sum(${'abs('.repeat(900)}net${')'.repeat(900)})`],
  ])('%s without end', (_, text) => {
    expect(() => readExpression(text)).toThrow(expect.objectContaining({ code: 'expression-too-deep' }) as Error);
  });

  test.each([
    ['brackets', `sum(${'('.repeat(40)}net${')'.repeat(40)})`],
    ['signs', `sum(${'- '.repeat(40)}net)`],
    ['words', `sum(net${' + net'.repeat(1_000)})`],
  ])('%s as people write them are read', (_, text) => void readExpression(text));

  test('patterns over long notes', async () => {
    const note = 'abcdefghij'.repeat(500);
    const rows = ['day,note,net', ...Array.from({ length: 300 }, (_, i) => `2025-01-02,${i}${note},${i}`)];
    const measures = [{ name: 'net', table: 'sales', expression: "sum(net) filter (where note like '%a%o%e%x%')" }];
    expect(await ends(drawn('net', { rows, more: { measures } }))).toBe('done');
  });
});
