import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { sheetsOf } from '@bold-ruler/core/reading';
import {
  keptAs,
  readBundle,
  writeBundle,
  writeReport,
  checkReport,
  type Report,
  type KnownTable,
  type TableEntry,
} from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { workbook } from '../../../core/src/reading/workbook.fixture';
import { newReport, readBare, readTable } from '@bold-ruler/core/workspace';
import { addReport } from '@/storage/library';
import { fileFrom } from '@/worker/fileFrom';
import { gathered, sourceFrom } from '@/worker/filesOfTable';
import { filesOfTables, unpacked } from '@/worker/pack';

// Files on their way into a report, read in this thread instead of in workers.

const added: { id: string; report: Report; tables: ReadonlyMap<string, Table>; files: ReadonlyMap<string, Blob> }[] =
  [];
const copies: { id: string; report: Report }[] = [];
vi.mock('@/store/desk', () => ({
  desk: () => ({
    add: async (id: string, given: Report | null, known: readonly KnownTable[], sources: ReadonlyMap<string, Blob>) => {
      const read = given ? { known, files: sources } : await gathered(known, sources);
      const { report, tables } = newReport(given, read.known);
      added.push({ id, report, tables, files: filesOfTables(report.tables, read.files) });
      return { ok: true, value: null };
    },
    keepCopy: async (id: string, copy: Report) => {
      copies.push({ id, report: copy });
      return { ok: true, value: null };
    },
  }),
}));

/** Readings that wait until they are let go, where a test wants that. */
let gate: Promise<void> = Promise.resolve();
const cancelled: string[] = [];
let begun = 0;
const reading = <T>(name: string, work: () => Promise<T>) => {
  begun++;
  return { done: gate.then(work), cancel: () => cancelled.push(name) };
};
vi.mock('@/worker/reading', () => ({
  lookInto: (file: File, name: string) => reading(name, () => sheetsOf(fileFrom(file, name))),
  unbundle: (file: File, name: string) =>
    reading(name, async () => {
      const { report, files } = readBundle(new Uint8Array(await file.arrayBuffer()), name);
      return { report: writeReport(report), files: [...files] };
    }),
  beginReading: (entry: TableEntry, file: File, bare: boolean) =>
    reading(entry.id, async () => {
      const source = await sourceFrom(entry, file);
      return bare ? readBare(entry, source) : { entry, table: await readTable(entry, source) };
    }),
}));
const marks = new Map<string, string>();
vi.stubGlobal('sessionStorage', {
  getItem: (key: string) => marks.get(key) ?? null,
  setItem: (key: string, value: string) => marks.set(key, value),
  removeItem: (key: string) => marks.delete(key),
});

const { freeTableId, interruptedReading, nextMonth, pastedFile, takeIn } = await import('./intake');

const SALES = 'day,shop,net\n2025-01-01,Alder,5\n2025-01-02,Birch,6\n2025-01-03,Alder,7\n';
const GOALS = 'month,shop,goal\n2025-01,Alder,4\n';
const file = (name: string, text: string | Uint8Array<ArrayBuffer>) => new File([text], name);
const taken = async (...files: File[]) => {
  await takeIn(files, () => {}).done;
  return added.at(-1)!;
};

beforeEach(() => {
  added.length = 0;
  cancelled.length = 0;
  begun = 0;
  marks.clear();
  gate = Promise.resolve();
});

describe('files without a report', () => {
  test('become one: the table with most rows is measured, the others are held against it', async () => {
    const { report, tables, files } = await taken(file('goals.csv', GOALS), file('sales.csv', SALES));
    expect(report.tables.map(({ id }) => id)).toEqual(['sales', 'goals']);
    expect(report.measures.map(({ name, table }) => `${table} ${name}`)).toEqual(['sales net']);
    expect(report.benchmarks.some((one) => one.kind === 'table' && one.table === 'goals')).toBe(true);
    expect(report.figures[0]!.brief).toContain('net');
    expect([tables.get('sales')!.rows, tables.get('goals')!.rows]).toEqual([3, 1]);
    expect([...files.keys()].sort()).toEqual(['goals.csv', 'sales.csv']);
  });

  test('of one name in two folders stand as two tables', async () => {
    const { report, files } = await taken(file('sales.csv', SALES), file('sales.csv', GOALS));
    expect(report.tables.map(({ id }) => id).sort()).toEqual(['sales', 'sales 2']);
    const read = async (entry: TableEntry) => {
      const kept = files.get(keptAs(entry))!;
      return [entry.id, (await readTable(entry, await sourceFrom(entry, kept))).rows];
    };
    expect(Object.fromEntries(await Promise.all(report.tables.map(read)))).toEqual({ sales: 3, 'sales 2': 1 });
  });

  test('of one layout are one table, also where the only sheet of each is called after its month', async () => {
    const month = (n: number) =>
      file(
        `Sales 2025-0${n}.xlsx`,
        workbook([
          {
            name: ['January', 'February'][n - 1]!,
            rows: [
              ['day', 'shop', 'net'],
              [`2025-0${n}-01`, 'Alder', n],
              [`2025-0${n}-02`, 'Birch', n],
            ],
          },
        ]) as Uint8Array<ArrayBuffer>,
      );
    const { report, tables } = await taken(month(1), month(2));
    expect(report.tables.map(({ source }) => source)).toEqual([
      { file: 'Sales 2025-01.xlsx and 1 more file', files: ['Sales 2025-01.xlsx', 'Sales 2025-02.xlsx'] },
    ]);
    expect([...tables.values()].map(({ rows }) => rows)).toEqual([4]);
  });

  test('that cannot be read say so, and nothing is kept', async () => {
    await expect(taken(file('empty.csv', ''))).rejects.toThrow();
    expect(added).toEqual([]);
    expect(marks.size).toBe(0);
  });
});

