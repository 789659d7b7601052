import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { editedPlain, ended, NO_HISTORY, remembered, undone, type History } from '@bold-ruler/core/edit';
import { readCsv } from '@bold-ruler/core/reading';
import { checkReport, type Benchmark, type Report } from '@bold-ruler/core/report';
import { makeTable, type NumberColumn, type Table, sharedTable } from '@bold-ruler/core/table';
import { storage, type StoredColumn } from './db';
import {
  addReport,
  ChangedElsewhere,
  keepDraft,
  loadDrafts,
  loadFile,
  loadFiles,
  loadHistory,
  loadReport,
  loadTables,
  nameOf,
  newId,
  ReportGone,
  saveReport,
  saveRows,
} from './library';
import {
  binOf,
  copyReport,
  earlierStates,
  emptyBin,
  IN_BIN,
  listRemoved,
  listReports,
  putReportBack,
  removeReport,
} from './shelf';

const rows = async (id: string, ...lines: string[]): Promise<Table> =>
  makeTable(await readCsv(id, ['day,shop,net', ...lines].join('\n')), { id });

const base: Report = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [
    { id: 'sales', source: { file: 'sales.csv' } },
    { id: 'goals', source: { file: 'goals.csv' } },
  ],
  measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  figures: [
    { id: 'a', brief: 'net by shop' },
    { id: 'b', brief: 'net' },
  ],
  pages: [{ id: 'p', title: 'Page', rows: [{ blocks: [{ figure: 'a', share: 12 }] }] }],
});

let sales: Table;
let goals: Table;
// Whatever a test did: there are columns of every table that is kept, now or before, and of no other.
afterEach(async () => {
  const { contents, earlier, columns } = storage();
  const tables = [...(await contents.toArray()), ...(await earlier.toArray())];
  const used = new Set(tables.map(({ held }) => held));
  expect(new Set((await columns.toArray()).map(({ held }) => held))).toEqual(used);
  expect(used).not.toContain(undefined);
});

beforeEach(async () => {
  await Promise.all(storage().tables.map((table) => table.clear()));
  sales = await rows('sales', '2025-01-01,Alder,5', '2025-01-02,Birch,6');
  goals = await rows('goals', '2025-01-01,Alder,4');
  await addReport(
    'r',
    base,
    new Map([
      ['sales', sales],
      ['goals', goals],
    ]),
    new Map([['sales.csv', new Blob(['as it was'])]]),
  );
});

const seenNow = async () => (await loadReport('r'))!.changed;
const rowsOf = async (id: string) => (await loadTables('r')).get(id)?.rows;
const textOf = async (file: string) => (await loadFile('r', file))?.text();

describe('a report and its tables', () => {
  test('are there again as they were put, with the files they were read from', async () => {
    const found = (await loadReport('r'))!;
    expect(found.report).toEqual(base);
    expect(found.rows).toEqual({ sales: 2, goals: 1 });
    expect((await loadTables('r')).get('sales')).toEqual(sales);
    expect(await textOf('sales.csv')).toBe('as it was');
    expect(await loadFile('r', 'none.csv')).toBeNull();
  });

  test('columns that threads share are kept in memory of their own', async () => {
    const sales = (await loadTables('r')).get('sales')!;
    await addReport('shared', base, new Map([['sales', sharedTable(sales)]]));
    const kept = (await loadTables('shared')).get('sales')!;
    expect(kept).toEqual(sales);
    for (const column of kept.columns) {
      const { buffer } = column.kind === 'number' ? column.values : column.kind === 'date' ? column.days : column.codes;
      expect(buffer instanceof SharedArrayBuffer).toBe(false);
    }
  });

  test('a table that was kept whole, as before its columns lay apart, is there as it was, and is kept apart once it changes', async () => {
    const sales = (await loadTables('r')).get('sales')!;
    await storage().contents.put({ report: 'r', id: 'sales', table: sales });
    expect((await loadTables('r')).get('sales')).toEqual(sales);
    const changes = [{ table: 'sales', before: null, after: 1 }];
    const save = { report: base, seen: await seenNow(), history: NO_HISTORY, changes };
    await saveRows('r', save, new Map([['sales', sales]]));
    expect((await loadTables('r')).get('sales')).toEqual(sales);
  });

  test('a save from an older state is refused, and changes nothing', async () => {
    const seen = await seenNow();
    const next = { ...base, name: 'Next' };
    const changed = await saveReport('r', next, seen, NO_HISTORY);
    expect(changed).toBeGreaterThan(seen);
    await expect(saveReport('r', base, seen, NO_HISTORY)).rejects.toThrow(ChangedElsewhere);
    expect((await loadReport('r'))!.report.name).toBe('Next');
    await expect(
      saveRows(
        'r',
        { report: base, seen, history: NO_HISTORY, changes: [{ table: 'sales', before: 0, after: 9 }] },
        new Map([['sales', goals]]),
      ),
    ).rejects.toThrow(ChangedElsewhere);
    expect(await rowsOf('sales')).toBe(2);
  });

  test('a report in the bin, or that was never there, is gone for whoever saves', async () => {
    const seen = await seenNow();
    await removeReport('r');
    await expect(saveReport('r', base, seen, NO_HISTORY)).rejects.toThrow(ReportGone);
    await expect(saveReport('other', base, 1, NO_HISTORY)).rejects.toThrow(ReportGone);
    expect(await loadReport('r')).toBeUndefined();
    await putReportBack('r');
    expect((await loadReport('r'))!.report).toEqual(base);
    await saveReport('r', base, seen, NO_HISTORY);
  });

  test('what can be taken back belongs to the state it was saved with', async () => {
    const done = editedPlain(base, { edit: 'rename-report', name: 'Next' });
    const history = remembered(NO_HISTORY, done);
    const changed = await saveReport('r', done.report, await seenNow(), ended(history));
    expect((await loadHistory('r', changed)).past).toHaveLength(1);
    expect(await loadHistory('r', changed - 1)).toEqual({ past: [], future: [] });
  });

  test('a report of a newer version is refused, and stays as it is', async () => {
    await storage().reports.update('r', { report: { ...base, boldRuler: 2 } as unknown as Report });
    await expect(loadReport('r')).rejects.toThrow('a newer version of Bold Ruler');
  });
});

