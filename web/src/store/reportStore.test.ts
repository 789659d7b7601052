import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { edited, editedPlain, remembered, type Edit } from '@bold-ruler/core/edit';
import { readCsv } from '@bold-ruler/core/reading';
import { checkReport, type Report } from '@bold-ruler/core/report';
import { makeTable, type Table } from '@bold-ruler/core/table';
import { workspaceFor } from '@bold-ruler/core/workspace';
import { storage } from '@/storage/db';
import {
  addReport,
  loadHistory,
  loadReport,
  loadTables,
  saveReport,
  saveRows,
  type Files,
  type RowsSave,
} from '@/storage/library';
import { sent } from '@bold-ruler/core/problem';

// The store with its storage, and a desk that answers when it is told to.

/** Questions to the desk that wait, in the order in which they are to be asked. */
const held: (() => Promise<void>)[] = [];

/** Has the desk's next question wait, that one alone, until it is told to answer. */
function holdNext() {
  let tell = () => {};
  let answer = () => {};
  const asked = new Promise<void>((resolve) => (tell = resolve));
  const answered = new Promise<void>((resolve) => (answer = resolve));
  held.push(() => (tell(), answered));
  return { asked, answer };
}
const inTime = () => held.shift()?.() ?? Promise.resolve();

let open = '';
let tables = new Map<string, Table>();
const fakeDesk = {
  open: async (id: string) => {
    open = id;
    tables = await loadTables(id);
  },
  edited: async (report: Report, edit: Edit) => {
    await inTime();
    return sent(() => {
      const { vocabulary, source } = workspaceFor(report, tables);
      return edited(report, edit, { vocabulary, facts: source.facts });
    });
  },
  saveRows: async (save: RowsSave, given: readonly Table[], files: Files) => {
    await inTime();
    return sent(async () => {
      const { changed, tables: now } = await saveRows(
        open,
        save,
        new Map(given.map((table) => [table.id, table])),
        files,
      );
      for (const [id, table] of now) if (table) tables.set(id, table);
      return { changed, isForgotten: false };
    });
  },
};
vi.mock('./desk', () => ({ desk: () => fakeDesk, onDeskLost: () => () => {} }));

const { isUnsaved, useReport } = await import('./reportStore');
const store = () => useReport.getState();
const saved = () => vi.waitFor(() => expect(isUnsaved()).toBe(false), { timeout: 240_000 });

const rows = async (...lines: string[]) =>
  makeTable(await readCsv('sales', ['day,shop,net', ...lines].join('\n')), { id: 'sales' });
const base = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
  measures: [
    { name: 'net', table: 'sales', expression: 'sum(net)' },
    { name: 'lines', table: 'sales', expression: 'count(*)' },
  ],
  figures: [
    { id: 'a', brief: 'net by shop' },
    { id: 'b', brief: 'lines by shop' },
  ],
  pages: [{ id: 'p', title: 'Page', rows: [{ blocks: [{ figure: 'b', share: 12 }] }] }],
});

beforeEach(async () => {
  held.length = 0;
  await Promise.all(storage().tables.map((table) => table.clear()));
  const id = `r${Math.random()}`;
  await addReport(id, base, new Map([['sales', await rows('2025-01-01,Alder,5')]]));
  await store().open(id);
});

const kept = async () => (await loadReport(store().id!))!;

