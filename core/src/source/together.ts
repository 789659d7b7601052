import type { Source, SpanAsked } from '../query';

/**
 * Two sources as one: what is asked of a table goes to where its rows are, and what is asked together stays together.
 * @param there tables of the second
 */
export function togetherSource(first: Source, second: Source, there: ReadonlySet<string>): Source {
  const of = (table: string): Source => (there.has(table) ? second : first);
  async function apart<Q extends { readonly table: string }, A>(
    asked: readonly Q[],
    ask: (source: Source, some: readonly Q[]) => Promise<readonly A[]>,
  ): Promise<readonly A[]> {
    const parts = [first, second].map((source) => asked.filter(({ table }) => of(table) === source));
    const answers = await Promise.all(
      [first, second].map((source, i) => (parts[i]!.length === 0 ? [] : ask(source, parts[i]!))),
    );
    const next = [0, 0];
    return asked.map(({ table }) => {
      const which = there.has(table) ? 1 : 0;
      return answers[which]![next[which]!++]!;
    });
  }
  return {
    async facts() {
      const [here, elsewhere] = await Promise.all([first.facts(), second.facts()]);
      return new Map([...here, ...elsewhere]);
    },
    spans: (asked) =>
      apart<SpanAsked, Awaited<ReturnType<Source['spans']>>[number]>(asked, (one, some) => one.spans(some)),
    groups: (queries, signal) => apart(queries, (one, some) => one.groups(some, signal)),
    rows: (behind, ...rest) => of(behind.table).rows(behind, ...rest),
    members: (table, ...rest) => of(table).members(table, ...rest),
    profile: (table, ...rest) => of(table).profile(table, ...rest),
    extract: (part, ...rest) => of(part.table).extract(part, ...rest),
  };
}