describe('rows that a step replaces', () => {
  /** Takes other rows for sales, as accepting a newer file does. */
  async function renew(
    report: Report,
    history: History,
    before: number,
    after: number,
    file: string,
    ...lines: string[]
  ) {
    const done = editedPlain(report, {
      edit: 'read-table',
      entry: { id: 'sales', source: { file } },
      columns: { lost: [], newNumbers: [] },
    });
    const changes = [{ table: 'sales', before, after }];
    const next = remembered(history, done, undefined, changes);
    await saveRows(
      'r',
      { report: done.report, seen: await seenNow(), history: ended(next), changes },
      new Map([['sales', await rows('sales', ...lines)]]),
      new Map([[file, new Blob([file])]]),
    );
    return { report: done.report, history: next };
  }

  test('come back with their file when it is undone, and go again when it is redone', async () => {
    const first = await renew(
      base,
      NO_HISTORY,
      0,
      1,
      'sales.csv',
      '2025-02-01,Alder,1',
      '2025-02-02,Alder,1',
      '2025-02-03,Alder,1',
    );
    const second = await renew(first.report, first.history, 1, 2, 'newest.csv', '2025-03-01,Alder,1');
    expect([await rowsOf('sales'), await textOf('newest.csv')]).toEqual([1, 'newest.csv']);
    let now = { report: second.report, ...second.history };
    for (const wanted of [3, 2]) {
      const { rows: changes, ...state } = undone(now)!;
      now = state;
      const { tables } = await saveRows(
        'r',
        { report: now.report, seen: await seenNow(), history: ended(now), changes },
        new Map(),
      );
      expect([tables.get('sales')!.rows, await rowsOf('sales')]).toEqual([wanted, wanted]);
    }
    expect(now.report).toEqual(base);
    expect(await textOf('sales.csv')).toBe('as it was');
    expect((await loadTables('r')).get('sales')).toEqual(sales);
    expect((await loadReport('r'))!.rows).toEqual({ sales: 2, goals: 1 });
    const again = now.future[0]!.rows!;
    await saveRows(
      'r',
      { report: first.report, seen: await seenNow(), history: ended(now), changes: again },
      new Map(),
    );
    expect([await rowsOf('sales'), await textOf('sales.csv')]).toEqual([3, 'sales.csv']);
  });

  test('are let go when no step can bring them back', async () => {
    const { report } = await renew(base, NO_HISTORY, 0, 1, 'newest.csv', '2025-03-01,Alder,1');
    expect(await storage().earlier.count()).toBe(1);
    await saveReport('r', report, await seenNow(), NO_HISTORY);
    expect(await storage().earlier.count()).toBe(0);
    await expect(
      saveRows(
        'r',
        {
          report: base,
          seen: await seenNow(),
          history: NO_HISTORY,
          changes: [{ table: 'sales', before: 1, after: 0 }],
        },
        new Map(),
      ),
    ).rejects.toThrow('are not kept any more');
    expect(await rowsOf('sales')).toBe(1);
  });

  test('a table that is added goes when that is undone, and comes back', async () => {
    const entry = { id: 'more', source: { file: 'more.csv' } };
    const done = editedPlain(base, { edit: 'add-tables', tables: [entry], benchmarks: [] });
    const changes = [{ table: 'more', before: null, after: 7 }];
    const history = remembered(NO_HISTORY, done, undefined, changes);
    const more = await rows('more', '2025-01-01,Alder,5');
    await saveRows(
      'r',
      { report: done.report, seen: await seenNow(), history: ended(history), changes },
      new Map([['more', more]]),
    );
    const now = undone({ report: done.report, ...history })!;
    await saveRows(
      'r',
      { report: now.report, seen: await seenNow(), history: ended(now), changes: now.rows },
      new Map(),
    );
    expect(await rowsOf('more')).toBeUndefined();
    await saveRows('r', { report: done.report, seen: await seenNow(), history: ended(now), changes }, new Map());
    expect((await loadTables('r')).get('more')).toEqual(more);
  });
});

