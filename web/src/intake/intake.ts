import { transfer } from 'comlink';
import {
  filesOf,
  fitsPattern,
  isBundle,
  isInDatabase,
  isPattern,
  keptAs,
  readReport,
  type KnownTable,
  type Report,
  type TableEntry,
} from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { loadFile, newId } from '@/storage/library';
import { inTab } from '@/ui/noted';
import { beginReading, lookInto, unbundle } from '@/worker/reading';
import { listed, Problem, received } from '@bold-ruler/core/problem';
import { filesKept, packOf, readFrom } from '@/worker/pack';
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
  readonly file: Blob;
}

/** Looks into files and reads their tables; all that is under way can be ended at any time. */
export class Intake {
  private readonly stops: (() => void)[] = [];
  private cancelled = false;
  private last: IntakeProgress | null = null;

  constructor(private onProgress: (progress: IntakeProgress) => void) {}

  /** Tells how far it has come to another from now on. */
  tellTo(onProgress: (progress: IntakeProgress) => void): void {
    this.onProgress = onProgress;
    if (this.last) onProgress(this.last);
  }

  private tell(progress: IntakeProgress): void {
    this.last = progress;
    this.onProgress(progress);
  }

  /** The files in a bundle. */
  async unpacked(bundle: File): Promise<File[]> {
    const reading = unbundle(bundle, bundle.name);
    this.stops.push(reading.cancel);
    this.tell({ file: bundle.name, size: bundle.size, share: 0, rows: 0, seconds: 0 });
    const { report, files } = await reading.done;
    return [
      new File([report], bundle.name.replace(/\.zip$/i, '.json')),
      ...files.map(([name, content]) => new File([content], nameOf(name))),
    ];
  }

  /** Every table of the files, with ids that no other has. */
  async tablesIn(files: readonly File[], taken: ReadonlySet<string>): Promise<Chosen[]> {
    const ids = new Set(taken);
    const found: Chosen[] = [];
    for (const file of files) {
      const look = lookInto(file, file.name);
      this.stops.push(look.cancel);
      this.tell({ file: file.name, size: file.size, share: 0, rows: 0, seconds: 0 });
      const sheets = await look.done;
      for (const sheet of sheets) {
        const id = freeTableId(sheets.length > 1 ? sheet : stem(file.name), ids);
        ids.add(id);
        found.push({ entry: { id, source: { file: file.name, ...(sheet === '' ? {} : { sheet }) } }, file });
      }
    }
    return found;
  }

  /**
   * Reads tables two at a time, the largest file first, and tells of that one; gives them in the order in which they were
   * asked for.
   * @param bare no report says yet how they are read
   */
  async readAll(chosen: readonly Chosen[], bare: boolean): Promise<KnownTable[]> {
    const taken: KnownTable[] = [];
    const waiting = [...chosen.keys()].sort((a, b) => chosen[b]!.file.size - chosen[a]!.file.size);
    const largest = waiting[0];
    const reader = async () => {
      for (let i = waiting.shift(); i !== undefined; i = waiting.shift())
        taken[i] = await this.read(chosen[i]!, bare, i === largest);
    };
    await Promise.all([reader(), reader()]);
    return taken;
  }

  private async read({ entry, file }: Chosen, bare: boolean, told: boolean): Promise<KnownTable> {
    const since = performance.now();
    const tell = (rows: number, share: number) =>
      told &&
      this.onProgress({
        file: nameOf(entry.source.file),
        size: file.size,
        rows,
        share,
        seconds: (performance.now() - since) / 1000,
      });
    const reading = beginReading(entry, file, bare, ({ rows, share }) => tell(rows, share));
    this.stops.push(reading.cancel);
    tell(0, 0);
    return reading.done;
  }

  get isCancelled(): boolean {
    return this.cancelled;
  }

  cancel(): void {
    this.cancelled = true;
    for (const stop of this.stops) stop();
  }
}

/** Everything a new report is made of, read and not yet kept. */
interface Gathered {
  /** Null where one is to be made. */
  readonly report: Report | null;
  readonly taken: readonly KnownTable[];
  /** The files of the tables, by the name under which they are kept. */
  readonly kept: ReadonlyMap<string, Blob>;
}

