import type { FiscalCalendar } from '../calendar';
import { isProblem, sent, type Sent } from '../problem';
import { isInDatabase, notReached, vocabularyOf, type Report, type TableEntry } from '../report';
import { WORTH_SHARING, type ScanHelper } from '../source';
import { sharedTable, type Table } from '../table';
import { leftWith } from '../query';
import { workspaceFor, workspaceOver, type Elsewhere, type OpenReport } from '../workspace';
import { QUESTIONS, type Questions } from './questions';

/** A question as it is asked from elsewhere: of the report as whoever asks has it. Problems come as data. */
export type DeskQuestions = {
  readonly [K in keyof Questions]: Questions[K] extends (desk: OpenReport, ...words: infer W) => infer A
    ? (report: Report, ...words: W) => Promise<Sent<Awaited<A>>>
    : never;
};

/** The tables of a report that is open, and everything that can be asked of it. */
export interface Desk {
  /** Every question, by its name. */
  readonly asked: DeskQuestions;
  /** The same, left as soon as a signal says that nobody waits for the answer: statements in databases end. */
  until(signal: AbortSignal): DeskQuestions;
  /** Its tables as they were read, by their ids, also those that lie in the bin. */
  readonly read: ReadonlyMap<string, Table>;
  /**
   * The report with the tables that it names, ready to answer; kept while tables and calendar stay the same.
   * @throws {Problem} for a wrong derived column, or an entry that its table does not fit
   */
  of(report: Report): OpenReport;
  /** Has other rows for tables, or with null none. */
  take(tables: Iterable<readonly [string, Table | null]>): void;
  /** What is known of tables in databases is asked for anew with the next question. */
  forget(): void;
  /** When that was last found out, as milliseconds of the clock; null before. */
  lookedAt(): number | null;
}

/** Reaches tables in databases. Throws a `Problem` where it cannot. */
export type Reach = (entries: readonly TableEntry[], calendar: FiscalCalendar) => Promise<Elsewhere>;

const reachesNone: Reach = async ([entry]) => notReached(entry!.source.database!);

/**
 * The one door to answers.
 * @param tables the tables of a report as they were read, by their ids
 * @param reach reaches those that are in databases
 * @param helpers other threads, which scan large tables with this one
 */
export function openDesk(
  tables: ReadonlyMap<string, Table>,
  reach: Reach = reachesNone,
  helpers: readonly ScanHelper[] = [],
): Desk {
  /** Large tables, where there are other threads to share them with. */
  const held = (table: Table): Table =>
    helpers.length > 0 && table.rows >= WORTH_SHARING ? sharedTable(table) : table;
  const read = new Map([...tables].map(([id, table]) => [id, held(table)]));
  let open: OpenReport | null = null;
  let builtFrom = '';
  let elsewhere: { readonly key: string; readonly known: Promise<Elsewhere>; now: Elsewhere | null } | null = null;
  let lookedAt: number | null = null;

  /** What is known of its tables in databases, once it has been asked for. */
  const reached = ({ tables: entries, calendar }: Report): Promise<Elsewhere> | null => {
    const there = entries.filter(isInDatabase);
    if (there.length === 0) return null;
    const key = JSON.stringify([there, calendar]);
    if (elsewhere?.key !== key) {
      const known = reach(there, calendar);
      const own = { key, known, now: null as Elsewhere | null };
      elsewhere = own;
      known.then(
        (found) => {
          own.now = found;
          lookedAt = Date.now();
        },
        // What cannot be reached now is tried again with the next question.
        () => elsewhere === own && (elsewhere = null),
      );
      open = null;
    }
    return elsewhere!.known;
  };
  const madeOf = (report: Report): OpenReport => {
    const here = listedIn(report, read);
    const there = report.tables.find(isInDatabase);
    if (!there) return workspaceFor(report, here, helpers);
    return elsewhere?.now ? workspaceOver(report, here, elsewhere.now, helpers) : notReached(there.source.database!);
  };

  const of = (report: Report): OpenReport => {
    if (open?.report === report) return open;
    const isAsBefore = open?.report.tables === report.tables && open.report.calendar === report.calendar;
    const needed = isAsBefore ? builtFrom : JSON.stringify([report.tables, report.calendar]);
    if (!open || needed !== builtFrom) {
      open = madeOf(report);
      builtFrom = needed;
    } else if (open.report !== report) {
      const vocabulary =
        namesIn(report) === namesIn(open.report) ? open.vocabulary : vocabularyOf(report, open.source.facts);
      open = { ...open, report, vocabulary };
    }
    return open;
  };

  /** A report whose tables do not fit what it says of them can still be changed, so that they do again. */
  const forQuestion = (name: string, report: Report): OpenReport => {
    try {
      return of(report);
    } catch (error) {
      if (name !== 'edited' || !isProblem(error)) throw error;
      const bare = report.tables.map(({ derived: _, joins: __, columns: ___, date: ____, ...entry }) => entry);
      return { ...madeOf({ ...report, tables: bare }), report };
    }
  };

  const until = (signal: AbortSignal | null): DeskQuestions =>
    Object.fromEntries(
      Object.entries(QUESTIONS).map(([name, answer]) => [
        name,
        (report: Report, ...words: unknown[]) =>
          sent(async () => {
            const there = reached(report);
            if (there && isOfHere(name, report, words)) {
              // Tables that are here can be looked at while others are away.
              const isAway = await there.then(
                () => false,
                () => true,
              );
              if (isAway) {
                const here = { ...report, tables: report.tables.filter((entry) => !isInDatabase(entry)) };
                return (answer as (desk: OpenReport, ...words: unknown[]) => unknown)(madeOf(here), ...words);
              }
            } else if (there) await there;
            const own = forQuestion(name, report);
            const leaving = there && signal ? { ...own, source: leftWith(own.source, signal) } : own;
            return (answer as (desk: OpenReport, ...words: unknown[]) => unknown)(leaving, ...words);
          }),
      ]),
    ) as unknown as DeskQuestions;
  const asked = until(null);

  return {
    asked,
    until,
    read,
    of,
    take(changed) {
      for (const [id, table] of changed)
        if (table) read.set(id, held(table));
        else read.delete(id);
      open = null;
    },
    forget() {
      elsewhere = null;
      open = null;
    },
    lookedAt: () => lookedAt,
  };
}

/** Whether a question is about one table whose rows are here. */
function isOfHere(name: string, { tables }: Report, [id]: readonly unknown[]): boolean {
  const entry = name === 'profile' ? tables.find((one) => one.id === id) : undefined;
  return entry !== undefined && !isInDatabase(entry);
}

/** The tables that a report names; others lie in its bin. */
export function listedIn(report: Report, read: ReadonlyMap<string, Table>): ReadonlyMap<string, Table> {
  return new Map([...read].filter(([id]) => report.tables.some((entry) => entry.id === id)));
}

/** What the names that briefs may use rest on, beside the tables. */
function namesIn({ measures, benchmarks, rulers, highlights }: Report): string {
  return JSON.stringify([
    measures.map(({ name, table }) => [name, table]),
    benchmarks.map(({ name }) => name),
    rulers.map(({ id }) => id),
    highlights.map(({ name }) => name),
  ]);
}