describe('an edit', () => {
  test('is here at once, saved, and undone and redone', async () => {
    void store().edit({ edit: 'rename-report', name: 'Next' });
    expect(store().report!.name).toBe('Next');
    expect(isUnsaved()).toBe(true);
    await saved();
    expect((await kept()).report.name).toBe('Next');
    await store().undo();
    expect(store().report).toEqual(base);
    await store().redo();
    await saved();
    expect((await kept()).report.name).toBe('Next');
    expect((await loadHistory(store().id!, (await kept()).changed)).past).toHaveLength(1);
  });

  test('that changes nothing is no step', async () => {
    await store().edit({ edit: 'rename-report', name: 'Pellwether' });
    await store().edit({ edit: 'remove-figure', figure: 'none' });
    expect(store().past).toEqual([]);
  });

  test('that cannot be done says why and changes nothing', async () => {
    expect(await store().edit({ edit: 'rename', kind: 'measure', from: 'net', to: 'lines' })).toBe(false);
    expect(store().notice).toContain('another measure is called “lines”');
    expect(store().report).toEqual(base);
    await expect(store().attempt({ edit: 'rename', kind: 'measure', from: 'net', to: '' })).rejects.toThrow(
      'needs a name',
    );
  });

  test('that the desk works out does not undo what was changed in the meantime', async () => {
    const { asked, answer } = holdNext();
    const renaming = store().edit({ edit: 'rename', kind: 'measure', from: 'net', to: 'net sales' });
    await asked;
    await store().edit({ edit: 'rename-report', name: 'Changed meanwhile' });
    await store().edit({ edit: 'add-figure', figure: { id: 'c', brief: 'net', look: {} } });
    answer();
    expect(await renaming).toBe(true);
    const { name, figures, measures } = store().report!;
    expect([name, measures[0]!.name]).toEqual(['Changed meanwhile', 'net sales']);
    expect(figures.map(({ brief }) => brief)).toEqual(['net sales by shop', 'lines by shop', 'net sales']);
    await saved();
    expect((await kept()).report).toEqual(store().report);
  });

  test('that is undone before the desk has worked it out is itself taken back, and had again', async () => {
    await store().edit({ edit: 'rename-report', name: 'Before' });
    const { asked, answer } = holdNext();
    const renaming = store().edit({ edit: 'rename', kind: 'measure', from: 'net', to: 'net sales' });
    await asked;
    const undoing = store().undo();
    answer();
    expect(await renaming).toBe(true);
    await undoing;
    const now = () => [store().report!.name, store().report!.measures[0]!.name, store().past.length];
    expect(now()).toEqual(['Before', 'net', 1]);
    await store().redo();
    expect(now()).toEqual(['Before', 'net sales', 2]);
  });

  test('that takes a measure away leaves nothing dead on a page', async () => {
    await store().edit({ edit: 'remove', kind: 'measure', name: 'lines' });
    expect(store().report!.pages[0]!.rows).toEqual([]);
    await store().undo();
    expect(store().report).toEqual(base);
  });

  test('found out by somebody else is applied to what is there by then', async () => {
    let times = 0;
    const done = store().editBy(async (now) => {
      if (times++ === 0) await store().edit({ edit: 'rename-report', name: 'First' });
      return { ok: true, value: { edit: 'rename-report', name: `${now.name}!` } };
    });
    expect(await done).toBe(true);
    expect([store().report!.name, times]).toEqual(['First!', 2]);
    expect(await store().editBy(async () => ({ ok: true, value: null }))).toBe(false);
  });
});

describe('other rows', () => {
  const renew = async (...lines: string[]) =>
    store().editRows(
      {
        edit: 'read-table',
        entry: { id: 'sales', source: { file: 'newer.csv' } },
        columns: { lost: [], newNumbers: [] },
      },
      ['sales'],
      [await rows(...lines)],
    );

  test('come with the report, and an edit that follows at once is saved after them', async () => {
    const { asked, answer } = holdNext();
    const renewing = renew('2025-02-01,Alder,1', '2025-02-02,Alder,1');
    await asked;
    const editing = store().edit({ edit: 'rename-report', name: 'After' });
    expect(store().report).toEqual(base);
    answer();
    await renewing;
    expect(await editing).toBe(true);
    await saved();
    const found = await kept();
    expect([found.report.name, found.report.tables[0]!.source.file, found.rows.sales]).toEqual([
      'After',
      'newer.csv',
      2,
    ]);
    expect(store().saving).toBe('saved');
  });

  test('and an edit that was made just before is neither lost nor a change elsewhere', async () => {
    void store().edit({ edit: 'rename-report', name: 'Before' });
    await renew('2025-02-01,Alder,1', '2025-02-02,Alder,1');
    expect([store().saving, (await kept()).report.name]).toEqual(['saved', 'Before']);
    expect(store().past).toHaveLength(2);
    await store().undo();
    expect([(await loadTables(store().id!)).get('sales')!.rows, store().report!.name]).toEqual([1, 'Before']);
    await store().undo();
    expect(store().report).toEqual(base);
    await saved();
    await store().redo();
    await store().redo();
    expect((await loadTables(store().id!)).get('sales')!.rows).toBe(2);
  });
});

