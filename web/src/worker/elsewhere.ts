import type { Reach } from '@bold-ruler/core/desk';
import { Problem, type SentProblem } from '@bold-ruler/core/problem';
import type { Source, TableFacts } from '@bold-ruler/core/query';
import type { TableEntry } from '@bold-ruler/core/report';
import type { FiscalCalendar } from '@bold-ruler/core/calendar';
import { readWritten } from '@bold-ruler/core/source';

/** Tables in databases, reached through the server that the application came from: a browser reaches no database. */
export const reachThroughServer: Reach = async (tables, calendar) => {
  const source = sourceAtServer(tables, calendar);
  return { source, facts: await source.facts() };
};

function sourceAtServer(tables: readonly TableEntry[], calendar: FiscalCalendar): Source {
  const ask = async <A>(what: keyof Source, signal: AbortSignal | undefined, ...words: unknown[]): Promise<A> => {
    const body = JSON.stringify({ tables: tables.map(asWritten), calendar, words });
    const headers = { 'Content-Type': 'application/json' };
    let response: Response;
    let text: string;
    try {
      response = await fetch(`/api/source/${what}`, { method: 'POST', headers, body, ...(signal ? { signal } : {}) });
      text = await response.text();
    } catch {
      if (signal?.aborted) throw new Problem('left', 'nobody waits for the answer any more');
      throw new Problem(
        'server-away',
        'the server of this application does not answer, so rows in databases cannot be asked for',
        undefined,
        'start it again (npm start), and try once more',
      );
    }
    if (response.ok) return readWritten(text) as A;
    throw problemIn(text);
  };
  return {
    facts: () => ask<ReadonlyMap<string, TableFacts>>('facts', undefined),
    spans: (asked) => ask('spans', undefined, asked),
    groups: (queries, signal) => ask('groups', signal, queries),
    rows: (behind, { from, count }, signal) =>
      ask('rows', signal, behind, { from, count: Math.min(count, Number.MAX_SAFE_INTEGER) }),
    members: (table, field, search, most, signal) => ask('members', signal, table, field, search, most),
    profile: (table, signal) => ask('profile', signal, table),
    extract: (part, signal) => ask('extract', signal, part),
  };
}

/** An entry as a report file has it: what its rows are called where sources are told is made of that. */
const asWritten = ({ source: { file: _, ...source }, ...entry }: TableEntry) => ({ ...entry, source });

function problemIn(text: string): Problem {
  try {
    const { problem } = JSON.parse(text) as { problem: SentProblem };
    const { code, sentence, place, remedy } = problem;
    return new Problem(code, sentence, place ?? undefined, remedy ?? undefined);
  } catch {
    return new Problem('unforeseen', 'the server of this application answered with something unforeseen');
  }
}
