import { columnsOf as columnsIn } from '../measure';
import type { Span } from '../calendar';
import type { OpenSource } from '../query';
import { spanKey, type KnownSpan } from '../table';

/** What has been asked of a table: columns, and from when to when; null for rows of all days. */
export interface Observed {
  readonly columns: Set<string>;
  span: Span | null;
  /** What was told of its first and last day, by the columns that were asked for. */
  readonly spans: Map<string, KnownSpan | null>;
}

/** Days before its last day on which a row may stand that reaches to it. */
const YEAR = 366;

/** Thrown where more is asked for than a source may give. */
const BEYOND = new Error('more is asked for than is carried');

const isIn = ({ columns, span }: Pick<Observed, 'columns' | 'span'>, carried: Observed | undefined): boolean =>
  carried !== undefined &&
  [...columns].every((column) => carried.columns.has(column)) &&
  (carried.span === null || (span !== null && span.from >= carried.span.from && span.to <= carried.span.to));

/** Whether work asks a source for nothing but what was asked for before; it is ended where it asks for more. */
export async function asksWithin(
  source: OpenSource,
  carried: ReadonlyMap<string, Observed>,
  work: (source: OpenSource) => Promise<void>,
): Promise<boolean> {
  try {
    await work(recording(source, carried).source);
    return true;
  } catch (error) {
    if (error !== BEYOND) throw error;
    return false;
  }
}

/**
 * A source that remembers what it was asked for.
 * @param carried all it may be asked for: for more it throws `BEYOND`, and from then on for everything
 */
export function recording(
  source: OpenSource,
  carried?: ReadonlyMap<string, Observed>,
): {
  readonly source: OpenSource;
  readonly asked: ReadonlyMap<string, Observed>;
} {
  const asked = new Map<string, Observed>();
  let isBeyond = false;
  const note = (table: string, columns: readonly string[], span: Span | null) => {
    isBeyond ||= carried !== undefined && !isIn({ columns: new Set(columns), span }, carried.get(table));
    if (isBeyond) throw BEYOND;
    const known = asked.get(table);
    if (!known) {
      asked.set(table, { columns: new Set(columns), span, spans: new Map() });
      return;
    }
    for (const column of columns) known.columns.add(column);
    known.span =
      known.span && span ? { from: Math.min(known.span.from, span.from), to: Math.max(known.span.to, span.to) } : null;
  };
  return {
    asked,
    source: {
      ...source,
      async span(table, columns) {
        const span = await source.span(table, columns);
        // The last day with data must be among the rows, so that the as-of date stays what it is.
        const reach = source.facts(table)?.grain === 'day' ? 0 : YEAR;
        if (span) note(table, columns, { from: span.to - reach, to: span.to });
        asked.get(table)?.spans.set(spanKey(columns), span);
        return span;
      },
      groups(query) {
        const columns = query.aggregates.flatMap((aggregate) => columnsIn(aggregate));
        const fields = query.where.map(({ field }) => field);
        note(query.table, [...query.by, ...fields, ...columns], query.span);
        return source.groups(query);
      },
    },
  };
}