async function gather(intake: Intake, chosen: readonly File[]): Promise<Gathered> {
  const files = (
    await Promise.all(chosen.map((file) => (isBundle(file.name) ? intake.unpacked(file) : [file])))
  ).flat();
  const reports = await Promise.all(files.map(isReportFile));
  const reportFile = files.find((_, i) => reports[i]);
  const data = files.filter((file) => file !== reportFile);
  if (!reportFile) {
    const apart = calledApart(data, []);
    const taken = await intake.readAll(await intake.tablesIn(apart, new Set()), true);
    return { report: null, taken, kept: new Map(apart.map((file) => [file.name, file])) };
  }
  const report = readReport(await reportFile.text(), reportFile.name);
  // Rows in a database stay there.
  const inFiles = report.tables.filter((entry) => !isInDatabase(entry));
  const filesNamed = (name: string) =>
    data.filter((file) => (isPattern(name) ? fitsPattern(file.name, name) : file.name === name));
  const missing = inFiles.flatMap(filesOf).filter((name) => filesNamed(nameOf(name)).length === 0);
  if (missing.length > 0) {
    throw new Problem(
      'files-missing',
      `it reads ${listed(missing.map(nameOf), 'and')}`,
      { in: reportFile.name },
      `drop ${missing.length === 1 ? 'that file' : 'those files'} together with it`,
    );
  }
  refuseAlike(inFiles, data, reportFile.name);
  const kept = new Map<string, Blob>();
  const read = inFiles.map((entry): Chosen => {
    const { file, files } = entry.source;
    const own = files
      ? files.map((name) => [name, filesNamed(nameOf(name))[0]!] as const)
      : isPattern(file)
        ? [...filesNamed(nameOf(file))]
            .sort((a, b) => (a.name < b.name ? -1 : 1))
            .map((one) => [`${folderOf(file)}${one.name}`, one] as const)
        : null;
    if (!own) return { entry, file: filesNamed(nameOf(file))[0]! };
    const of = readFrom(
      entry,
      own.map(([name]) => name),
    );
    return { entry: of, file: packOf(own, of.source.file) };
  });
  for (const { entry, file } of read) kept.set(keptAs(entry), file);
  return { report, taken: await intake.readAll(read, false), kept };
}

/** Files, each by a name that no other file has: they are kept by their names. @param taken paths of files that are kept */
export function calledApart(files: readonly File[], taken: readonly string[]): File[] {
  const names = new Set(taken.map((path) => nameOf(path).toLowerCase()));
  return files.map((file) => {
    const [, stem, ending = ''] = /^(.*?)(\.[^.]*)?$/.exec(file.name)!;
    let name = file.name;
    for (let n = 2; names.has(name.toLowerCase()); n++) name = `${stem} ${n}${ending}`;
    names.add(name.toLowerCase());
    return name === file.name ? file : new File([file], name, { type: file.type });
  });
}

/** Files of one name from several folders cannot be told apart where they are dropped. */
function refuseAlike(entries: readonly TableEntry[], dropped: readonly File[], report: string): void {
  const paths = [...new Set(entries.flatMap(filesOf))];
  const names = paths.map(nameOf);
  const twice = names.find((name, i) => names.indexOf(name) < i);
  if (twice !== undefined)
    throw new Problem(
      'files-alike',
      `it reads several files called ${twice}, from ${listed(
        paths.filter((path) => nameOf(path) === twice).map((path) => folderOf(path) || 'its own folder'),
        'and',
      )}`,
      { in: report },
      'open it as a bundle, which “bold-ruler bundle” makes, or give each file a name of its own',
    );
  const several = names.find((name) => dropped.filter((file) => file.name === name).length > 1);
  if (several !== undefined)
    throw new Problem(
      'files-alike',
      `it reads ${several}, and several of the files are called so`,
      { in: report },
      'leave out those it does not mean',
    );
}

/** Puts what was read on the shelf, and gives the new report's id. */
async function keep(intake: Intake, { report, taken, kept }: Gathered): Promise<string> {
  const id = newId();
  performance.mark('rows read');
  if (intake.isCancelled) return id;
  received(await desk().add(id, report, transfer([...taken], buffersOf(taken.map(({ table }) => table))), kept));
  return id;
}

