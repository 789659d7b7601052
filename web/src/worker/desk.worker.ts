import { expose, transfer } from 'comlink';
import { openDesk, type Desk } from '@bold-ruler/core/desk';
import { sent, type Sent } from '@bold-ruler/core/problem';
import { keptAs, type KnownTable, type Report } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { newReport, readTable } from '@bold-ruler/core/workspace';
import { addReport, loadFile, loadReport, loadTables, type Files } from '@/storage/library';
import { reachThroughServer } from './elsewhere';
import { gathered, sourceFrom } from './filesOfTable';
import { gridOf } from './grid';
import { filesOfTables } from './pack';
import { scanHelpers } from './helpers';
import { keepingOf } from './keeping';
import { listener, questionIn } from './saying';
import { buffersOf } from './transferables';

/** The id of the report that is open, and its tables. */
let id = '';
const helpers = scanHelpers();
let desk: Desk = openDesk(new Map(), reachThroughServer, helpers);

function open(next: string, tables: ReadonlyMap<string, Table>): void {
  id = next;
  desk = openDesk(tables, reachThroughServer, helpers);
}

/** A table whose rows this browser has kept badly, from its file; null where the file is not kept, or does not give it. */
async function readAgain(report: string, table: string): Promise<Table | null> {
  const entry = (await loadReport(report))?.report.tables.find((one) => one.id === table);
  const file = entry && (await loadFile(report, keptAs(entry)));
  if (!file) return null;
  return readTable(entry, await sourceFrom(entry, file)).catch(() => null);
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

  /** Tables in databases are looked at anew with the next question. */
  forget(): void {
    desk.forget();
  },

  /** When they were looked at. */
  lookedAt: (): Promise<Sent<number | null>> => sent(() => desk.lookedAt()),

  /** Takes the tables of a report from the library. */
  async open(next: string, again = false): Promise<void> {
    if (id !== next || again) open(next, await loadTables(next, (table) => readAgain(next, table)));
  },

  /**
   * Puts a new report with its tables on the shelf, and has it open.
   * @param given null makes one for the tables
   */
  add(next: string, given: Report | null, known: readonly KnownTable[], files: Files): Promise<Sent<null>> {
    return sent(async () => {
      const read = given ? { known, files } : await gathered(known, files);
      const { report, tables } = newReport(given, read.known);
      await addReport(next, report, tables, filesOfTables(report.tables, read.files));
      open(next, tables);
      return null;
    });
  },

  /** Tables for a report that is open, with their files: those of one layout are one table. */
  async together(
    known: readonly KnownTable[],
    files: Files,
  ): Promise<Sent<{ known: readonly KnownTable[]; files: Files }>> {
    const answer = await sent(() => gathered(known, files, new Set(desk.read.keys())));
    return answer.ok ? transfer(answer, buffersOf(answer.value.known.map(({ table }) => table))) : answer;
  },
};

export type DeskApi = typeof api;
/** What comes is put as it was meant before it is answered. */
const heard = listener();
/** Questions under way that can be left, by their numbers. */
const leaving = new Map<number, AbortController>();

/** Answers a question of the desk, until it is left. */
async function untilLeft(name: keyof Desk['asked'], question: number, words: readonly unknown[]): Promise<unknown> {
  const left = new AbortController();
  leaving.set(question, left);
  try {
    return await (desk.until(left.signal)[name] as (...words: unknown[]) => Promise<unknown>)(...words);
  } finally {
    leaving.delete(question);
  }
}

expose(
  Object.fromEntries(
    Object.entries(api).map(([name, answer]) => [
      name,
      (...words: unknown[]) => {
        const question = Object.hasOwn(asked, name) ? questionIn(words) : null;
        const meant = heard(words);
        if (question !== null && asked[name as keyof typeof asked] === answer)
          return untilLeft(name as keyof Desk['asked'], question, meant);
        return (answer as (...words: unknown[]) => unknown)(...meant);
      },
    ]),
  ),
);
// A sign of life, between two questions; and what nobody waits for any more.
self.addEventListener('message', ({ data }: MessageEvent<{ beat?: true; leave?: number } | null>) => {
  if (data?.beat) self.postMessage({ beat: true });
  if (data?.leave !== undefined) leaving.get(data.leave)?.abort();
});
