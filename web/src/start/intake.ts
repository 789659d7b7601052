import { transfer } from 'comlink';
import {
  firstBrief,
  readReport,
  reportFor,
  type KnownTable,
  type Report,
  type TableEntry,
} from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { newId } from '@/store/library';
import { beginReading, lookInto } from '@/worker/reading';
import { received } from '@/worker/sent';
import { buffersOf } from '@/worker/transferables';

/** What is being read, for the progress bar. */
export interface IntakeProgress {
  readonly file: string;
  /** Bytes of the file. */
  readonly size: number;
  /** 0–1 */
  readonly share: number;
  readonly rows: number;
  readonly seconds: number;
}

export interface IntakeHandle {
  /** The new report's id. */
  readonly done: Promise<string>;
  cancel(): void;
}

/** A report file says so among its first characters; other JSON holds rows. */
async function isReportFile(file: File): Promise<boolean> {
  return /\.json$/i.test(file.name) && /"boldRuler"\s*:/.test(await file.slice(0, 4096).text());
}

const stem = (name: string) => name.replace(/\.[^.]+$/, '');

/** One table in a file that was chosen. */
interface Chosen {
  readonly entry: TableEntry;
  readonly file: File;
}

/** A table that was read, and what a report can be made of. */
export interface Taken {
  readonly entry: TableEntry;
  readonly table: Table;
  readonly known: KnownTable;
}

/** Looks into files and reads their tables one after the other; each can be ended at any time. */
export class Intake {
  private stop = () => {};
  private cancelled = false;

  constructor(private readonly onProgress: (progress: IntakeProgress) => void) {}

  /** Every table of the files, with ids that no other has. */
  async tablesIn(files: readonly File[], taken: ReadonlySet<string>): Promise<Chosen[]> {
    const ids = new Set(taken);
    const found: Chosen[] = [];
    for (const file of files) {
      const look = lookInto(file, file.name);
      this.stop = look.cancel;
      this.onProgress({ file: file.name, size: file.size, share: 0, rows: 0, seconds: 0 });
      const sheets = await look.done;
      for (const sheet of sheets) {
        const id = freeName(sheets.length > 1 ? sheet : stem(file.name), ids);
        ids.add(id);
        found.push({ entry: { id, source: { file: file.name, ...(sheet === '' ? {} : { sheet }) } }, file });
      }
    }
    return found;
  }

  async read({ entry, file }: Chosen): Promise<Taken> {
    const since = performance.now();
    const tell = (rows: number, share: number) =>
      this.onProgress({ file: file.name, size: file.size, rows, share, seconds: (performance.now() - since) / 1000 });
    const reading = beginReading(entry, file, ({ rows, share }) => tell(rows, share));
    this.stop = reading.cancel;
    tell(0, 0);
    const { table, profile } = await reading.done;
    const { sheet } = entry.source;
    return { entry, table, known: { id: entry.id, file: file.name, ...(sheet ? { sheet } : {}), profile } };
  }

  get isCancelled(): boolean {
    return this.cancelled;
  }

  cancel(): void {
    this.cancelled = true;
    this.stop();
  }
}

/**
 * Takes files in: a report with its tables, or data files for a new report, the table with the most rows is measured and
 * the others held against it. Nothing is kept until everything has been read.
 */
export function takeIn(files: readonly File[], onProgress: (progress: IntakeProgress) => void): IntakeHandle {
  const intake = new Intake(onProgress);

  async function work(): Promise<string> {
    const reports = await Promise.all(files.map(isReportFile));
    const reportFile = files.find((_, i) => reports[i]);
    const data = files.filter((file) => file !== reportFile);
    const taken: Taken[] = [];
    let report: Report;
    if (reportFile) {
      report = readReport(await reportFile.text(), reportFile.name);
      const missing = report.tables.filter(({ source }) => !data.some((file) => file.name === nameOf(source.file)));
      if (missing.length > 0) {
        throw new Error(
          `${reportFile.name} reads ${missing.map(({ source }) => nameOf(source.file)).join(', ')}: drop ${missing.length === 1 ? 'that file' : 'those files'} together with it.`,
        );
      }
      for (const entry of report.tables) {
        const file = data.find(({ name }) => name === nameOf(entry.source.file))!;
        taken.push(await intake.read({ entry, file }));
      }
    } else {
      for (const chosen of await intake.tablesIn(data, new Set())) taken.push(await intake.read(chosen));
      taken.sort((a, b) => b.table.rows - a.table.rows);
      report = describe(taken.map(({ known }) => known));
    }
    const id = newId();
    const tables = new Map(taken.map(({ entry, table }) => [entry.id, table]));
    const sources = new Map(
      report.tables.map(({ source }) => [source.file, data.find(({ name }) => name === nameOf(source.file))!]),
    );
    performance.mark('rows read');
    if (intake.isCancelled) return id;
    received(await desk().add(id, report, transfer(tables, buffersOf(tables.values())), sources));
    return id;
  }

  markReading(files[0]?.name ?? null);
  const done = new Promise<string>((resolve, reject) => {
    work()
      .finally(() => markReading(null))
      .then(
        (id) => !intake.isCancelled && resolve(id),
        (error: unknown) => !intake.isCancelled && reject(error instanceof Error ? error : new Error(String(error))),
      );
  });
  return {
    done,
    cancel() {
      markReading(null);
      intake.cancel();
    },
  };
}

const MARK = 'bold-ruler: reading';

/** Notes in this tab what is being read, so that a reload in the middle can be told. */
function markReading(file: string | null): void {
  if (file === null) sessionStorage.removeItem(MARK);
  else sessionStorage.setItem(MARK, file);
}

/** The file whose reading a reload has ended; told once. */
export function interruptedReading(): string | null {
  const file = sessionStorage.getItem(MARK);
  sessionStorage.removeItem(MARK);
  return file;
}

function nameOf(path: string): string {
  return path.split(/[\\/]/).pop()!;
}

/** A name no other table of the report has. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`)) return `${name} ${n}`;
}

/** Rows that were copied in a spreadsheet, as a file; null where what was pasted is no table. */
export function pastedFile(text: string): File | null {
  const lines = text.replace(/\r?\n$/, '').split(/\r?\n/);
  const isTable = lines.length > 1 && (text.includes('\t') || lines.every((line) => /[,;|]/.test(line)));
  return isTable ? new File([text], 'pasted rows.tsv', { type: 'text/tab-separated-values' }) : null;
}

/** A report for data that has none, with a first figure where something can be added up. */
function describe(known: readonly KnownTable[]): Report {
  const report = reportFor(known[0]!.id, known);
  const brief = firstBrief(report, known[0]!.profile);
  return brief === null ? report : { ...report, figures: [{ id: 'f1', brief, look: {} }] };
}

/** The demo's files, served beside the application. */
export async function demoFiles(): Promise<File[]> {
  const names = ['pellwether.ruler.json', 'orders.csv', 'plan.csv', 'stock.csv'];
  return Promise.all(
    names.map(async (name) => {
      const answer = await fetch(`/demo/${name}`);
      if (!answer.ok)
        throw new Error(`The demo’s ${name} is not there (${answer.status}). Run npm run demo and start again.`);
      return new File([await answer.blob()], name);
    }),
  );
}
