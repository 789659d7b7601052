import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, test } from 'vitest';
import { openDesk, type Desk } from '@bold-ruler/core/desk';
import { editedPlain, ended, NO_HISTORY, remembered } from '@bold-ruler/core/edit';
import { received } from '@bold-ruler/core/problem';
import { fileOf, readCsv } from '@bold-ruler/core/reading';
import { checkReport, isBundle, readBundle, type Report, type TableEntry } from '@bold-ruler/core/report';
import { makeTable, type Table } from '@bold-ruler/core/table';
import { readTable } from '@bold-ruler/core/workspace';
import { storage } from '@/storage/db';
import { addReport, loadFile, loadReport, loadTables } from '@/storage/library';
import { CHANGED_ELSEWHERE, GONE } from './changedElsewhere';
import { gridOf } from './grid';
import { sourceFrom } from './filesOfTable';
import { keepingOf } from './keeping';

// What the desk's worker keeps and gives of tables and their files.

const TEXT = 'day,shop,net\n2025-01-01,Alder,5\n2025-01-02,Birch,x\n2025-01-03,Alder,7\n';
const rowsOf = async (id: string, text: string): Promise<Table> =>
  makeTable(await readCsv(id, text, [{ name: 'net', type: 'number' }]), { id });
const makeTableOf = async (text: string) => makeTable(await readCsv('sales', text), { id: 'sales' });
const base: Report = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [{ id: 'sales', source: { file: 'sales.csv' }, derived: [{ name: 'twice', expression: 'net * 2' }] }],
  measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
});

let desk: Desk;
let id = 'r';
let keeping: ReturnType<typeof keepingOf>;
let grid: ReturnType<typeof gridOf>;
beforeEach(async () => {
  await Promise.all(storage().tables.map((table) => table.clear()));
  const table = await rowsOf('sales', TEXT);
  await addReport('r', base, new Map([['sales', table]]), new Map([['sales.csv', new Blob([TEXT])]]));
  desk = openDesk(new Map([['sales', table]]));
  id = 'r';
  const opened = () => ({ id, desk });
  keeping = keepingOf(opened);
  grid = gridOf(opened);
});

/** What accepting other rows of a file saves. */
async function saveFor(entry: TableEntry) {
  const done = editedPlain(base, { edit: 'read-table', entry, columns: { lost: [], newNumbers: [] } });
  const changes = [{ table: 'sales', before: 0, after: 1 }];
  const seen = (await loadReport('r'))!.changed;
  return { report: done.report, seen, history: ended(remembered(NO_HISTORY, done, undefined, changes)), changes };
}

