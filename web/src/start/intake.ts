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
import { beginReading } from '@/worker/reading';
import { buffersOf } from '@/worker/transferables';

/** What is being read, for the progress bar. */
export interface IntakeProgress {
  readonly file: string;
  readonly bytes: number;
  readonly size: number;
  readonly rows: number;
  readonly seconds: number;
}

export interface IntakeHandle {
  /** The new report's id. */
  readonly done: Promise<string>;
  cancel(): void;
}

const isReportFile = (file: File) => /\.json$/i.test(file.name);
const stem = (name: string) => name.replace(/\.[^.]+$/, '');

/**
 * Takes files in: a report with its tables, or data files for a new report, the largest of which is measured and the
 * others held against it. Nothing is kept until everything has been read.
 */
export function takeIn(files: readonly File[], onProgress: (progress: IntakeProgress) => void): IntakeHandle {
  let cancelled = false;
  let cancelReading = () => {};

  async function read(entry: TableEntry, file: File): Promise<{ table: Table; known: KnownTable }> {
    const since = performance.now();
    const reading = beginReading(entry, file, ({ bytes, rows }) =>
      onProgress({ file: file.name, bytes, rows, size: file.size, seconds: (performance.now() - since) / 1000 }),
    );
    cancelReading = reading.cancel;
    onProgress({ file: file.name, bytes: 0, rows: 0, size: file.size, seconds: 0 });
    const { table, profile } = await reading.done;
    return { table, known: { id: entry.id, file: file.name, profile } };
  }

  async function work(): Promise<string> {
    const reportFile = files.find(isReportFile);
    const data = files.filter((file) => file !== reportFile).sort((a, b) => b.size - a.size);
    const tables = new Map<string, Table>();
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
        const { table } = await read(
          entry,
          data.find((file) => file.name === nameOf(entry.source.file))!,
        );
        tables.set(entry.id, table);
      }
    } else {
      const known: KnownTable[] = [];
      for (const file of data) {
        const id = freeName(stem(file.name), tables);
        const one = await read({ id, source: { file: file.name } }, file);
        tables.set(id, one.table);
        known.push(one.known);
      }
      report = describe(known);
    }
    const id = newId();
    performance.mark('rows read');
    await desk().add(id, report, transfer(tables, buffersOf(tables.values())));
    return id;
  }

  const done = new Promise<string>((resolve, reject) => {
    work().then(
      (id) => !cancelled && resolve(id),
      (error: unknown) => !cancelled && reject(error instanceof Error ? error : new Error(String(error))),
    );
  });
  return {
    done,
    cancel() {
      cancelled = true;
      cancelReading();
    },
  };
}

function nameOf(path: string): string {
  return path.split(/[\\/]/).pop()!;
}

/** A name no other table of the report has. */
export function freeName(name: string, taken: ReadonlyMap<string, unknown>): string {
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`)) return `${name} ${n}`;
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
