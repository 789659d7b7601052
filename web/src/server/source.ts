import { isProblem, Problem, sentProblem } from '@bold-ruler/core/problem';
import type { Source } from '@bold-ruler/core/query';
import { checkReport, isInDatabase, type Report } from '@bold-ruler/core/report';
import { written } from '@bold-ruler/core/source';
import { elsewhereIn, type Elsewhere } from '@bold-ruler/core/workspace';
import { databaseNamed } from 'bold-ruler/databases';
import { bodyOf } from './request';
import { Refused } from './drawing';

/** What can be asked of a source from a browser, and how many words each takes. */
const ASKS = { facts: 0, spans: 1, groups: 1, rows: 2, members: 4, profile: 1, extract: 1 } as const satisfies Record<
  keyof Source,
  number
>;
type Ask = keyof typeof ASKS;

/** Tables that have been looked at lately, by what a report says of them. */
const known = new Map<string, Promise<Elsewhere>>();
const MOST_KNOWN = 50;

function elsewhereOf({ tables, calendar }: Report, isFresh: boolean): Promise<Elsewhere> {
  const key = JSON.stringify([tables, calendar]);
  if (isFresh) known.delete(key);
  let found = known.get(key);
  if (!found) {
    if (known.size >= MOST_KNOWN) known.delete(known.keys().next().value!);
    found = elsewhereIn(tables, calendar, databaseNamed);
    known.set(key, found);
    found.catch(() => known.get(key) === found && known.delete(key));
  }
  return found;
}

/** Answers a question about rows in databases: `{ tables, calendar, words }` as JSON. What is wrong comes as a problem, as data. */
export async function answerSource(request: Request, ask: string): Promise<Response> {
  const headers = { 'Cache-Control': 'no-store', 'Content-Type': 'application/json' };
  try {
    const isAsk = (word: string): word is Ask => Object.hasOwn(ASKS, word);
    if (!isAsk(ask)) throw wrong(`“${ask.slice(0, 40)}” is no question to a source`);
    if (!(request.headers.get('content-type') ?? '').startsWith('application/json')) throw wrong('the body is no JSON');
    const { tables, calendar, words } = asJson(await bodyOf(request));
    if (!Array.isArray(words)) throw wrong('“words” is missing');
    const report = checkReport({ boldRuler: 1, name: 'asked', tables, ...(calendar ? { calendar } : {}) });
    if (report.tables.length === 0 || !report.tables.every(isInDatabase))
      throw wrong('“tables” are to be in databases');
    const { source, facts } = await elsewhereOf(report, ask === 'facts');
    const answer =
      ask === 'facts'
        ? facts
        : await (source[ask] as (...words: unknown[]) => Promise<unknown>)(
            ...Array.from({ length: ASKS[ask] }, (_, i) => (words as unknown[])[i]),
            // Who goes away before it is answered ends its statements.
            request.signal,
          );
    return new Response(written(answer), { headers });
  } catch (error) {
    if (error instanceof Refused) return Response.json({ problem: error.refusal }, { status: error.status, headers });
    // What no one foresaw is not told: it may hold how a database is reached.
    const told = isProblem(error)
      ? error
      : new Problem('unforeseen', 'something unforeseen went wrong with this question');
    return Response.json({ problem: sentProblem(told) }, { status: 422, headers });
  }
}

const wrong = (sentence: string) => new Problem('wrong-request', sentence);

function asJson(bytes: Uint8Array): { tables?: unknown; calendar?: unknown; words?: unknown } {
  try {
    const value: unknown = JSON.parse(new TextDecoder().decode(bytes));
    if (typeof value === 'object' && value !== null) return value;
  } catch {
    // Told below.
  }
  throw wrong('the body is no JSON');
}