describe('rows that are tried', () => {
  const newer = { ...base.tables[0]!, source: { file: 'newer.csv' } };

  test('are told by what they change, and only taken when they are accepted', async () => {
    const table = await rowsOf('sales', `${TEXT}2025-01-04,Mill,1\n`);
    const { difference } = received(await keeping.propose(base, table, new File(['newer'], 'newer.csv')));
    expect(difference.rows).toEqual([3, 4]);
    expect(desk.read.get('sales')!.rows).toBe(3);
    received(await keeping.saveRows(await saveFor(newer), 'proposed', new Map()));
    expect([desk.read.get('sales')!.rows, (await loadTables('r')).get('sales')!.rows]).toEqual([4, 4]);
    expect(await (await loadFile('r', 'newer.csv'))!.text()).toBe('newer');
    // What was accepted is not tried any more.
    const again = await keeping.saveRows(await saveFor(newer), 'proposed', new Map());
    expect(again).toMatchObject({ ok: false, problem: { code: 'not-tried' } });
  });

  test('that were discarded, or tried for another report, are not taken', async () => {
    received(await keeping.propose(base, await rowsOf('sales', TEXT), null));
    await keeping.discard();
    expect((await keeping.saveRows(await saveFor(newer), 'proposed', new Map())).ok).toBe(false);
    received(await keeping.propose(base, await rowsOf('sales', TEXT), null));
    id = 'other';
    expect(await keeping.saveRows(await saveFor(newer), 'proposed', new Map())).toMatchObject({
      problem: { code: 'not-tried' },
    });
  });

  test('are refused as a whole where a derived column does not fit them, and nothing is changed', async () => {
    const table = await rowsOf('sales', 'day,shop,amount\n2025-01-01,Alder,5\n');
    received(await keeping.propose(base, table, null));
    const answer = await keeping.saveRows(await saveFor(newer), 'proposed', new Map());
    expect(answer).toMatchObject({ ok: false, problem: { code: 'unknown-column' } });
    expect([desk.read.get('sales')!.rows, (await loadReport('r'))!.report]).toEqual([3, base]);
  });

  test('are not written over what another tab has saved, or where the report is gone', async () => {
    const save = await saveFor(newer);
    await storage().reports.update('r', { changed: save.seen + 5 });
    const given = [await rowsOf('sales', TEXT)];
    expect(await keeping.saveRows(save, given, new Map())).toMatchObject({ problem: { code: CHANGED_ELSEWHERE } });
    await storage().reports.delete('r');
    expect(await keeping.saveRows(save, given, new Map())).toMatchObject({ problem: { code: GONE } });
  });
});

describe('a newer file', () => {
  const NEWER = 'Order day,shop,net\n2025-01-03,Alder,7\n2025-01-03,Alder,9\n2025-01-05,Mill,1\n';
  const file = new File([NEWER], 'newer.csv');
  const entry = base.tables[0]!;

  test('tells what it lacks, what rests on that, and what it may be called', async () => {
    const text = 'day,shop,amount\n2025-01-01,Alder,5\n';
    const { lacking, come } = received(await keeping.propose(base, await makeTableOf(text), file));
    expect(lacking).toMatchObject([{ column: 'net', uses: ['the column twice', 'the measure net'] }]);
    expect(come).toEqual(['amount']);
    const dated = received(await keeping.propose(base, await makeTableOf(NEWER), file));
    expect(dated.lacking).toMatchObject([{ column: 'day', match: { to: 'Order day' } }]);
  });

  test.each([
    ['new', [5, NaN, 7, 9, 1]],
    ['old', [5, NaN, 7, 1]],
    ['both', [5, NaN, 7, 7, 9, 1]],
  ] as const)('whose day is called otherwise counts no day twice: %s of days that are in both', async (keep, net) => {
    received(await keeping.propose(base, await makeTableOf(NEWER), file));
    const added = received(await keeping.proposeAdded(base, entry, keep, { day: 'Order day' }));
    expect(added.overlap).toMatchObject({ days: 1, rows: [1, 2] });
    received(await keeping.saveRows(await saveFor(added.entry!), 'proposed', new Map()));
    const table = desk.read.get('sales')!;
    expect(table.columns.map(({ name }) => name)).toEqual(['day', 'shop', 'net']);
    const column = table.columns[2]!;
    expect(column.kind === 'number' && [...column.values]).toEqual(net);
  });

  test('is looked at also where the report does not fit its tables', async () => {
    const broken = { ...base, tables: [{ ...entry, derived: [{ name: 'twice', expression: 'nett * 2' }] }] };
    const { lacking } = received(await keeping.propose(broken, await makeTableOf(NEWER), file));
    expect(lacking).toMatchObject([{ column: 'day', uses: [], match: { to: 'Order day' } }]);
  });

  test('whose rows stand there already brings them once, where the report says so', async () => {
    const once: TableEntry = { ...entry, repeats: { by: 'row', keep: 'first' } };
    received(await keeping.propose(base, await makeTableOf(NEWER), file));
    const added = received(await keeping.proposeAdded(base, once, 'both', { day: 'Order day' }));
    expect(added.difference.rows).toEqual([3, 5]);
    expect(added.difference.leftOut).toEqual([1, 2]);
  });

  test('is taken instead again after it was added, without being read', async () => {
    received(await keeping.propose(base, await rowsOf('sales', TEXT.replace('Birch', 'Mill')), file));
    received(await keeping.proposeAdded(base, entry, 'both', {}));
    expect(received(await keeping.proposeReplaced(base)).difference.rows).toEqual([3, 3]);
    await keeping.discard();
    expect((await keeping.proposeReplaced(base)).ok).toBe(false);
  });
});

