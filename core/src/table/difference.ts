import { isoDay, PLAIN_CALENDAR } from '../calendar';
import { power, total } from '../number';
import type { Column, ColumnKind, Table } from './column';
import { knownSpan } from './table';

/** How many names are listed; beyond that they are only counted. */
const LISTED = 12;

/** Names that came or went. */
export interface ChangedNames {
  readonly count: number;
  readonly first: readonly string[];
}

interface Held {
  readonly kind: ColumnKind;
  readonly convention: string;
  readonly blank: number;
  readonly unread: number;
  /** Of numbers. */
  readonly sum: number | null;
  readonly unit: string | null;
}

/** What is different in a column: on one side only, of another kind, or other content. */
export interface ColumnDifference {
  readonly name: string;
  readonly before: Held | null;
  readonly after: Held | null;
  readonly gained: ChangedNames;
  readonly lost: ChangedNames;
}

/** What changes when one table takes the place of another. */
export interface Difference {
  readonly rows: readonly [before: number, after: number];
  readonly from: readonly [before: string | null, after: string | null];
  readonly to: readonly [before: string | null, after: string | null];
  readonly leftOut: readonly [before: number, after: number];
  /** Only columns in which something changes. */
  readonly columns: readonly ColumnDifference[];
}

export function differenceOf(before: Table | null, after: Table): Difference {
  const spans = [before, after].map((table) => table && knownSpan(table, PLAIN_CALENDAR));
  const names = [...new Set([...(before?.columns ?? []), ...after.columns].map(({ name }) => name))];
  const columns = names.flatMap((name) => {
    const [was, is] = [before, after].map((table) => table?.columns.find((column) => column.name === name));
    const difference: ColumnDifference = {
      name,
      before: was && before ? held(was, before) : null,
      after: is ? held(is, after) : null,
      ...membersChanged(was, is),
    };
    return isSame(difference) ? [] : [difference];
  });
  const at = (end: 'from' | 'to') => spans.map((span) => span && isoDay(span[end])) as [string | null, string | null];
  return {
    rows: [before?.rows ?? 0, after.rows],
    from: at('from'),
    to: at('to'),
    leftOut: [before ? leftOutOf(before) : 0, leftOutOf(after)],
    columns: columns.sort((a, b) => orderOf(a) - orderOf(b)),
  };
}

/** What is new first, what is gone last. */
const orderOf = ({ before, after }: ColumnDifference) => (before === null ? 0 : after === null ? 2 : 1);

const leftOutOf = ({ leftOutCounts }: Table) => leftOutCounts.reduce((sum, { count }) => sum + count, 0);

function held(column: Column, table: Table): Held {
  const unread = table.leftOutCounts.reduce((n, entry) => n + (entry.column === column.name ? entry.count : 0), 0);
  const { kind, convention, blank } = column;
  return {
    kind,
    convention,
    blank: blank - unread,
    unread,
    sum: column.kind === 'number' ? sumOf(column) : null,
    unit: (column.kind === 'number' && column.unit) || null,
  };
}

function sumOf({ values, decimals }: Extract<Column, { kind: 'number' }>): number | null {
  const sum = decimals === null ? total(values, null) : total(values, 0) / power(decimals);
  return Number.isNaN(sum) ? null : sum;
}

const NONE: ChangedNames = { count: 0, first: [] };

function membersChanged(was: Column | undefined, is: Column | undefined): { gained: ChangedNames; lost: ChangedNames } {
  if (was?.kind !== 'text' || is?.kind !== 'text') return { gained: NONE, lost: NONE };
  const [old, now] = [new Set(was.members), new Set(is.members)];
  return {
    gained: named([...now].filter((name) => !old.has(name))),
    lost: named([...old].filter((name) => !now.has(name))),
  };
}

const named = (names: readonly string[]): ChangedNames => ({ count: names.length, first: names.slice(0, LISTED) });

function isSame({ before, after, gained, lost }: ColumnDifference): boolean {
  return (
    before !== null &&
    after !== null &&
    gained.count + lost.count === 0 &&
    (['kind', 'convention', 'blank', 'unread', 'sum'] as const).every((key) => before[key] === after[key])
  );
}
