import { createReadStream, existsSync, readdirSync, readFileSync, realpathSync, statSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { basename, dirname, extname, join, relative, resolve, isAbsolute, sep } from 'node:path';
import { Problem } from '@bold-ruler/core/problem';
import {
  isBundle,
  filesOf,
  isInDatabase,
  fitsPattern,
  isPattern,
  readBundle,
  readReport,
  reportFor,
  wholeBundle,
  type KnownTable,
  type Report,
  type TableEntry,
} from '@bold-ruler/core/report';
import { fileOf, sheetsOf, type SourceFile } from '@bold-ruler/core/reading';
import type { Database } from '@bold-ruler/core/source';
import type { Table } from '@bold-ruler/core/table';
import { openReportWith, readBare, readTable, workspaceFor, type OpenReport } from '@bold-ruler/core/workspace';
import { bytesOf, mustBeFile, nameOf, unreadable } from './input';
import { applySettings } from './settings';
import { STANDARD } from './write';

/** Pipes and standard input can be read once, and from their beginning. */
const isStream = (path: string) => path === STANDARD || !statSync(path).isFile();

/**
 * The path of a file that a report reads. A report from somebody else may name any file of this machine, so what lies outside
 * its folder has to be allowed. Throws a `Problem` where it is not.
 */
function placeOf(report: string, file: string, allowed: readonly string[]): string {
  const folder = isStream(report) ? '.' : dirname(report);
  const at = resolve(folder, file);
  // What is not there is told as such.
  const meant = isPattern(at) ? [dirname(at), ...filesIn(at)] : [at];
  if (!existsSync(meant[0]!)) return at;
  const isBelow = (top: string) =>
    meant.every((one) => {
      const way = relative(realpathSync(top), realpathSync(one));
      return way !== '..' && !way.startsWith(`..${sep}`) && !isAbsolute(way);
    });
  if (!isBelow(folder) && !allowed.some((top) => existsSync(top) && isBelow(top)))
    throw new Problem(
      'outside',
      `the report reads ${file}, which is not in its folder`,
      { in: nameOf(report) },
      `if you trust the report, add --allow ${dirname(at)}`,
    );
  return at;
}

/** The files that fit a pattern such as `sales/*.csv`, by name; their folder is named whole. */
function filesIn(pattern: string): string[] {
  const folder = dirname(pattern);
  const found = existsSync(folder) && statSync(folder).isDirectory() ? readdirSync(folder) : [];
  return found
    .filter((name) => fitsPattern(name, basename(pattern)))
    .sort()
    .map((name) => join(folder, name));
}

/** The same. Throws a `Problem` where there are none. */
export function filesLike(pattern: string): string[] {
  const files = filesIn(pattern);
  if (files.length === 0)
    throw new Problem(
      'no-such-file',
      'no file fits this name',
      { in: pattern },
      'check the path; a * stands for any letters of a file’s name',
    );
  return files;
}

/** What a table file may be called. */
const TABLE_FILE = /\.(?:csv|tsv|txt|json|ndjson|jsonl|xlsx|xlsm|parquet)$/i;

/** The file of that path, or the files that a pattern or a folder stands for. */
function tableFilesAt(path: string): SourceFile | SourceFile[] {
  if (isPattern(path)) return filesLike(path).map(tableFileAt);
  if (path === STANDARD || !existsSync(path) || !statSync(path).isDirectory()) return tableFileAt(path);
  const files = readdirSync(path)
    .filter((name) => TABLE_FILE.test(name) && !name.startsWith('.'))
    .sort();
  if (files.length === 0)
    throw new Problem('not-a-file', 'there is no table file in this folder', { in: path }, 'name the file itself');
  return files.map((name) => tableFileAt(join(path, name)));
}

/** The files of a table, which lie where its report says. */
function tableFilesOf(report: string, entry: TableEntry, allowed: readonly string[]) {
  return filesOf(entry).flatMap((file) => tableFilesAt(placeOf(report, file, allowed)));
}

function tableFileAt(path: string): SourceFile {
  mustBeFile(path, 'table file');
  return fileAt(path);
}

/** A file of this machine. */
function fileAt(path: string): SourceFile {
  if (isStream(path)) return fileOf(nameOf(path), bytesOf(path));
  return {
    name: path,
    size: statSync(path).size,
    async *stream() {
      try {
        yield* createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Uint8Array>;
      } catch (error) {
        throw unreadable(path, error);
      }
    },
    async slice(from, to) {
      try {
        const handle = await open(path);
        try {
          const bytes = new Uint8Array(to - from);
          const { bytesRead } = await handle.read(bytes, 0, to - from, from);
          return bytes.subarray(0, bytesRead);
        } finally {
          await handle.close();
        }
      } catch (error) {
        throw unreadable(path, error);
      }
    },
  };
}

/** The tables in a file: each with the sheet it stands on, where there are several. */
export async function readTablesIn(path: string): Promise<{ readonly sheet?: string; readonly table: Table }[]> {
  mustBeFile(path, 'table file');
  const id = basename(path, extname(path));
  const file = fileAt(path);
  const sheets = await sheetsOf(file);
  const tables: { sheet?: string; table: Table }[] = [];
  for (const sheet of sheets) {
    const source = { file: path, ...(sheet === '' ? {} : { sheet }) };
    const table = await readTable({ id: sheet || id, source }, file);
    tables.push({ ...(sheets.length > 1 ? { sheet } : {}), table });
  }
  return tables;
}

/**
 * A report file with all its tables. `settings` are `path=value` words that change the report before it is used.
 * @param instead other files for tables, as NAME=FILE
 */
export async function openReport(
  path: string,
  settings: readonly string[],
  allowed: readonly string[] = [],
  instead: readonly string[] = [],
): Promise<OpenReport> {
  mustBeFile(path, 'report file');
  const files = new Map(instead.map(namedFile).map(({ id, path: file }) => [id, file]));
  const bytes = bytesOf(path);
  if (isBundle(path) || (bytes[0] === 0x50 && bytes[1] === 0x4b)) {
    const { report: packed, files: inside } = readBundle(bytes, nameOf(path));
    const report = applySettings(packed, settings, nameOf(path));
    refuseUnknown(report, files);
    return openReportWith(
      report,
      (entry) => {
        const other = files.get(entry.id);
        return other === undefined
          ? filesOf(entry).map((file) => fileOf(file, inside.get(file)!))
          : tableFilesAt(other);
      },
      databaseNamed,
    );
  }
  const text = new TextDecoder().decode(bytes);
  const report = applySettings(readReport(text, nameOf(path)), settings, nameOf(path));
  refuseUnknown(report, files);
  return openReportWith(
    report,
    (entry) => {
      const instead = files.get(entry.id);
      return instead === undefined ? tableFilesOf(path, entry, allowed) : tableFilesAt(instead);
    },
    databaseNamed,
  );
}

/** What connects is loaded where a report has rows in a database. */
const databaseNamed = async (name: string): Promise<Database> => (await import('./databases')).databaseNamed(name);

/** Throws a `Problem` for a file of a table that the report does not have. */
function refuseUnknown({ tables }: Report, files: ReadonlyMap<string, string>): void {
  for (const id of files.keys())
    if (!tables.some((entry) => entry.id === id))
      throw new Problem(
        'unknown-table',
        `the report has no table “${id}”`,
        { in: '--table' },
        `its tables are ${tables.map((entry) => entry.id).join(', ')}`,
      );
}

/** A report file with the files of its tables as one; the rows of files that are named by a pattern are one file in it. */
export async function bundleOf(path: string, allowed: readonly string[] = []): Promise<Uint8Array> {
  mustBeFile(path, 'report file');
  const report = readReport(new TextDecoder().decode(bytesOf(path)), nameOf(path));
  const files = new Map<string, Uint8Array>();
  const tables = new Map<string, Table>();
  for (const entry of report.tables) {
    if (isInDatabase(entry)) continue;
    if (isPattern(entry.source.file)) {
      tables.set(entry.id, await readTable(entry, tableFilesOf(path, entry, allowed)));
      continue;
    }
    for (const file of filesOf(entry)) {
      const at = placeOf(path, file, allowed);
      mustBeFile(at, 'table file');
      files.set(file, readFileSync(at));
    }
  }
  return wholeBundle(report, tables, files);
}

/** A report made up for a data file and further tables given as `NAME=FILE`. */
export async function openData(
  data: string,
  further: readonly string[],
  settings: readonly string[],
): Promise<OpenReport> {
  const files = [
    { id: data === STANDARD ? 'data' : basename(data, extname(data)), path: data },
    ...further.map(namedFile),
  ];
  const tables = new Map<string, Table>();
  const known: KnownTable[] = [];
  for (const { id, path } of files) {
    if (tables.has(id))
      throw new Problem(
        'table-twice',
        `two tables are called “${id}”`,
        { in: '--table' },
        'give each a name of its own, as NAME=FILE',
      );
    const one = await readBare({ id, source: { file: path } }, tableFilesAt(path));
    tables.set(id, one.table);
    known.push(one);
  }
  const report: Report = applySettings(reportFor(files[0]!.id, known), settings, '--set');
  return workspaceFor(report, tables);
}

function namedFile(word: string): { id: string; path: string } {
  const at = word.indexOf('=');
  if (at < 1 || at === word.length - 1)
    throw new Problem(
      'usage',
      `--table takes NAME=FILE, not “${word}”`,
      undefined,
      'write for example --table plan=plan.csv',
    );
  return { id: word.slice(0, at), path: word.slice(at + 1) };
}
