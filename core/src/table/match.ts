import { isoDay, PLAIN_CALENDAR, type Grain } from '../calendar';
import { power, total } from '../number';
import { cellText, knownSpan } from './table';
import { columnOf, type Table } from './column';

const LISTED = 30;

/** A field of the measured table and the field of the targets it is matched with. */
export interface FieldMatch {
  readonly field: string;
  /** Null where the targets have none: they are for all its members together. */
  readonly other: string | null;
  readonly both: number;
  readonly onlyHere: readonly string[];
  readonly onlyThere: readonly string[];
}

/** How a table of targets fits the table it is held against. */
export interface Match {
  readonly fields: readonly FieldMatch[];
  /** Fields only the targets have: their targets are added up over them. */
  readonly addedUp: readonly string[];
  readonly time: {
    readonly here: TimeOf | null;
    readonly there: TimeOf | null;
  };
  /** Targets of the same fields and the same time; all of them count. */
  readonly duplicates: {
    readonly keys: number;
    readonly first: readonly { readonly key: string; readonly rows: number }[];
  };
  /** The targets' number columns: all of it, and what belongs to members the other table does not have. */
  readonly sums: readonly { readonly column: string; readonly all: number; readonly unmatched: number }[];
}

interface TimeOf {
  readonly column: string;
  readonly grain: Grain;
  readonly from: string;
  readonly to: string;
}

/** Matches targets with a table on fields of the same name, or as `match` says, and on time. */
export function matchTables(of: Table, targets: Table, match: Readonly<Record<string, string>> = {}): Match {
  const textual = (table: Table) => table.columns.filter(({ kind }) => kind === 'text' || kind === 'yesno');
  const theirs = new Set(textual(targets).map(({ name }) => name));
  const taken = new Set<string>();
  const fields = textual(of).flatMap(({ name }): FieldMatch[] => {
    const other = match[name] ?? name;
    if (!theirs.has(other)) return [{ field: name, other: null, both: 0, onlyHere: [], onlyThere: [] }];
    taken.add(other);
    const [here, there] = [membersOf(of, name), membersOf(targets, other)];
    return [
      {
        field: name,
        other,
        both: [...here].filter((member) => there.has(member)).length,
        onlyHere: [...here].filter((member) => !there.has(member)),
        onlyThere: [...there].filter((member) => !here.has(member)),
      },
    ];
  });
  return {
    fields,
    addedUp: [...theirs].filter((name) => !taken.has(name)),
    time: { here: timeOf(of), there: timeOf(targets) },
    duplicates: duplicatesIn(targets),
    sums: sumsOf(targets, fields),
  };
}

/** Members that stand in some row. */
function membersOf(table: Table, name: string): Set<string> {
  const column = columnOf(table, name);
  if (column?.kind !== 'text' && column?.kind !== 'yesno') return new Set();
  const used = new Uint8Array(column.members.length);
  for (let row = 0; row < column.codes.length; row++) used[column.codes[row]!] = 1;
  return new Set(column.members.filter((_, code) => code > 0 && used[code]));
}

function timeOf(table: Table): TimeOf | null {
  const span = knownSpan(table, PLAIN_CALENDAR);
  if (!span || table.date === null || table.grain === null) return null;
  return { column: table.date, grain: table.grain, from: isoDay(span.from), to: isoDay(span.to) };
}

function duplicatesIn(targets: Table): Match['duplicates'] {
  const keyed = targets.columns.filter(
    ({ kind, name }) => kind === 'text' || kind === 'yesno' || name === targets.date,
  );
  const rows = new Map<string, number>();
  for (let row = 0; row < targets.rows; row++) {
    const key = keyed.map((column) => cellText(column, row)).join(' · ');
    rows.set(key, (rows.get(key) ?? 0) + 1);
  }
  const several = [...rows].filter(([, count]) => count > 1);
  return { keys: several.length, first: several.slice(0, LISTED).map(([key, count]) => ({ key, rows: count })) };
}

function sumsOf(targets: Table, fields: readonly FieldMatch[]): Match['sums'] {
  const unmatched = new Uint8Array(targets.rows);
  for (const { other, onlyThere } of fields) {
    const column = other === null ? undefined : columnOf(targets, other);
    if (!column || onlyThere.length === 0 || (column.kind !== 'text' && column.kind !== 'yesno')) continue;
    const strangers = new Set(onlyThere);
    const isStranger = column.members.map((member) => strangers.has(member));
    for (let row = 0; row < targets.rows; row++) if (isStranger[column.codes[row]!]) unmatched[row] = 1;
  }
  return targets.columns.flatMap((column) => {
    if (column.kind !== 'number') return [];
    const { values, decimals, name } = column;
    const scale = power(decimals ?? 0);
    const sum = (some: Float64Array) => {
      const found = total(some, decimals === null ? null : 0) / scale;
      return Number.isNaN(found) ? 0 : found;
    };
    return [{ column: name, all: sum(values), unmatched: sum(values.filter((_, row) => unmatched[row] === 1)) }];
  });
}