function handleOf(intake: Intake, gathered: Promise<Gathered>, called: string | null): IntakeHandle {
  markReading(called);
  // The worker that will hold the tables starts while they are read.
  desk();
  const done = new Promise<string>((resolve, reject) => {
    gathered
      .then((everything) => keep(intake, everything))
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

/**
 * Takes files in: a report with its tables, or data files for a new report, the table with the most rows is measured and
 * the others held against it. Nothing is kept until everything has been read.
 */
export function takeIn(files: readonly File[], onProgress: (progress: IntakeProgress) => void): IntakeHandle {
  ahead?.intake.cancel();
  ahead = null;
  const intake = new Intake(onProgress);
  return handleOf(intake, gather(intake, files), files[0]?.name ?? null);
}

/** The names in the first line of a text file. */
async function columnsIn(file: Blob): Promise<string[]> {
  const [first = ''] = (await file.slice(0, 65_536).text()).split(/\r?\n/);
  return first.split(/[,;\t|]/).map((name) => name.replaceAll('"', '').trim());
}

/**
 * A report like the one that is open, for newer files: its rows are those there are until what each file brings has been shown and
 * accepted. The one that is open stays as it is.
 * @returns its id, and the table of each file
 * @throws {Problem} where a file fits no table, or several
 */
export async function nextMonth(
  id: string,
  report: Report,
  newer: readonly File[],
): Promise<{ readonly id: string; readonly newer: readonly (readonly [tableId: string, file: File])[] }> {
  const own = report.tables.filter((entry) => !isInDatabase(entry));
  const called = (file: File) => own.find((entry) => filesOf(entry).some((name) => nameOf(name) === file.name));
  const given = new Set(newer.map(called));
  const placed: [string, File][] = [];
  for (const file of newer) {
    const entry = called(file) ?? (await fitting(id, own, given, file));
    placed.push([entry.id, file]);
  }
  const fresh = newId();
  received(await desk().keepCopy(fresh, { ...report, name: `${report.name} (new month)` }));
  return { id: fresh, newer: placed };
}

/** The one table whose columns a file of another name has, among those that no file is named after. */
async function fitting(
  id: string,
  entries: readonly TableEntry[],
  given: ReadonlySet<TableEntry | undefined>,
  file: File,
): Promise<TableEntry> {
  const columns = await columnsIn(file);
  const fit: TableEntry[] = [];
  for (const entry of entries) {
    if (given.has(entry)) continue;
    const kept = await loadFile(id, keptAs(entry));
    const [first] = kept ? (await filesKept(entry, kept)).values() : [];
    if (first && (await columnsIn(first)).every((name) => columns.includes(name))) fit.push(entry);
  }
  if (fit.length === 1) return fit[0]!;
  throw new Problem(
    'fits-no-table',
    `it fits ${fit.length === 0 ? 'no table' : `several tables (${fit.map(({ source }) => source.file).join(', ')})`} of this report`,
    { in: file.name },
    `give it the name of the file it stands for: ${listed(entries.flatMap(filesOf).map(nameOf), 'or')}`,
  );
}

/** The demo, on its way before anybody has asked for it. */
let ahead: { readonly intake: Intake; readonly gathered: Promise<Gathered> } | null = null;

/** Begins to read the demo, so that it is there at once when it is asked for. Nothing is kept of it. */
export function readDemoAhead(): void {
  if (ahead) return;
  desk();
  const intake = new Intake(() => {});
  const gathered = demoFiles().then((files) => gather(intake, files));
  // Whoever asks for the demo is told what went wrong.
  gathered.catch(() => {});
  ahead = { intake, gathered };
}

/** Takes the demo in, from where its reading ahead has come. */
export function takeDemo(onProgress: (progress: IntakeProgress) => void): IntakeHandle {
  readDemoAhead();
  const { intake, gathered } = ahead!;
  ahead = null;
  intake.tellTo(onProgress);
  return handleOf(intake, gathered, DEMO[0]!);
}

const MARK = 'bold-ruler: reading';

/** Notes in this tab what is being read, so that a reload in the middle can be told. */
const markReading = (file: string | null): void => inTab.set(MARK, file);

/** The file whose reading a reload has ended; told once. */
export function interruptedReading(): string | null {
  const file = inTab.get(MARK);
  inTab.set(MARK, null);
  return file;
}

function nameOf(path: string): string {
  return path.split(/[\\/]/).pop()!;
}

/** The folder of a path, with what parts it from the file's name. */
const folderOf = (path: string): string => path.slice(0, path.length - nameOf(path).length);

/** A name no other table of the report has. */
export function freeTableId(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`)) return `${name} ${n}`;
}

/** Rows that were copied in a spreadsheet, as a file; null where what was pasted is no table. */
export function pastedFile(text: string): File | null {
  const lines = text.replace(/\r?\n$/, '').split(/\r?\n/);
  const isTable = lines.length > 1 && (text.includes('\t') || lines.every((line) => /[,;|]/.test(line)));
  return isTable ? new File([text], 'pasted rows.tsv', { type: 'text/tab-separated-values' }) : null;
}

const DEMO = ['pellwether.ruler.json', 'orders.csv', 'plan.csv', 'stock.csv', 'lines.csv'];

/** The demo's files, served beside the application. */
async function demoFiles(): Promise<File[]> {
  return Promise.all(
    DEMO.map(async (name) => {
      const answer = await fetch(`/demo/${name}`);
      if (!answer.ok)
        throw new Problem(
          'no-demo',
          `the server does not have it (${answer.status})`,
          { in: `the demo’s ${name}` },
          'run “npm run demo” where the server runs, and start it again',
        );
      return new File([await answer.blob()], name);
    }),
  );
}
