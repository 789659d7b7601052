import { expose } from 'comlink';
import { openDesk, type Desk } from '@bold-ruler/core/desk';
import { sent, type Sent } from '@bold-ruler/core/problem';
import { likelyMain, type Report, type TableEntry } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { bareReport, together } from '@bold-ruler/core/workspace';
import { addReport, loadTables, type Files } from '@/storage/library';
import { gridOf } from './grid';
import { keepingOf } from './keeping';
import { listener } from './saying';

/** The id of the report that is open, and its tables. */
let id = '';
let desk: Desk = openDesk(new Map());

function open(next: string, tables: ReadonlyMap<string, Table>): void {
  id = next;
  desk = openDesk(tables);
}

/** A report for files that have none; those of one layout are one table. */
function made(entries: readonly TableEntry[], tables: ReadonlyMap<string, Table>) {
  const { known, files } = together(entries.map((entry) => ({ entry, table: tables.get(entry.id)! })));
  const sorted = likelyMain(known);
  return {
    report: bareReport(sorted[0]!.entry.id, sorted),
    rows: new Map(sorted.map(({ entry, table }) => [entry.id, table])),
    more: [...files].map(([name, text]) => [name, new File([text], name, { type: 'text/csv' })] as const),
  };
}

/** The questions, asked of whatever desk is open when they come. */
const asked = Object.fromEntries(
  Object.keys(desk.asked).map((name) => [
    name,
    (...words: unknown[]) => (desk.asked[name as keyof Desk['asked']] as (...words: unknown[]) => unknown)(...words),
  ]),
) as unknown as Desk['asked'];

const opened = () => ({ id, desk });

const api = {
  ...asked,
  ...gridOf(opened),
  ...keepingOf(opened),

  /** Takes the tables of a report from the library. */
  async open(next: string, again = false): Promise<void> {
    if (id !== next || again) open(next, await loadTables(next));
  },

  /**
   * Puts a new report with its tables on the shelf, and has it open.
   * @param given the report, or what is known of the tables it is to be made of: the one to be measured first
   */
  add(
    next: string,
    given: Report | readonly TableEntry[],
    tables: ReadonlyMap<string, Table>,
    files: Files,
  ): Promise<Sent<null>> {
    return sent(async () => {
      const { report, rows, more } =
        'tables' in given ? { report: given, rows: tables, more: [] } : made(given, tables);
      await addReport(next, report, rows, new Map([...files, ...more]));
      open(next, rows);
      return null;
    });
  },
};

export type DeskApi = typeof api;
/** What comes is put as it was meant before it is answered. */
const heard = listener();
expose(
  Object.fromEntries(
    Object.entries(api).map(([name, answer]) => [
      name,
      (...words: unknown[]) => (answer as (...words: unknown[]) => unknown)(...heard(words)),
    ]),
  ),
);
// A sign of life, between two questions.
self.addEventListener('message', ({ data }: MessageEvent<{ beat?: true } | null>) => {
  if (data?.beat) self.postMessage({ beat: true });
});
