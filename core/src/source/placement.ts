import { startOf, type Day, type FiscalCalendar, type Grain, type Span } from '../calendar';
import { codedField, columnOf, type Codes, type DateColumn, type Table } from '../table';
import {
  BLOCK,
  pick,
  placeDays,
  placeNarrow,
  placePicked,
  placeRuns,
  placeTwoNarrow,
  placeWide,
  type Block,
} from './kernels';
import { noField, type Query } from '../query';

/** Where the rows of a scan fall: one place for each combination of field codes and step. */
export interface Placements {
  /** How many groups there can be. */
  readonly size: number;
  groups(block: Block): void;
  /** The same as doubles, where there can be more groups than an Int32 counts. */
  keys(block: Block): Float64Array;
  /** Tells the code of a field, by its place in the query, in a group. */
  codeOf(field: number): (group: number) => number;
  /** The first day of a group's step, where there is a grain. */
  readonly stepIn: (group: number) => Day;
  /** Codes of the fields, and what a code adds to the group. */
  readonly fields: readonly { readonly codes: Codes; readonly stride: number }[];
  readonly members: readonly (readonly string[])[];
  /** First days of the steps; null without a grain. */
  readonly starts: readonly Day[] | null;
  /** Which step a day falls into, from the first day that is read on; null without a grain. */
  readonly stepOf: { readonly first: Day; readonly steps: Int32Array } | null;
}

/** The places of a query's groups. Throws a `Problem` for a field the table lacks. */
export function placements(
  table: Table,
  query: Query,
  calendar: FiscalCalendar,
  date: DateColumn | null,
  days: Span | null,
): Placements {
  const fields = query.by.map((name) => {
    const column = columnOf(table, name);
    if (!column) throw noField(table.id, name);
    return codedField(column);
  });
  const steps = query.grain && days ? stepTable(query.grain, days, calendar) : null;
  const sizes = [...fields.map(({ members }) => members.length), ...(steps ? [steps.starts.length] : [])];
  const strides = sizes.map((_, i) => sizes.slice(i + 1).reduce((a, b) => a * b, 1));
  const keys = new Float64Array(BLOCK);
  return {
    size: Math.max(
      1,
      sizes.reduce((a, b) => a * b, 1),
    ),
    members: fields.map(({ members }) => members),
    starts: steps && steps.starts,
    fields: fields.map(({ codes }, f) => ({ codes, stride: strides[f]! })),
    stepOf: steps && { first: days!.from, steps: steps.stepOf },
    groups(block) {
      if (sizes.length === 0) block.groups.fill(0, 0, block.n);
      const [first, second] = [fields[0]?.codes, fields[1]?.codes];
      const two = block.dense && first instanceof Uint8Array && second instanceof Uint8Array;
      if (two) placeTwoNarrow(first, strides[0]!, second, strides[1]!, block);
      fields.forEach(({ codes }, i) => {
        if (two && i < 2) return;
        if (!block.dense) placePicked(codes, strides[i]!, i > 0, block);
        else if (codes instanceof Uint8Array) placeNarrow(codes, strides[i]!, i > 0, block);
        else placeWide(codes, strides[i]!, i > 0, block);
      });
      if (!steps) return;
      const place = block.dense && table.inDateOrder ? placeRuns : placeDays;
      place(date!.days, days!.from, steps.stepOf, fields.length > 0, block);
    },
    keys(block) {
      const { rows, n } = pick(block);
      keys.fill(0, 0, n);
      fields.forEach(({ codes }, f) => {
        for (let i = 0; i < n; i++) keys[i]! += codes[rows[i]!]! * strides[f]!;
      });
      if (steps) for (let i = 0; i < n; i++) keys[i]! += steps.stepOf[date!.days[rows[i]!]! - days!.from]!;
      return keys;
    },
    codeOf(field) {
      const [stride, size] = [strides[field]!, sizes[field]!];
      return (group) => Math.floor(group / stride) % size;
    },
    stepIn: (group) => steps!.starts[group % steps!.starts.length]!,
  };
}

function stepTable(grain: Grain, { from, to }: Span, calendar: FiscalCalendar): { starts: Day[]; stepOf: Int32Array } {
  const starts: Day[] = [];
  const stepOf = new Int32Array(Math.max(0, to - from + 1));
  for (let day = from; day <= to; day++) {
    const start = startOf(grain, day, calendar);
    if (starts[starts.length - 1] !== start) starts.push(start);
    stepOf[day - from] = starts.length - 1;
  }
  return { starts, stepOf };
}

/** Gives each group that occurs a place of its own, in order of appearance. */
export function hashing() {
  const placeOf = new Map<number, number>();
  const seen: number[] = [];
  return {
    get count() {
      return seen.length;
    },
    seen,
    place(keys: Float64Array, groups: Int32Array, n: number) {
      for (let i = 0; i < n; i++) {
        const key = keys[i]!;
        let place = placeOf.get(key);
        if (place === undefined) {
          place = seen.push(key) - 1;
          placeOf.set(key, place);
        }
        groups[i] = place;
      }
    },
  };
}
