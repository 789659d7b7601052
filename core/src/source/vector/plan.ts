import type { Aggregate } from '../../measure';
import { power } from '../../number';
import type { Groups, Query } from '../../query';
import { columnOf, type Codes, type Table } from '../../table';
import { collect, type Gathered } from '../collect';
import { computed, truthOf } from '../derived';
import { firstAtLeast, type RowFilter, type Scope } from '../scope';

/** A column of a plan. */
export type PlanColumn = Float64Array | Int32Array | Codes;

/** What is added to the record of each row's group: two doubles. */
export type Added =
  /** [0, 1] */
  | { readonly kind: 'rows' }
  /** [value, 1], of a column without blanks. */
  | { readonly kind: 'counted'; readonly values: Float64Array }
  /** The values of two columns without blanks. */
  | { readonly kind: 'two'; readonly values: Float64Array; readonly others: Float64Array }
  /** [value, FILLED + 1], and [0, 1] for a blank. */
  | { readonly kind: 'gapped'; readonly values: Float64Array };

/** Counts of values stand in one double with those of rows: so many times over. No scan of so many rows is for the engine. */
export const FILLED = 2 ** 26;

/** Rows that are looked at alike: all that pass the filters or, of these, those of a `filter (where …)`. */
export interface Gathering {
  /** 1 for the rows it takes, of all rows of the table; null for all. */
  readonly only: Uint8Array | null;
  readonly added: readonly Added[];
  /** Columns whose different codes are counted, with how many codes each has. */
  readonly seen: readonly { readonly codes: Codes; readonly members: number }[];
}

/** A scan as plain data, which any thread can run over any run of its rows; what the runs give is added up, exactly. */
export interface VectorPlan {
  readonly filters: readonly RowFilter[];
  /** Codes of fields, and what a code adds to the number of a group. */
  readonly fields: readonly { readonly codes: Codes; readonly stride: number }[];
  /** Where rows are in date order: the row with which each step begins. */
  readonly runs: Int32Array | null;
  /** Else, with a grain: each row's day, and the step of every day from the first on. */
  readonly days: { readonly of: Int32Array; readonly first: number; readonly steps: Int32Array } | null;
  readonly groups: number;
  readonly parts: readonly Gathering[];
}

/** What a run of rows gives: for each part its records, two doubles a group, and its marks, a byte for each group and code. */
export interface VectorState {
  readonly parts: readonly { readonly records: readonly Float64Array[]; readonly seen: readonly Uint8Array[] }[];
}

interface Planned {
  readonly plan: VectorPlan;
  groups(state: VectorState): Groups;
}

/** More than this in bytes, and a scan is not for the engine. */
const MOST_RECORDS = 1 << 25;
const MOST_MARKS = 1 << 24;

/** Where one of two doubles of a record is. */
interface Place {
  readonly record: number;
  readonly half: 0 | 1;
}

/** The part that is being put together for one `filter (where …)`. */
interface Wanted {
  readonly only: Uint8Array | null;
  readonly whole: Set<Float64Array>;
  readonly gapped: Set<Float64Array>;
  readonly seen: { readonly codes: Codes; readonly members: number }[];
}

/** The scan as the engine runs it; null where its sums would depend on the order of rows, or it has too many groups. */
export function vectorPlan(table: Table, query: Query, { from, to, filters, places, date }: Scope): Planned | null {
  const groups = places.size;
  const wanted: Wanted[] = [];
  const partFor = (only: Uint8Array | null): number => {
    const known = wanted.findIndex((one) => one.only === only);
    if (known >= 0) return known;
    return wanted.push({ only, whole: new Set(), gapped: new Set(), seen: [] }) - 1;
  };
  partFor(null);
  const readers: Reader[] = [];
  for (const aggregate of query.aggregates) {
    const part = partFor(aggregate.filter ? truthOf(table, aggregate.filter) : null);
    const reader = want(table, aggregate, wanted[part]!, part);
    if (!reader) return null;
    readers.push(reader);
  }
  const laid = wanted.map(laidOut);
  const records = laid.reduce((sum, { added }) => sum + added.length, 0);
  const marks = wanted.reduce((sum, { seen }) => sum + seen.reduce((all, { members }) => all + members * groups, 0), 0);
  if (records * groups * 16 > MOST_RECORDS || marks > MOST_MARKS || to - from >= FILLED) return null;
  const { starts, stepOf } = places;
  const sorted = table.inDateOrder;
  return {
    plan: {
      filters,
      fields: places.fields,
      runs:
        starts && sorted
          ? Int32Array.from([...starts.map((day, i) => (i === 0 ? from : firstAtLeast(date!.days, day))), to])
          : null,
      days: stepOf && !sorted ? { of: date!.days, first: stepOf.first, steps: stepOf.steps } : null,
      groups,
      parts: wanted.map(({ only, seen }, i) => ({ only, seen, added: laid[i]!.added })),
    },
    groups(state) {
      const gathered = readers.map((reader) => reader(laid, state));
      return collect(query, places, null, groups, rowsIn(state, 0, laid), gathered, date ? date.blank : 0);
    },
  };
}