describe('a report with its files', () => {
  const report = checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    tables: [{ id: 'sales', source: { file: 'data/sales.csv' } }],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  });

  test('is opened as it is, its files found by their names', async () => {
    const found = await taken(file('r.ruler.json', writeReport(report)), file('sales.csv', SALES));
    expect(found.report).toEqual(report);
    expect([...found.files.keys()]).toEqual(['data/sales.csv']);
    expect(found.tables.get('sales')!.rows).toBe(3);
  });

  test('of which one table is several files takes them together, each row once, and goes on reading these files', async () => {
    const several = checkReport({
      ...report,
      tables: [{ id: 'sales', source: { files: 'data/sales-*.csv' }, repeats: { by: 'row' } }],
    });
    const found = await taken(
      file('r.ruler.json', writeReport(several)),
      file('sales-2.csv', 'day,shop,net\n2025-01-03,Alder,7\n2025-02-01,Cedar,2.5\n'),
      file('sales-1.csv', SALES),
      file('other.csv', 'a,b\n1,2\n'),
    );
    expect(found.tables.get('sales')!.rows).toBe(4);
    const names = ['data/sales-1.csv', 'data/sales-2.csv'];
    expect(found.report.tables[0]!.source).toEqual({ file: 'data/sales-1.csv and 1 more file', files: names });
    const kept = await unpacked(found.files.get(keptAs(found.report.tables[0]!))!);
    expect([...kept.keys()]).toEqual(names);
    expect(await kept.get(names[0]!)!.text()).toBe(SALES);
    // The report that is saved from there opens beside the same files.
    const again = await taken(
      file('r.ruler.json', writeReport(found.report)),
      file('sales-1.csv', SALES),
      file('sales-2.csv', 'day,shop,net\n2025-01-03,Alder,7\n2025-02-01,Cedar,2.5\n'),
    );
    expect([again.report, again.tables.get('sales')!.rows]).toEqual([found.report, 4]);
    await expect(taken(file('r.ruler.json', writeReport(found.report)), file('sales-1.csv', SALES))).rejects.toThrow(
      'r.ruler.json: it reads sales-2.csv — drop that file together with it.',
    );
    await expect(taken(file('r.ruler.json', writeReport(several)))).rejects.toThrow(
      'r.ruler.json: it reads sales-*.csv',
    );
  });

  test('of which tables share some of their files keeps those of each, however alike the lists are', async () => {
    const lists = { whole: ['a.csv', 'b.csv'], part: ['a.csv', 'c.csv'], one: ['a.csv'] };
    const shared = checkReport({
      boldRuler: 1,
      name: 'r',
      tables: [
        ...Object.entries(lists).map(([id, files]) => ({ id, source: { files } })),
        { id: 'plain', source: { file: 'a.csv' } },
      ],
    });
    const rows = (n: number) => `day,net\n${Array.from({ length: n }, (_, i) => `2025-01-0${i + 1},${n}\n`).join('')}`;
    const found = await taken(
      file('r.ruler.json', writeReport(shared)),
      ...(['a', 'b', 'c'] as const).map((name, i) => file(`${name}.csv`, rows([1, 2, 4][i]!))),
    );
    const read = async (entry: TableEntry) => {
      const kept = found.files.get(keptAs(entry))!;
      return [entry.id, (await readTable(entry, await sourceFrom(entry, kept))).rows];
    };
    expect(Object.fromEntries(await Promise.all(found.report.tables.map(read)))).toEqual({
      whole: 3,
      part: 5,
      one: 1,
      plain: 1,
    });
  });

  test('is refused where files of one name could be taken for one another', async () => {
    const lists = (...files: string[]) =>
      file('r.ruler.json', writeReport(checkReport({ ...report, tables: [{ id: 'sales', source: { files } }] })));
    await expect(taken(lists('north/a.csv', 'south/a.csv'), file('a.csv', SALES))).rejects.toThrow(
      'r.ruler.json: it reads several files called a.csv, from north/ and south/',
    );
    await expect(taken(lists('a.csv'), file('a.csv', SALES), file('a.csv', GOALS))).rejects.toThrow(
      'r.ruler.json: it reads a.csv, and several of the files are called so',
    );
  });

  test('names the files that are missing', async () => {
    await expect(taken(file('r.ruler.json', writeReport(report)))).rejects.toThrow(
      'r.ruler.json: it reads sales.csv — drop that file together with it.',
    );
  });

  test('as a bundle brings its own', async () => {
    const flat = { ...report, tables: [{ id: 'sales', source: { file: 'sales.csv' } }] };
    const bytes = writeBundle(flat, new Map([['sales.csv', new TextEncoder().encode(SALES)]]));
    const found = await taken(file('r.ruler.zip', bytes as Uint8Array<ArrayBuffer>));
    expect([found.report, found.tables.get('sales')!.rows]).toEqual([flat, 3]);
  });

  test('other JSON holds rows', async () => {
    const { report: made } = await taken(file('rows.json', '[{"shop":"Alder","net":5},{"shop":"Birch","net":6}]'));
    expect(made.measures.map(({ name }) => name)).toEqual(['net']);
  });
});

