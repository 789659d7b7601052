import { createReadStream, existsSync, readFileSync, statSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { basename, dirname, extname, resolve } from 'node:path';
import type { Form } from '@bold-ruler/core/brief';
import { Problem } from '@bold-ruler/core/problem';
import {
  isBundle,
  readBundle,
  readReport,
  reportFor,
  writeBundle,
  type Report,
  type TableEntry,
} from '@bold-ruler/core/report';
import { fileOf, sheetsOf, type SourceFile } from '@bold-ruler/core/reading';
import { profileTable, type Table } from '@bold-ruler/core/table';
import { readTable, workspaceFor, type Workspace } from '@bold-ruler/core/workspace';
import { applySettings } from './settings';

/** Throws a `Problem` for a path that is not a readable file. */
function mustBeFile(path: string, what: string): void {
  if (!existsSync(path))
    throw new Problem(
      'no-such-file',
      `there is no ${what} of this name`,
      { in: path },
      'check the path; files in a report are relative to the report file',
    );
  if (!statSync(path).isFile())
    throw new Problem('not-a-file', 'this is a folder', { in: path }, `name the ${what} itself`);
}

/** Reads a table file as an entry of a report describes it. */
export async function readTableFile(entry: TableEntry, path: string): Promise<Table> {
  mustBeFile(path, 'table file');
  return readTable(entry, fileAt(path));
}

/** A file of this machine. */
function fileAt(path: string): SourceFile {
  return {
    name: path,
    size: statSync(path).size,
    stream: () => createReadStream(path, { highWaterMark: 1 << 20 }),
    async slice(from, to) {
      const handle = await open(path);
      try {
        const bytes = new Uint8Array(to - from);
        const { bytesRead } = await handle.read(bytes, 0, to - from, from);
        return bytes.subarray(0, bytesRead);
      } finally {
        await handle.close();
      }
    },
  };
}

/** The tables in a file: each with the sheet it stands on, where there are several. */
export async function readTablesIn(path: string): Promise<{ readonly sheet?: string; readonly table: Table }[]> {
  mustBeFile(path, 'table file');
  const id = basename(path, extname(path));
  const sheets = await sheetsOf(fileAt(path));
  const tables: { sheet?: string; table: Table }[] = [];
  for (const sheet of sheets) {
    const source = { file: path, ...(sheet === '' ? {} : { sheet }) };
    const table = await readTableFile({ id: sheet || id, source }, path);
    tables.push({ ...(sheets.length > 1 ? { sheet } : {}), table });
  }
  return tables;
}

/** A report file with all its tables. `settings` are `path=value` words that change the report before it is used. */
export async function openReport(
  path: string,
  settings: readonly string[],
  forms?: readonly Form[],
): Promise<Workspace> {
  mustBeFile(path, 'report file');
  const tables = new Map<string, Table>();
  if (isBundle(path)) {
    const { report: packed, files } = readBundle(readFileSync(path), path);
    const report = applySettings(packed, settings, path);
    for (const entry of report.tables)
      tables.set(entry.id, await readTable(entry, fileOf(entry.source.file, files.get(entry.source.file)!)));
    return workspaceFor(report, tables, forms);
  }
  const report = applySettings(readReport(readFileSync(path, 'utf8'), path), settings, path);
  for (const entry of report.tables)
    tables.set(entry.id, await readTableFile(entry, resolve(dirname(path), entry.source.file)));
  return workspaceFor(report, tables, forms);
}

/** A report file with the files of its tables as one. */
export function bundleOf(path: string): Uint8Array {
  mustBeFile(path, 'report file');
  const report = readReport(readFileSync(path, 'utf8'), path);
  const files = new Map<string, Uint8Array>();
  for (const { source } of report.tables) {
    const at = resolve(dirname(path), source.file);
    mustBeFile(at, 'table file');
    files.set(source.file, readFileSync(at));
  }
  return writeBundle(report, files);
}

/** A report made up for a data file and further tables given as `NAME=FILE`. */
export async function openData(
  data: string,
  further: readonly string[],
  settings: readonly string[],
  forms?: readonly Form[],
): Promise<Workspace> {
  const files = [{ id: basename(data, extname(data)), path: data }, ...further.map(namedFile)];
  const tables = new Map<string, Table>();
  for (const { id, path } of files) {
    if (tables.has(id))
      throw new Problem(
        'table-twice',
        `two tables are called “${id}”`,
        { in: '--table' },
        'give each a name of its own, as NAME=FILE',
      );
    tables.set(id, await readTableFile({ id, source: { file: path } }, path));
  }
  const known = files.map(({ id, path }) => ({ id, file: path, profile: profileTable(tables.get(id)!, path) }));
  const report: Report = applySettings(reportFor(files[0]!.id, known), settings, '--set');
  return workspaceFor(report, tables, forms);
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
