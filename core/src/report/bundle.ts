import { isInDatabase } from './elsewhere';
import { strFromU8, zipSync, type Zippable } from 'fflate';
import { Problem } from '../problem';
import { readZip } from '../zip';
import { readReport } from './file';
import { filesOf, nameOfFiles } from './pattern';
import type { Report } from './report';
import { writeReport } from './write';

/** A report and the files its tables are read from, by the names the report calls them. */
export interface Bundle {
  readonly report: Report;
  readonly files: ReadonlyMap<string, Uint8Array>;
}

/** What a bundle may hold at most. */
const BUNDLE_LIMITS = { files: 200, unpacked: 1_000_000_000, path: 400 } as const;

const NO_TIME = new Date(1980, 0, 1);
const IS_REPORT = /\.ruler\.json$/i;

/** A report with its table files as one ZIP. Files lie beside the report, whatever folder they were read from. The same content gives the same bytes. */
export function writeBundle(report: Report, files: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const parts: Zippable = {};
  const names = new Map<string, string>();
  for (const entry of report.tables) {
    // Rows in a database stay there.
    if (isInDatabase(entry)) continue;
    for (const file of filesOf(entry)) {
      const content = files.get(file);
      if (!content)
        throw new Problem(
          'file-not-there',
          `the file of table “${entry.id}”, ${file}, is not at hand`,
          undefined,
          'read the table from its file again, or hand over the report file alone',
        );
      if (names.has(file)) continue;
      const name = freeName(file.split(/[\\/]/).pop() || 'table', parts);
      names.set(file, name);
      // What is packed already does not get smaller.
      parts[name] = [content, { mtime: NO_TIME, level: /\.(?:xlsx|parquet|zip|gz)$/i.test(name) ? 0 : 6 }];
    }
  }
  const moved = {
    ...report,
    tables: report.tables.map((table) => {
      if (isInDatabase(table)) return table;
      const { file, files } = table.source;
      const own = files?.map((one) => names.get(one)!);
      const called = own ? { file: nameOfFiles(own), files: own } : { file: names.get(file)! };
      return { ...table, source: { ...table.source, ...called } };
    }),
  };
  const text = new TextEncoder().encode(writeReport(moved));
  return zipSync({ 'report.ruler.json': [text, { mtime: NO_TIME, level: 6 }], ...parts });
}

function freeName(wanted: string, taken: Readonly<Record<string, unknown>>): string {
  const plain = wanted.replace(UNSAFE_IN_PATHS, '_').replace(/^\.+/, '') || 'table';
  const lower = new Set(Object.keys(taken).map((name) => name.toLowerCase()));
  const [, stem, ending] = /^(.*?)(\.[^.]*)?$/.exec(plain)!;
  for (let n = 1; ; n++) {
    const name = n === 1 ? plain : `${stem}-${n}${ending ?? ''}`;
    if (!lower.has(name.toLowerCase()) && !IS_REPORT.test(name)) return name;
  }
}

// oxlint-disable-next-line no-control-regex
const UNSAFE_IN_PATHS = /[\u0000-\u001f<>:"|?*]/g;

/**
 * A bundle from its bytes. Throws a `Problem` where it is no ZIP, holds too much, leads out of its folder, or holds no
 * report or several; and for everything that `readReport` refuses.
 */
export function readBundle(bytes: Uint8Array, file = 'bundle'): Bundle {
  const wrong = (code: string, sentence: string, remedy: string) => new Problem(code, sentence, { in: file }, remedy);
  let unpacked = 0;
  let count = 0;
  let parts: ReadonlyMap<string, Uint8Array>;
  try {
    parts = readZip(bytes, ({ name, size }) => {
      if (name.endsWith('/')) return false;
      count += 1;
      unpacked += size;
      if (count > BUNDLE_LIMITS.files)
        throw wrong('too-many-files', `it holds more than ${BUNDLE_LIMITS.files} files`, 'leave out what is not read');
      if (unpacked > BUNDLE_LIMITS.unpacked)
        throw wrong('unpacks-too-large', 'it unpacks to more than 1,000 MB', 'read its tables one by one');
      if (leadsAway(name))
        throw wrong('odd-path', `a path in it leads out of its folder: ${name.slice(0, 80)}`, 'pack it anew');
      return true;
    });
  } catch (error) {
    if (!(error instanceof Problem) || error.code !== 'broken-zip') throw error;
    throw wrong('broken-bundle', `it is damaged, or no ZIP file: ${error.sentence}`, 'ask for it once more');
  }
  const reports = [...parts.keys()].filter((name) => IS_REPORT.test(name));
  if (reports.length !== 1)
    throw wrong(
      'not-a-bundle',
      reports.length === 0 ? 'it holds no report file' : `it holds ${reports.length} report files`,
      'a bundle is one file that ends in .ruler.json and the files of its tables',
    );
  const path = reports[0]!;
  const report = readReport(strFromU8(parts.get(path)!), `${file}: ${path}`);
  const folder = path.slice(0, path.lastIndexOf('/') + 1);
  const files = new Map<string, Uint8Array>();
  for (const entry of report.tables) {
    if (isInDatabase(entry)) continue;
    for (const file of filesOf(entry)) {
      const content = parts.get(`${folder}${file}`);
      if (!content)
        throw wrong(
          'file-not-there',
          `table “${entry.id}” reads ${file}, which is not in it`,
          'pack it anew with that file',
        );
      files.set(file, content);
    }
  }
  return { report, files };
}

/** A path that is not plainly below its folder, or that another system would read otherwise. */
function leadsAway(path: string): boolean {
  return (
    path.length > BUNDLE_LIMITS.path ||
    /^[/\\]|\\|^[a-z]:/i.test(path) ||
    path.split('/').some((part) => part === '..' || part === '.') ||
    // oxlint-disable-next-line no-control-regex
    /[\u0000-\u001f]/.test(path)
  );
}

/** Whether a file is named like a bundle. */
export const isBundle = (name: string) => /\.zip$/i.test(name);
