import { expose } from 'comlink';
import { openDesk, type Desk } from '@bold-ruler/core/desk';
import { sent, type Sent } from '@bold-ruler/core/problem';
import type { Report, TableEntry } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { bareReport } from '@bold-ruler/core/workspace';
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

const made = (entries: readonly TableEntry[], tables: ReadonlyMap<string, Table>): Report =>
  bareReport(
    entries[0]!.id,
    entries.map((entry) => ({ entry, table: tables.get(entry.id)! })),
  );

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
      const report = 'tables' in given ? given : made(given, tables);
      await addReport(next, report, tables, files);
      open(next, tables);
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