/** How the doubles of a part lie. */
interface Laid {
  readonly added: readonly Added[];
  readonly sums: ReadonlyMap<Float64Array, Place>;
}

function laidOut({ whole, gapped }: Wanted): Laid {
  const added: Added[] = [...gapped].map((values) => ({ kind: 'gapped', values }));
  const sums = new Map<Float64Array, Place>(
    [...gapped].map((values, record) => [values, { record, half: 0 }] as const),
  );
  const more = [...whole];
  // One record at least counts rows.
  if (added.length === 0) {
    const values = more.shift();
    added.push(values ? { kind: 'counted', values } : { kind: 'rows' });
    if (values) sums.set(values, { record: 0, half: 0 });
  }
  for (let i = 0; i < more.length; i += 2) {
    const [values, others] = [more[i]!, more[i + 1]];
    const record = added.push(others ? { kind: 'two', values, others } : { kind: 'counted', values }) - 1;
    sums.set(values, { record, half: 0 });
    if (others) sums.set(others, { record, half: 1 });
  }
  return { added, sums };
}

function readAt(state: VectorState, part: number, { record, half }: Place): (group: number) => number {
  const list = state.parts[part]!.records[record]!;
  return (group) => list[2 * group + half]!;
}

/** Tells how many rows of a part fall into a group. */
function rowsIn(state: VectorState, part: number, laid: readonly Laid[]): (group: number) => number {
  const count = readAt(state, part, { record: 0, half: 1 });
  return laid[part]!.added[0]!.kind === 'gapped' ? (group) => count(group) % FILLED : count;
}

/** Tells an aggregate's value of each group from what a scan gave. */
type Reader = (laid: readonly Laid[], state: VectorState) => Gathered;

/** Asks for what an aggregate needs; null where the engine does not gather it. */
function want(table: Table, { fn, of, distinct }: Aggregate, into: Wanted, part: number): Reader | null {
  if (of === null) return (laid, state) => ({ decimals: 0, result: rowsIn(state, part, laid) });
  if (distinct) {
    const column = fn === 'count' && of.kind === 'column' ? columnOf(table, of.name) : undefined;
    if (column?.kind !== 'text') return null;
    const { codes, members } = column;
    const at = into.seen.push({ codes, members: members.length }) - 1;
    return (_, state) => {
      const seen = state.parts[part]!.seen[at]!;
      const result = (group: number) => {
        let count = 0;
        // Code 0 is blank.
        for (let i = group * members.length + 1; i < (group + 1) * members.length; i++) count += seen[i]!;
        return count;
      };
      return { decimals: 0, result };
    };
  }
  if (fn !== 'sum' && fn !== 'avg' && fn !== 'count') return null;
  const { values, blanks, decimals } = computed(table, of);
  // Sums of ordinary doubles depend on the order in which they are added up; how many there are does not.
  if (decimals === null && fn !== 'count') return null;
  (blanks ? into.gapped : into.whole).add(values);
  const scale = power(decimals ?? 0);
  return (laid, state) => {
    const place = laid[part]!.sums.get(values)!;
    const both = readAt(state, part, { record: place.record, half: 1 });
    const countOf = blanks ? (group: number) => Math.floor(both(group) / FILLED) : rowsIn(state, part, laid);
    if (fn === 'count') return { decimals: 0, result: countOf };
    const sumOf = readAt(state, part, place);
    const result = (group: number) => {
      const count = countOf(group);
      if (count === 0) return NaN;
      return fn === 'sum' ? sumOf(group) : sumOf(group) / count / scale;
    };
    return { decimals: fn === 'sum' ? decimals : null, result };
  };
}

/** The columns of which something is added. */
export function columnsAdded(added: Added): Float64Array[] {
  switch (added.kind) {
    case 'rows':
      return [];
    case 'two':
      return [added.values, added.others];
    default:
      return [added.values];
  }
}

/** Every column that a plan reads, once. */
export function columnsOfPlan({ filters, fields, days, parts }: VectorPlan): ReadonlySet<PlanColumn> {
  return new Set<PlanColumn>([
    ...filters.map((filter) =>
      filter.kind === 'days' ? filter.days : filter.kind === 'codes' ? filter.codes : filter.values,
    ),
    ...fields.map(({ codes }) => codes),
    ...(days ? [days.of] : []),
    ...parts.flatMap(({ only, added, seen }) => [
      ...(only ? [only] : []),
      ...added.flatMap(columnsAdded),
      ...seen.map(({ codes }) => codes),
    ]),
  ]);
}

/** Two runs of rows as one. Sums are exact, so that it does not matter which rows each saw. */
export function merged(a: VectorState, b: VectorState): VectorState {
  return {
    parts: a.parts.map(({ records, seen }, p) => ({
      records: records.map((list, r) => list.map((value, i) => value + b.parts[p]!.records[r]![i]!)),
      seen: seen.map((list, s) => list.map((mark, i) => mark | b.parts[p]!.seen[s]![i]!)),
    })),
  };
}
