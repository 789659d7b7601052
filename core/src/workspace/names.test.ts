import { describe, expect, test } from 'vitest';
import { readBrief, writeBrief } from '../brief';
import { drawFigure } from '../figure';
import { packTables, unpackTables } from '../handover/packed';
import { levelChecks } from '../level';
import { drawPage } from '../page';
import { Problem } from '../problem';
import { numbersOf } from '../figure';
import { answerBrief } from '../query';
import { readCsv } from '../reading';
import { reckon } from '../reckoning';
import { checkReport, writeReport, type Look } from '../report';
import { makeTable, type Table } from '../table';
import { workspaceFor } from '.';

// Names that every object of the language already has, and columns of numbers used as fields.

const ODD = ['constructor', 'toString', '__proto__', 'hasOwnProperty', 'valueOf', 'length'];

async function worldOf(field: string) {
  const rows = ['Alder,10,3', 'Birch,20,4', 'Alder,5,3'].map((row, i) => `2025-0${i + 1}-01,${row}`);
  const orders = makeTable(await readCsv('orders', [`day,${field},net,size`, ...rows].join('\n')), { id: 'orders' });
  const goals = ['2025-01,Alder,8', '2025-02,Birch,18', '2025-03,Alder,6'];
  const table = makeTable(await readCsv('goals', [`month,${field},goal`, ...goals].join('\n')), { id: 'goals' });
  const tables = new Map<string, Table>([
    ['orders', orders],
    ['goals', table],
  ]);
  const report = checkReport(
    JSON.parse(
      JSON.stringify({
        boldRuler: 1,
        name: field,
        tables: [
          { id: 'orders', source: { file: 'orders.csv' }, columns: [{ name: field, order: ['Birch', 'Alder'] }] },
          { id: 'goals', source: { file: 'goals.csv' }, grain: 'month' },
        ],
        measures: [
          { name: 'net', table: 'orders', expression: 'sum(net)' },
          { name: field, table: 'orders', expression: 'count(*)' },
        ],
        benchmarks: [
          { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' },
          { name: `${field} each`, kind: 'fixed', value: 7, per: [field] },
        ],
        figures: [{ id: field, brief: `net by "${field}" against goal as bullet` }],
        pages: [
          {
            id: field,
            title: field,
            filters: [{ field, choice: 'one' }],
            rows: [{ blocks: [{ figure: field, share: 12 }] }],
          },
        ],
      }),
    ),
  );
  return workspaceFor(report, tables);
}

describe.each(ODD)('a field called %s', (field) => {
  const FORMS = [
    'bullet',
    'bars',
    'pairs',
    'dial',
    'headline',
    'table',
    'league',
    'waterfall',
    'trend',
    'pace',
    'bump',
  ];
  test.each(FORMS)('is drawn as %s, and its numbers are there', async (form) => {
    const { source, report, vocabulary } = await worldOf(field);
    const view = form === 'pace' ? 'cumulative net' : form === 'bump' ? 'rank of net' : 'net';
    const each = ['trend', 'pace', 'bump', 'league'].includes(form) ? ' each month' : '';
    const brief = `${view} by "${field}"${each} during fiscal 2025 against goal as ${form}, only "${field}" is Alder or Birch`;
    const look: Look = each && form !== 'league' ? { panels: field } : {};
    const drawn = await drawFigure({ source, report, vocabulary }, { id: 'f', brief, look });
    const { rows } = numbersOf(drawn.cells);
    expect([...new Set(rows.map((row) => Object.entries(row.key)[0]))].map((one) => one![0])).toContain(field);
    const total = rows.reduce((sum, row) => sum + (form === 'pace' ? 0 : (row.actual ?? 0)), 0);
    if (form !== 'pace') expect(total).toBe(35);
    expect(drawn.scene.marks.length).toBeGreaterThan(3);
  });

  test('is counted by a number that belongs to its members, checked, reckoned, laid on a page and packed', async () => {
    const { source, report, vocabulary, tables } = await worldOf(field);
    const brief = readBrief(`net against "${field} each"`, vocabulary);
    expect(numbersOf(await answerBrief({ source, report, vocabulary }, brief)).total.benchmark).toBe(14);
    expect((await levelChecks({ source, report, vocabulary })).map(({ code }) => code)).not.toContain(
      'cannot-be-drawn',
    );
    const page = await drawPage({ source, report, vocabulary }, report.pages[0]!);
    expect(page.placed.length).toBeGreaterThan(0);
    const drawn = await drawFigure({ source, report, vocabulary }, report.figures[0]!);
    const row = numbersOf(drawn.rows).rows[0]!;
    expect(row.key[field]).toBe('Birch');
    expect((await reckon({ source, report }, drawn, 0)).sentences.length).toBeGreaterThan(2);
    const packed = unpackTables(packTables([[tables.get('orders')!, { columns: ['day', field, 'net'], span: null }]]));
    expect(packed.get('orders')!.columns.map(({ name }) => name)).toEqual(['day', field, 'net']);
    expect(JSON.parse(writeReport(report)).measures[1].name).toBe(field);
  });
});

describe('columns of numbers as fields', () => {
  const asked = async (text: string) => {
    const { source, report, vocabulary } = await worldOf('shop');
    const brief = readBrief(text, vocabulary);
    expect(readBrief(writeBrief(brief, vocabulary), vocabulary)).toEqual(brief);
    return numbersOf(await answerBrief({ source, report, vocabulary }, brief));
  };
  test('whole numbers break a measure down, in the order of their size', async () => {
    const { rows } = await asked('net by size');
    expect(rows.map(({ key, actual }) => [key.size, actual])).toEqual([
      ['3', 15],
      ['4', 20],
    ]);
  });
  test('rows are kept by their amounts', async () => {
    expect((await asked('net, only net at least 10')).total.actual).toBe(30);
    expect((await asked('net, only net below 10 and size is 3')).total.actual).toBe(5);
  });
  test('targets are not set by amounts, so there is none for such rows', async () => {
    const { total, checks } = await asked('net during fiscal 2025 against goal, only net at least 10');
    expect([total.benchmark, total.gap, total.standing]).toEqual([null, null, null]);
    expect(checks.map(({ code }) => code)).toContain('filter-not-followed');
  });
  test('a name nobody knows is still told', async () => {
    await expect(asked('net by sise')).rejects.toThrow(Problem);
  });
});