describe('while it is read', () => {
  test('the tab notes what it reads, so that a reload in the middle can be told, once', async () => {
    const handle = takeIn([file('sales.csv', SALES)], () => {});
    expect(interruptedReading()).toBe('sales.csv');
    expect(interruptedReading()).toBeNull();
    await handle.done;
    expect(interruptedReading()).toBeNull();
  });

  test('it can be cancelled: every reading is ended, and nothing is kept', async () => {
    let go = () => {};
    gate = new Promise((resolve) => {
      go = resolve;
    });
    const handle = takeIn([file('sales.csv', SALES), file('goals.csv', GOALS)], () => {});
    await vi.waitFor(() => expect(begun).toBeGreaterThan(0), { timeout: 240_000 });
    handle.cancel();
    go();
    await new Promise(setImmediate);
    expect(cancelled.length).toBeGreaterThan(0);
    expect([added.length, marks.size]).toEqual([0, 0]);
  });

  test('progress is told for the largest file', async () => {
    const told: { file: string; size: number }[] = [];
    await takeIn([file('goals.csv', GOALS), file('sales.csv', SALES)], (progress) => told.push(progress)).done;
    expect(told.at(-1)).toMatchObject({ file: 'sales.csv', size: SALES.length });
  });
});

describe('a new month', () => {
  const report = checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    tables: [
      { id: 'sales', source: { file: 'sales.csv' } },
      { id: 'goals', source: { file: 'goals.csv' } },
    ],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  });
  const kept = new Map([
    ['sales.csv', new Blob([SALES])],
    ['goals.csv', new Blob([GOALS])],
  ]);
  const more = `${SALES}2025-02-01,Mill,9\n`;

  test('is a copy of the report, with each file at the table of its name or columns', async () => {
    await addReport('r', report, new Map(), kept);
    for (const names of [['sales.csv'], ['february.csv'], ['february.csv', 'march.csv', 'goals.csv']]) {
      const files = names.map((name) => file(name, name === 'goals.csv' ? GOALS : more));
      const month = await nextMonth('r', report, files);
      expect(copies.at(-1)).toEqual({ id: month.id, report: { ...report, name: 'Pellwether (new month)' } });
      expect(month.id).not.toBe('r');
      const at = names.map((name) => [name === 'goals.csv' ? 'goals' : 'sales', name]);
      expect(month.newer.map(([table, { name }]) => [table, name])).toEqual(at);
    }
    // No row is read before it is asked for.
    expect(added).toEqual([]);
  });

  test('refuses a file that fits none of them, and copies nothing', async () => {
    await addReport('r odd', report, new Map(), kept);
    const before = copies.length;
    await expect(nextMonth('r odd', report, [file('sales.csv', more), file('odd.csv', 'a,b\n1,2\n')])).rejects.toThrow(
      'odd.csv: it fits no table of this report — give it the name of the file it stands for: sales.csv or goals.csv.',
    );
    expect(copies).toHaveLength(before);
  });
});

test('what is pasted is rows where it has cells, and no other text is', async () => {
  expect(await pastedFile('a\tb\n1\t2\n')!.text()).toBe('a\tb\n1\t2\n');
  expect(pastedFile('a;b\n1;2')).not.toBeNull();
  for (const text of ['', 'one line', 'one, line', 'two lines\nwithout cells', 'one, with\nand one without'])
    expect(pastedFile(text)).toBeNull();
});

test('names of tables that are free', () => {
  expect(freeTableId('sales', new Set())).toBe('sales');
  expect(freeTableId('sales', new Set(['sales', 'sales 2']))).toBe('sales 3');
});