describe('while other rows are on their way', () => {
  /** Accepts other rows, and waits until the desk has been asked to save them. */
  async function onTheWay() {
    const { asked, answer } = holdNext();
    const newer = [await rows('2025-02-01,Alder,1', '2025-02-02,Alder,1')];
    const entry = { id: 'sales', source: { file: 'newer.csv' } };
    const columns = { lost: [], newNumbers: [] };
    const on = store().editRows({ edit: 'read-table', entry, columns }, ['sales'], newer);
    await asked;
    return { on, answer };
  }
  const rowsNow = async (id: string) => (await loadTables(id)).get('sales')!.rows;

  test('undoing takes back what is last when they are there, with its rows', async () => {
    await store().edit({ edit: 'rename-report', name: 'Before' });
    await saved();
    const { on, answer } = await onTheWay();
    const undoing = store().undo();
    answer();
    await on;
    await undoing;
    expect([store().report!.name, store().report!.tables[0]!.source.file]).toEqual(['Before', 'sales.csv']);
    expect([await rowsNow(store().id!), store().past.length, store().future.length]).toEqual([1, 1, 1]);
  });

  test('saving once more does not put back the report as it was', async () => {
    const { on, answer } = await onTheWay();
    const retrying = store().retry();
    answer();
    await Promise.all([on, retrying]);
    await saved();
    expect([store().saving, (await kept()).report.tables[0]!.source.file]).toEqual(['saved', 'newer.csv']);
  });

  test('what was meant for this report is not done to another that is opened meanwhile', async () => {
    const first = store().id!;
    const { on, answer } = await onTheWay();
    const late = [
      store().edit({ edit: 'rename-report', name: 'For the first' }),
      store().undo(),
      store().editRows({ edit: 'add-tables', tables: [], benchmarks: [] }, [], []),
    ];
    const second = `r${Math.random()}`;
    await addReport(second, { ...base, name: 'Second' }, new Map([['sales', await rows('2025-01-01,Alder,5')]]));
    const opening = store().open(second);
    answer();
    await Promise.all([on, opening, ...late]);
    await saved();
    expect([store().report!.name, store().past.length]).toEqual(['Second', 0]);
    expect((await loadReport(second))!.report).toEqual({ ...base, name: 'Second' });
    expect([await rowsNow(first), (await loadReport(first))!.report.tables[0]!.source.file]).toEqual([2, 'newer.csv']);
  });
});

describe('another tab', () => {
  test('is not written over: that is said, and a copy keeps what is here', async () => {
    const { changed } = await kept();
    await saveReport(store().id!, { ...base, name: 'Theirs' }, changed, { past: [], future: [] });
    void store().edit({ edit: 'rename-report', name: 'Mine' });
    await vi.waitFor(() => expect(store().saving).toBe('elsewhere'), { timeout: 240_000 });
    expect((await kept()).report.name).toBe('Theirs');
    await store().takeNewest(null);
    expect([store().report!.name, store().saving]).toEqual(['Theirs', 'saved']);
  });

  test('leaves its steps and those from here to be taken back', async () => {
    await store().edit({ edit: 'rename-report', name: 'Mine' });
    await saved();
    const { report, changed } = await kept();
    const { past, future } = await loadHistory(store().id!, changed);
    const theirs = remembered({ past, future }, editedPlain(report, { edit: 'rename-report', name: 'Theirs' }));
    await saveReport(store().id!, { ...report, name: 'Theirs' }, changed, theirs);
    await store().takeNewest(null);
    const names = [store().report!.name];
    for (let n = 0; n < 2; n++) {
      await store().undo();
      names.push(store().report!.name);
    }
    expect(names).toEqual(['Theirs', 'Mine', base.name]);
    await saved();
    expect((await kept()).report).toEqual(base);
  });
});

describe('what is being written', () => {
  test('in one field is one step, and is not saved before it is in the report', async () => {
    const done = store().begin('writing');
    expect(isUnsaved()).toBe(true);
    for (const name of ['P', 'Pe', 'Pel']) await store().edit({ edit: 'rename-report', name }, 'name 1');
    done();
    done();
    await saved();
    expect([store().past.length, store().writing]).toEqual([1, 0]);
    await store().undo();
    expect(store().report).toEqual(base);
  });

  test('and not taken yet is kept as it was written last, and is there when the report is opened again', async () => {
    const { id } = store();
    for (const text of ['n', 'ne', 'net']) store().write('brief of a', { base: 'net by shop', text });
    store().write('brief of b', { base: '', text: 'x' });
    store().write('brief of b', null);
    expect(isUnsaved()).toBe(true);
    await saved();
    await store().open('none');
    expect(store().opening).toBe('missing');
    await store().open(id!);
    expect([...store().drafts]).toEqual([['brief of a', { base: 'net by shop', text: 'net' }]]);
  });
});
