import Dexie, { type EntityTable, type Table as DexieTable } from 'dexie';
import { Problem } from '@bold-ruler/core/problem';
import type { History } from '@bold-ruler/core/edit';
import type { Report } from '@bold-ruler/core/report';
import type { Column, Table } from '@bold-ruler/core/table';

/** A report as this browser keeps it. */
export interface StoredReport {
  readonly id: string;
  readonly report: Report;
  /** Milliseconds since 1970; grows with every change, and so tells whether another tab has made one. */
  readonly changed: number;
  /** Rows of each table, for the list of reports. */
  readonly rows: Readonly<Record<string, number>>;
  /** When it was removed: it lies in the bin since. */
  readonly removed?: number;
  /** Since when it has lain there for long enough. */
  readonly due?: number;
  /** Which of the rows a table has had it has now; 0 where nothing is said. */
  readonly versions?: Readonly<Record<string, number>>;
}

export interface StoredTable {
  readonly report: string;
  readonly id: string;
  readonly table: Table;
  /** Where its columns lie, see `columns.ts`, and how many they are. */
  readonly held?: string;
  readonly count?: number;
}

/** A column of a table that is kept. */
export interface StoredColumn {
  readonly held: string;
  /** Its place in the table. */
  readonly place: number;
  readonly report: string;
  readonly column: Column;
  /** A sum of its values, by which it is known when they are others. */
  readonly sum?: number;
}

/** Rows that a table had before, or had before a step was taken back, with the file they were read from. */
export interface EarlierRows {
  readonly report: string;
  readonly id: string;
  readonly version: number;
  readonly table: Table;
  readonly held?: string;
  readonly count?: number;
  readonly file: string;
  readonly content: Blob | null;
}

/** A file as it was chosen, from which its tables can be read again. */
export interface StoredFile {
  readonly report: string;
  readonly file: string;
  readonly content: Blob;
}

/** A report as it was before a step of the work, to go back to. Its tables are not kept with it. */
export interface EarlierState {
  readonly n: number;
  readonly report: string;
  readonly at: number;
  readonly state: Report;
}

/** What can be taken back and done again in a report, as of one of its states. */
export interface StoredHistory {
  readonly report: string;
  readonly changed: number;
  readonly past: History['past'];
  readonly future: History['future'];
}

/** A text that is being written and does not stand in the report yet. */
export interface StoredDraft {
  readonly report: string;
  /** Where it is written. */
  readonly place: string;
  /** What stood there when it was begun. */
  readonly base: string;
  readonly text: string;
}

/** Something that was removed from a report. */
export interface BinEntry {
  readonly n: number;
  readonly report: string;
  readonly at: number;
  /** Since when it has lain there for long enough. */
  readonly due?: number;
  readonly kind: 'figures' | 'pages' | 'tables';
  readonly content: Report['figures'][number] | Report['pages'][number] | Report['tables'][number];
  /** Of a table: measures and benchmarks that went with it. */
  readonly with?: Pick<Report, 'measures' | 'benchmarks'>;
}

/** What fields a table has gained since it was stored. */
const GAINED = { firstLine: 2, lines: null, emptyLines: 0, doubts: [], marks: null, wide: null } as const;

/** The version of the storage that this program writes. */
const VERSION = 6;
/** What a browser counts a version of Dexie's as. */
const TIMES = 10;

/** Everything this browser keeps. */
export class Storage extends Dexie {
  reports!: EntityTable<StoredReport, 'id'>;
  contents!: DexieTable<StoredTable, [string, string]>;
  earlier!: DexieTable<EarlierRows, [string, string, number]>;
  columns!: DexieTable<StoredColumn, [string, number]>;
  files!: DexieTable<StoredFile, [string, string]>;
  states!: EntityTable<EarlierState, 'n'>;
  histories!: EntityTable<StoredHistory, 'report'>;
  drafts!: DexieTable<StoredDraft, [string, string]>;
  bin!: EntityTable<BinEntry, 'n'>;