describe('rows of one more month', () => {
  const NEWER = 'day,shop,net\n2025-02-01,Cedar,4\n2025-02-02,Birch,3\n,Total,7\n';
  const file = new File([NEWER], 'february.csv');
  const entry: TableEntry = { ...base.tables[0]!, columns: [{ name: 'net', type: 'number' }] };

  test('are read from their own file beside the one there was, and both go into a bundle', async () => {
    received(await keeping.propose(base, await rowsOf('sales', NEWER), file));
    const added = received(await keeping.proposeAdded(base, entry, 'both', {}));
    expect(added.entry!.source).toEqual({
      file: 'sales.csv and 1 more file',
      files: ['sales.csv', 'february.csv'],
    });
    expect(added.entry!.derived).toEqual(entry.derived);
    const save = await saveFor(added.entry!);
    received(await keeping.saveRows(save, 'proposed', new Map()));
    expect(desk.read.get('sales')!.rows).toBe(6);
    const bundle = readBundle(received(await keeping.bundle(save.report)), 'x');
    expect([...bundle.files].map(([name, bytes]) => [name, new TextDecoder().decode(bytes)])).toEqual([
      ['sales.csv', TEXT],
      ['february.csv', NEWER],
    ]);
    // They are read again from there, each without its own total.
    const kept = (await keeping.file(save.report, 'sales'))!;
    const clean = { ...added.entry!, leaveOut: ['totals' as const] };
    const table = await readTable(clean, await sourceFrom(clean, kept));
    expect(table.rows).toBe(5);
    expect(table.leftOut.filter(({ column }) => column === null)).toMatchObject([{ row: 4, file: 'february.csv' }]);
  });

  test('of which days are there already are kept as rows, under a name that no file has', async () => {
    const again = new File([TEXT], 'Sales.csv');
    received(await keeping.propose(base, await rowsOf('sales', TEXT), again));
    const added = received(await keeping.proposeAdded(base, entry, 'new', {}));
    expect(added.entry!.source).toEqual({ file: 'sales (put together).csv' });
  });
});

describe('a table of another name', () => {
  test('has its rows and its file under that name, and its old name back with them', async () => {
    received(await keeping.proposeNamed('sales', 'takings'));
    const done = received(await desk.asked.edited(base, { edit: 'rename-table', table: 'sales', name: 'takings' }));
    const seen = (await loadReport('r'))!.changed;
    const changes = [
      { table: 'sales', before: 0, after: null },
      { table: 'takings', before: null, after: 1 },
    ];
    const history = ended(remembered(NO_HISTORY, done, undefined, changes));
    received(await keeping.saveRows({ report: done.report, seen, history, changes }, 'proposed', new Map()));
    expect([[...desk.read.keys()], [...(await loadTables('r')).keys()]]).toEqual([['takings'], ['takings']]);
    expect(await (await keeping.file(done.report, 'takings'))!.text()).toBe(TEXT);
    const back = changes.map(({ table, before, after }) => ({ table, before: after, after: before }));
    const undo = { report: base, seen: (await loadReport('r'))!.changed, history: NO_HISTORY, changes: back };
    received(await keeping.saveRows(undo, [], new Map()));
    expect([desk.read.get('sales')!.rows, [...(await loadTables('r')).keys()]]).toEqual([3, ['sales']]);
    expect(await (await loadFile('r', 'sales.csv'))!.text()).toBe(TEXT);
  });
});