/** Does something with a clock that is ahead by so many milliseconds. */
async function ahead(milliseconds: number, work: () => Promise<unknown>): Promise<void> {
  vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + milliseconds });
  try {
    await work();
  } finally {
    vi.useRealTimers();
  }
}
const aDayLater = (work: () => Promise<unknown>) => ahead(86_400_001, work);

describe('what is kept badly', () => {
  const cut = (change: (column: StoredColumn) => void) =>
    storage()
      .columns.toCollection()
      .filter(({ place, column }) => place === 2 && column.kind === 'number')
      .modify(change);

  test.each<[string, (column: StoredColumn) => void]>([
    [
      'a column of fewer rows',
      ({ column }) => Object.assign(column, { values: (column as NumberColumn).values.slice(0, 0) }),
    ],
    ['a column of other values', ({ column }) => ((column as NumberColumn).values[0] = 7)],
    ['a column that is none', ({ column }) => Object.assign(column, { values: null })],
  ])('is refused, and read from its file again where that is kept: %s', async (_, change) => {
    await cut(change);
    expect([...(await loadTables('r')).keys()]).toEqual([]);
    const again = async (id: string) => (id === 'sales' ? sales : null);
    expect((await loadTables('r', again)).get('sales')).toEqual(sales);
    // It is sound from now on.
    expect((await loadTables('r')).get('sales')).toEqual(sales);
  });

  test('a column that is gone is missed, and other tables are whole', async () => {
    const [first] = await storage().columns.toArray();
    await storage().columns.delete([first!.held, first!.place]);
    expect((await loadTables('r')).size).toBe(1);
    await addReport(
      'r',
      base,
      new Map([
        ['sales', sales],
        ['goals', goals],
      ]),
    );
  });

  test('one entry that is no report hides no other, and can be removed', async () => {
    await storage().reports.put({ id: 'odd', report: {} as Report, changed: 1, rows: {} });
    expect((await listReports()).map(({ id }) => id).sort()).toEqual(['odd', 'r']);
    expect((await listReports()).map(nameOf)).toContain('A damaged report');
    await expect(loadReport('odd')).rejects.toThrow('is damaged');
    await removeReport('odd');
    expect((await listReports()).map(({ id }) => id)).toEqual(['r']);
    await emptyBin();
  });

  test('a clock that was ahead empties no bin, and holds no earlier state up', async () => {
    await saveReport('r', { ...base, figures: [] }, await seenNow(), NO_HISTORY);
    await removeReport('r');
    await ahead(40 * 86_400_000, listReports);
    await listReports();
    expect((await listRemoved()).map(({ id }) => id)).toEqual(['r']);
    await putReportBack('r');
    expect((await binOf('r', { ...base, figures: [] })).length).toBe(2);
    await ahead(40 * 86_400_000, async () => saveReport('r', base, await seenNow(), NO_HISTORY));
    await saveReport('r', { ...base, name: 'Now' }, await seenNow(), NO_HISTORY);
    await saveReport('r', { ...base, name: 'Later' }, await seenNow(), NO_HISTORY);
    expect((await earlierStates('r')).length).toBeGreaterThan(1);
  });
});