  constructor() {
    super('bold-ruler');
    this.version(1).stores({ reports: 'id, changed', contents: '[report+id], report' });
    this.version(2)
      .stores({ files: '[report+file], report' })
      .upgrade((change) =>
        change
          .table('contents')
          .toCollection()
          .modify((stored: { table: Table }) => {
            stored.table = { ...GAINED, ...stored.table };
          }),
      );
    this.version(3).stores({ states: '++n, [report+at], report' });
    this.version(4).stores({ histories: 'report', drafts: '[report+place], report', bin: '++n, report, at' });
    this.version(5).stores({ earlier: '[report+id+version], report' });
    this.version(VERSION).stores({
      columns: '[held+place], report',
      contents: '[report+id], report, [report+held]',
      earlier: '[report+id+version], report, [report+held]',
    });
    // Another tab brings a newer version of the storage: this one makes way, and says so when it saves.
    this.on('versionchange', ({ newVersion }) => {
      if (newVersion === null) forget(this);
      else isTakenOver = true;
      this.close({ disableAutoOpen: true });
    });
    // Dexie opens a storage of a newer version all the same: it is let go before anything is read or written.
    this.on(
      'ready',
      () => {
        if (this.backendDB().version <= VERSION * TIMES) return;
        isTakenOver = true;
        this.close({ disableAutoOpen: true });
        throw newerStorage();
      },
      true,
    );
    // The browser takes everything away, as when site data are cleared.
    this.on('close', () => forget(this));
  }
}

let opened: Storage | null = null;
/** A newer version of this program has taken the storage over while this one was open. */
let isTakenOver = false;

function forget(one: Storage): void {
  if (opened === one) opened = null;
}

export function storage(): Storage {
  if (isTakenOver) throw newerStorage();
  opened ??= new Storage();
  return opened;
}

/** The names of what an error is made of, as the browser and Dexie call them. */
function namesOf(error: unknown): string[] {
  const { name, inner } = (error ?? {}) as { name?: string; inner?: unknown };
  return [...(name === undefined ? [] : [name]), ...(inner ? namesOf(inner) : [])];
}

export const isFull = (error: unknown): boolean => namesOf(error).includes('QuotaExceededError');

const newerStorage = () =>
  new Problem(
    'newer-storage',
    'a newer version of Bold Ruler keeps this browser’s reports now',
    undefined,
    'reload the page to go on in the newer version, or start that version; nothing that was saved is lost',
  );

const REFUSED = [
  'DatabaseClosedError',
  'InvalidStateError',
  'MissingAPIError',
  'NotFoundError',
  'OpenFailedError',
  'SecurityError',
  'UnknownError',
  'AbortError',
];

/** What went wrong with the storage, in words; what is no matter of it stays what it is. */
async function causeOf(error: unknown): Promise<unknown> {
  if (error instanceof Problem) return error;
  const names = namesOf(error);
  if (isTakenOver || names.includes('VersionError')) return newerStorage();
  if (isFull(error)) {
    const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {};
    const mb = (bytes: number) => `${Math.round(bytes / 1e6).toLocaleString('en')} MB`;
    return new Problem(
      'storage-full',
      `this browser gives this page no more room (${mb(usage)} of ${mb(quota)} are taken), so it could not be saved; nothing that was saved before is lost`,
      undefined,
      'empty the bin on the first page, remove reports you no longer need, or free space on this device, and try again',
    );
  }
  if (names.some((name) => REFUSED.includes(name)))
    return new Problem(
      'storage-refused',
      `this browser keeps nothing for this page (${names.at(-1)})`,
      undefined,
      'allow it to keep data for this page, which a private window or a setting may forbid, or save the report as a file',
    );
  return error;
}

/** Milliseconds that the answer of a browser is waited for: one that is taking everything away never gives it. */
const ANSWERING = 500;

/** Before Dexie may change how a storage is laid out it is known that no newer version has laid it out. */
async function refuseNewer(): Promise<void> {
  const none: readonly IDBDatabaseInfo[] = [];
  const all = await Promise.race([
    indexedDB.databases?.() ?? none,
    new Promise<typeof none>((later) => setTimeout(later, ANSWERING, none)),
  ]);
  const version = all.find(({ name }) => name === 'bold-ruler')?.version ?? 0;
  if (version > VERSION * TIMES) isTakenOver = true;
}

/** Runs work on the storage; why the browser does not do it is told in words. A storage that was closed under it is opened once more. */
export async function stored<T>(work: (db: Storage) => Promise<T>): Promise<T> {
  try {
    if (!opened && !isTakenOver) await refuseNewer();
    return await work(storage());
  } catch (error) {
    if (!isTakenOver && namesOf(error).includes('DatabaseClosedError')) {
      opened = null;
      try {
        return await work(storage());
      } catch (again) {
        throw await causeOf(again);
      }
    }
    throw await causeOf(error);
  }
}