describe('what can be had of the open report', () => {
  test('a bundle with its file, or with its rows where the file is not kept', async () => {
    const whole = received(await keeping.bundle(base));
    expect(isBundle('x.ruler.zip')).toBe(true);
    expect(new TextDecoder().decode(readBundle(whole, 'x').files.get('sales.csv'))).toBe(TEXT);
    await storage().files.clear();
    const bare = readBundle(received(await keeping.bundle(base)), 'x');
    const [file] = [...bare.files.values()];
    expect(new TextDecoder().decode(file)).toContain('2025-01-03,Alder,7');
  });

  test('a copy from memory, whatever the storage still has', async () => {
    await Promise.all(storage().tables.map((table) => table.clear()));
    received(await keeping.keepCopy('copy', { ...base, name: 'Copy' }));
    expect((await loadReport('copy'))!.report.name).toBe('Copy');
    expect((await loadTables('copy')).get('sales')!.rows).toBe(3);
  });

  test('the file of a table, where it is kept', async () => {
    expect(await (await keeping.file(base, 'sales'))!.text()).toBe(TEXT);
    expect(await keeping.file(base, 'none')).toBeNull();
    expect(await keeping.tableIds()).toEqual(['sales']);
  });
});

describe('the grid', () => {
  test('gives rows in pieces, with the text of the file beside what could not be read', async () => {
    const looked = received(await grid.look(base, 'sales', {}));
    expect([looked.rows, looked.columns.map(({ name }) => name)]).toEqual([3, ['day', 'shop', 'net', 'twice']]);
    const rows = received(await grid.rows(base, 'sales', 1, 2));
    expect(rows.map(({ line }) => line)).toEqual([3, 4]);
    expect(rows[0]!.cells[2]).toMatchObject({ raw: 'x', unread: true });
    expect(rows[1]!.cells.map(({ text }) => text)).toEqual(['2025-01-03', 'Alder', '7', '14']);
  });

  test('searches and sorts, and finds the place of a line', async () => {
    const found = received(await grid.look(base, 'sales', { search: 'Alder', sort: { column: 'net', down: true } }));
    expect(found.rows).toBe(2);
    const rows = received(await grid.rows(base, 'sales', 0, 9));
    expect(rows.map(({ cells }) => cells[2]!.text)).toEqual(['7', '5']);
    expect([await grid.placeOf(2), await grid.placeOf(3)]).toEqual([1, -1]);
  });

  test('tells lines of the same number in several files apart', async () => {
    const entry: TableEntry = {
      id: 'sales',
      source: { file: 'a.csv and 1 more file', files: ['a.csv', 'b.csv'] },
      columns: [{ name: 'net', type: 'number' }],
    };
    const of = (name: string, text: string) => fileOf(name, new TextEncoder().encode(text));
    const table = await readTable(entry, [of('a.csv', TEXT), of('b.csv', TEXT.replace('x', '9'))]);
    const report = { ...base, tables: [entry] };
    grid = gridOf(() => ({ id: 'r', desk: openDesk(new Map([['sales', table]])) }));
    received(await grid.look(report, 'sales', {}));
    const rows = received(await grid.rows(report, 'sales', 0, 9));
    expect(rows.map(({ file, line, cells }) => [file, line, cells[2]!.unread ?? false])).toEqual([
      ['a.csv', 2, false],
      ['a.csv', 3, true],
      ['a.csv', 4, false],
      ['b.csv', 2, false],
      ['b.csv', 3, false],
      ['b.csv', 4, false],
    ]);
    expect([await grid.placeOf(3), await grid.placeOf(3, 'a.csv'), await grid.placeOf(3, 'b.csv')]).toEqual([1, 1, 4]);
  });

  test('asks nothing before it looks at a table', async () => {
    expect(await grid.placeOf(2)).toBe(-1);
  });
});