describe('the bin', () => {
  const without = (part: Partial<Report>) => ({ ...base, ...part });

  test('holds what a save has removed, until it is there again', async () => {
    await saveReport('r', without({ figures: [base.figures[1]!], pages: [] }), await seenNow(), NO_HISTORY);
    const { report } = (await loadReport('r'))!;
    expect((await binOf('r', report)).map(({ kind, content }) => `${kind} ${content.id}`).sort()).toEqual([
      'figures a',
      'pages p',
    ]);
    expect((await binOf('r', base)).length).toBe(0);
  });

  test('holds what went with a table beside it', async () => {
    const goal: Benchmark = { name: 'goal', kind: 'fixed', value: 5, per: [] };
    await saveReport('r', without({ benchmarks: [goal] }), await seenNow(), NO_HISTORY);
    await saveReport('r', without({ tables: [base.tables[0]!] }), await seenNow(), NO_HISTORY);
    const { report } = (await loadReport('r'))!;
    expect((await binOf('r', report)).map((one) => one.with)).toEqual([{ measures: [], benchmarks: [goal] }]);
  });

  test('what was renamed or changed does not lie there', async () => {
    const figures = [{ ...base.figures[0]!, id: 'other' }, base.figures[1]!];
    await saveReport('r', without({ figures }), await seenNow(), NO_HISTORY);
    expect(await storage().bin.count()).toBe(0);
  });

  test('keeps the rows of a table that was removed for as long, and then lets them go', async () => {
    const next = without({ tables: [base.tables[0]!] });
    await saveReport('r', next, await seenNow(), NO_HISTORY);
    await listReports();
    expect(await rowsOf('goals')).toBe(1);
    await storage()
      .bin.toCollection()
      .modify({ at: Date.now() - IN_BIN - 1 });
    await listReports();
    await aDayLater(listReports);
    expect([await rowsOf('goals'), await storage().bin.count()]).toEqual([undefined, 0]);
    expect(await rowsOf('sales')).toBe(2);
  });

  test('a table that is named again keeps its rows', async () => {
    await saveReport('r', without({ tables: [base.tables[0]!] }), await seenNow(), NO_HISTORY);
    await saveReport('r', base, await seenNow(), NO_HISTORY);
    await emptyBin();
    expect(await rowsOf('goals')).toBe(1);
  });

  test('reports lie there for thirty days, with everything, and then are gone', async () => {
    await keepDraft('r', 'brief of a', { base: 'net', text: 'net by' });
    await removeReport('r');
    expect((await listReports()).length).toBe(0);
    expect((await listRemoved()).map(({ id }) => id)).toEqual(['r']);
    expect(await rowsOf('sales')).toBe(2);
    await storage().reports.update('r', { removed: Date.now() - IN_BIN - 1 });
    expect((await listRemoved()).length).toBe(0);
    await listReports();
    await aDayLater(listReports);
    const left = await Promise.all(storage().tables.map(async (table) => [table.name, await table.count()]));
    expect(left.filter(([, n]) => n !== 0)).toEqual([]);
  });
});

test('a copy has the tables and files of its model, and is changed without it', async () => {
  await copyReport('r', 'copy');
  const copy = (await loadReport('copy'))!;
  expect(copy.report.name).toBe('Pellwether (copy)');
  expect([...(await loadFiles('copy')).keys()]).toEqual(['sales.csv']);
  await saveReport('copy', { ...copy.report, name: 'Own' }, copy.changed, NO_HISTORY);
  expect((await loadReport('r'))!.report.name).toBe('Pellwether');
  await copyReport('none', 'other');
  expect(await loadReport('other')).toBeUndefined();
});

test('drafts are kept by their place, and taken away', async () => {
  await keepDraft('r', 'x', { base: 'a', text: 'ab' });
  await keepDraft('r', 'x', { base: 'a', text: 'abc' });
  await keepDraft('r', 'y', { base: '', text: 'y' });
  expect((await loadDrafts('r')).map(({ text }) => text).sort()).toEqual(['abc', 'y']);
  await keepDraft('r', 'x', null);
  expect((await loadDrafts('r')).map(({ place }) => place)).toEqual(['y']);
});

test('earlier states are kept apart in time, at most forty, the latest first', async () => {
  const states = storage().states;
  for (let i = 0; i < 45; i++) {
    await states.toCollection().modify((state: { at: number }) => {
      state.at -= 200_000;
    });
    await saveReport('r', { ...base, name: `state ${i}` }, await seenNow(), NO_HISTORY);
  }
  const kept = await earlierStates('r');
  expect(kept).toHaveLength(40);
  expect(kept[0]!.state.name).toBe('state 43');
  await saveReport('r', base, await seenNow(), NO_HISTORY);
  await saveReport('r', { ...base, name: 'at once' }, await seenNow(), NO_HISTORY);
  expect(await earlierStates('r')).toHaveLength(40);
});

test('ids are short, plain, and no two are alike', () => {
  const ids = Array.from({ length: 500 }, newId);
  expect(new Set(ids).size).toBe(500);
  for (const id of ids) expect(id).toMatch(/^[a-z0-9]{10}$/);
});
