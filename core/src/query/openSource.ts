import { Problem } from '../problem';
import { spanKey, type KnownSpan, type FactsOf } from '../table';
import type { Groups, OpenSource, Query, Source } from './query';

/** A field that is asked of a table that has none of that name. */
export const noField = (table: string, name: string): Problem =>
  new Problem(
    'unknown-field',
    `there is no field “${name}” in table “${table}”`,
    { in: 'brief' },
    'choose a field of that table',
  );

/** Where in a text an aggregate stands makes no other query. */
export function keyOfQuery(query: Query): string {
  return JSON.stringify(query, (key, value: unknown) => (key === 'at' ? undefined : value));
}

/**
 * A source whose facts are known. Questions that come in one moment are asked together, and the same only once; days are asked for
 * once and kept.
 * @param facts those of the source
 */
export function openedSource(source: Source, facts: FactsOf): OpenSource {
  const spans = new Map<string, Promise<KnownSpan | null>>();
  const askSpan = together(source.spans.bind(source));
  const askGroups = together<Query, Groups>(source.groups.bind(source), keyOfQuery);
  /** Of several fields that a table lacks the first is named, whatever a source would look at first. */
  const unknownField = ({ table, by, where }: Query): Problem | null => {
    const known = facts(table);
    const named = [...by, ...where.map(({ field }) => field)];
    const missing = known && named.find((name) => !known.columns.has(name) && !known.aliases?.has(name));
    return missing === undefined ? null : noField(table, missing);
  };
  return {
    rows: source.rows.bind(source),
    members: source.members.bind(source),
    profile: source.profile.bind(source),
    extract: source.extract.bind(source),
    facts,
    span(table, columns) {
      const key = `${table}\u0000${spanKey(columns)}`;
      let span = spans.get(key);
      if (!span) {
        span = askSpan({ table, columns });
        spans.set(key, span);
        // What could not be answered may be asked again.
        span.catch(() => spans.delete(key));
      }
      return span;
    },
    async groups(query, signal) {
      const problem = unknownField(query);
      if (problem) throw problem;
      return askGroups(query, signal);
    },
  };
}

/** The same with its facts asked for. */
export async function openSource(source: Source): Promise<OpenSource> {
  const facts = await source.facts();
  return openedSource(source, (table) => facts.get(table));
}

/** The same source, whose questions are left as soon as a signal says that nobody waits for their answers. */
export const leftWith = (source: OpenSource, signal: AbortSignal): OpenSource => ({
  ...source,
  rows: (behind, page) => source.rows(behind, page, signal),
  members: (table, field, search, most) => source.members(table, field, search, most, signal),
  profile: (table) => source.profile(table, signal),
  extract: (part) => source.extract(part, signal),
  groups: (query) => source.groups(query, signal),
});

/** A signal that comes once all have come; undefined where one never will. */
function allOf(signals: readonly (AbortSignal | undefined)[]): AbortSignal | undefined {
  if (signals.includes(undefined)) return undefined;
  const left = new AbortController();
  const look = () => signals.every((one) => one!.aborted) && left.abort();
  for (const one of signals) one!.addEventListener('abort', look, { once: true });
  look();
  return left.signal;
}

interface Waiting<Q, A> {
  readonly question: Q;
  readonly signals: (AbortSignal | undefined)[];
  readonly answers: ((answer: A) => void)[];
  readonly problems: ((problem: unknown) => void)[];
}

/**
 * Puts the questions of one moment into one.
 * @param keyOf questions of the same key are asked once
 */
function together<Q, A>(
  ask: (questions: readonly Q[], signal?: AbortSignal) => Promise<readonly A[]>,
  keyOf: (question: Q) => string = JSON.stringify,
): (question: Q, signal?: AbortSignal) => Promise<A> {
  let waiting = new Map<string, Waiting<Q, A>>();
  const put = (): void => {
    const now = [...waiting.values()];
    waiting = new Map();
    const asked = (some: readonly Waiting<Q, A>[]): Promise<void> => {
      const signal = allOf(some.flatMap(({ signals }) => signals));
      return ask(
        some.map(({ question }) => question),
        signal,
      ).then(
        (answers) => some.forEach((one, i) => one.answers.forEach((answer) => answer(answers[i]!))),
        (problem: unknown) => {
          // Of several, each is asked alone: one that cannot be answered is no problem of the others.
          if (some.length > 1 && !signal?.aborted) some.forEach((one) => void asked([one]));
          else some.forEach((one) => one.problems.forEach((fail) => fail(problem)));
        },
      );
    };
    void asked(now);
  };
  return (question, signal) =>
    new Promise((answer, problem) => {
      const key = keyOf(question);
      if (waiting.size === 0) queueMicrotask(put);
      const same = waiting.get(key);
      if (same) {
        same.signals.push(signal);
        same.answers.push(answer);
        same.problems.push(problem);
      } else waiting.set(key, { question, signals: [signal], answers: [answer], problems: [problem] });
    });
}
