import { NO_DAY, type Span } from '../calendar';
import type { Streams } from './streams';
import { codesFor, columnOf, type Codes, type Column, type Table, type TextColumn } from '../table';

/** A table's description in a packed file; its columns' bytes follow one another. */
type Head = Omit<
  Table,
  'columns' | 'leftOut' | 'lines' | 'skipped' | 'marks' | 'doubts' | 'wide' | 'joined' | 'aliases'
> & {
  readonly columns: readonly ColumnHead[];
  /** Other names of columns, by which expressions may call them. */
  readonly aliases?: readonly (readonly [alias: string, name: string])[];
};
type ColumnHead = Pick<Column, 'kind' | 'name' | 'blank' | 'convention'> & {
  /** Bytes of each value: numbers of 8 are doubles, of 4 integers. */
  readonly size: 1 | 2 | 4 | 8;
  readonly members?: readonly string[];
  /** Each code follows from the code of this column, by its place: the bytes are those of each of its members. */
  readonly by?: number;
  /** Days as the file writes them follow the days on which the report's calendar has them. */
  readonly isPlaced?: true;
  readonly more: Readonly<Record<string, unknown>>;
};

/** An integer that stands for a blank number. */
const NO_NUMBER = -(2 ** 31);

/** No day: the part of a table without rows. */
export const NO_DAYS: Span = { from: 1, to: 0 };

/** What of a table a file carries: some columns, and the rows of some days; null for all rows. */
export interface CarriedPart {
  readonly columns: readonly string[];
  readonly span: Span | null;
  /** What is known of all rows' days. */
  readonly spans?: Table['spans'];
}

/**
 * Parts of tables as streams of bytes that pack small: first what they are, in JSON; then the columns of each, whole numbers where they
 * are, the first bytes of all values, then all second bytes, and so on, each a stream of its own.
 */
export function packTables(parts: readonly (readonly [Table, CarriedPart])[]): Streams {
  const heads: Head[] = [];
  const streams: Uint8Array[] = [];
  for (const [table, { columns: names, span, spans }] of parts) {
    const carried = names.flatMap((name) => columnOf(table, name) ?? []);
    const rows = arranged(table, carried, rowsIn(table, span));
    const columns = carried.map((column, c) => {
      const by = carried.findIndex((other, o) => o !== c && leads(other, column, c, o));
      const { head, body } = packColumn(column, rows);
      if (by < 0) {
        streams.push(...body);
        return head;
      }
      streams.push(...packColumn(column, firstOfEach(carried[by] as TextColumn)).body);
      return { ...head, by };
    });
    const { id, date, grain, inDateOrder, leftOutCounts, firstLine, emptyLines, orders } = table;
    const aliases = [...(table.aliases ?? [])].filter(([, name]) => names.includes(name));
    heads.push({
      id,
      rows: rows.length,
      date,
      grain,
      inDateOrder,
      leftOutCounts,
      firstLine,
      emptyLines,
      orders,
      ...(spans ? { spans } : {}),
      ...(aliases.length > 0 ? { aliases } : {}),
      columns,
    });
  }
  return [new TextEncoder().encode(JSON.stringify(heads)), ...streams];
}

function rowsIn(table: Table, span: Span | null): Uint32Array {
  if (span && span.from > span.to) return new Uint32Array(0);
  const date = table.date === null ? undefined : columnOf(table, table.date);
  const days = date?.kind === 'date' ? date.days : null;
  const rows = new Uint32Array(table.rows);
  let count = 0;
  for (let row = 0; row < rows.length; row++)
    if (!span || !days || (days[row]! >= span.from && days[row]! <= span.to)) rows[count++] = row;
  return rows.subarray(0, count);
}

/**
 * Rows of one day beside those that are like them, which packs them smaller. Only where no sum depends on their order; on
 * which line of a file a row stood does not leave with it.
 */
function arranged(table: Table, columns: readonly Column[], rows: Uint32Array): Uint32Array {
  if (columns.some((column) => column.kind === 'number' && column.decimals === null)) return rows;
  const date = table.date === null ? undefined : columnOf(table, table.date);
  const days = date?.kind === 'date' ? date.days : null;
  if (!days) return rows;
  // First those of many members, from which others often follow.
  const texts = columns
    .filter((column): column is TextColumn => column.kind === 'text')
    .sort((a, b) => b.members.length - a.members.length);
  return rows.slice().sort((a, b) => {
    if (days[a] !== days[b]) return days[a]! - days[b]!;
    for (const { codes } of texts) if (codes[a] !== codes[b]) return codes[a]! - codes[b]!;
    return a - b;
  });
}

/** The row of each code of a column, by its code; no row has the code of a member that none has. */
const firsts = new WeakMap<TextColumn, Uint32Array>();
function firstOfEach(column: TextColumn): Uint32Array {
  let found = firsts.get(column);
  if (!found) {
    found = new Uint32Array(column.members.length).fill(NO_ROW);
    for (let row = 0; row < column.codes.length; row++)
      if (found[column.codes[row]!] === NO_ROW) found[column.codes[row]!] = row;
    firsts.set(column, found);
  }
  return found;
}
const NO_ROW = 2 ** 32 - 1;

/** Whether the code of a text follows from that of another column, which is packed whole. */
function leads(leader: Column, follower: Column, place: number, other: number): boolean {
  if (leader.kind !== 'text' || follower.kind !== 'text') return false;
  const [many, few] = [leader.members.length, follower.members.length];
  // Of two that follow from one another the first is packed whole.
  if (many < few || (many === few && other > place) || many > 0x10000) return false;
  const first = firstOfEach(leader);
  for (let row = 0; row < leader.codes.length; row++)
    if (follower.codes[row] !== follower.codes[first[leader.codes[row]!]!]) return false;
  return true;
}

function packColumn(column: Column, rows: Uint32Array): { head: ColumnHead; body: Streams } {
  const { kind, name, convention } = column;
  if (kind === 'text' || kind === 'yesno') {
    // All members stay, also those without a row: they can be chosen, and conditions name them.
    const { members } = column;
    const size = members.length <= 0x100 ? 1 : members.length <= 0x10000 ? 2 : 4;
    const codes = codesFor(members.length, rows.length);
    let blank = 0;
    for (let i = 0; i < rows.length; i++) {
      const code = column.codes[rows[i]!] ?? 0;
      codes[i] = code;
      if (code === 0) blank++;
    }
    return { head: { kind, name, convention, blank, size, members, more: {} }, body: planes(codes) };
  }
  if (kind === 'date') {
    const { days, written, grain, read } = column;
    let blank = 0;
    for (const row of rows) if (days[row] === NO_DAY) blank++;
    const head = { kind, name, convention, blank, size: 4, more: { grain, read } } as const;
    const body = planes(stepsBetween(days, rows));
    if (!written) return { head, body };
    return { head: { ...head, isPlaced: true }, body: [...body, ...planes(stepsBetween(written, rows))] };
  }
  const values = new Float64Array(rows.length);
  const whole = new Int32Array(rows.length);
  let blank = 0;
  let isWhole = true;
  for (let i = 0; i < rows.length; i++) {
    const value = column.values[rows[i]!]!;
    values[i] = value;
    if (value !== value) {
      blank++;
      whole[i] = NO_NUMBER;
    } else {
      whole[i] = value;
      isWhole &&= whole[i] === value && value !== NO_NUMBER && !Object.is(value, -0);
    }
  }
  const more = {
    decimals: column.decimals,
    ...(column.unit === undefined ? {} : { unit: column.unit }),
    ...(column.units ? { units: column.units } : {}),
  };
  const size = isWhole ? 4 : 8;
  return { head: { kind, name, convention, blank, size, more }, body: planes(isWhole ? whole : values) };
}

/** Days follow one another: their distances are small. */
function stepsBetween(days: Int32Array, rows: Uint32Array): Int32Array {
  const steps = new Int32Array(rows.length);
  let before = 0;
  for (let i = 0; i < rows.length; i++) {
    const day = days[rows[i]!]!;
    steps[i] = day - before;
    before = day;
  }
  return steps;
}

/** The days between which those steps lie. */
function daysBetween(steps: Int32Array): Int32Array {
  for (let i = 1; i < steps.length; i++) steps[i] = (steps[i]! + steps[i - 1]!) | 0;
  return steps;
}

/** The first bytes of all values, then all second bytes, and so on: what is alike lies together. Bytes as processors here have them. */
function planes(values: Codes | Int32Array | Float64Array): Uint8Array[] {
  const { BYTES_PER_ELEMENT: size } = values;
  const plain = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
  if (size === 1) return [plain];
  return Array.from({ length: size }, (_, b) => {
    const plane = new Uint8Array(values.length);
    for (let i = 0; i < plane.length; i++) plane[i] = plain[i * size + b]!;
    return plane;
  });
}

/** The tables that were packed. */
export function unpackTables([about, ...streams]: Streams): Map<string, Table> {
  const heads = JSON.parse(new TextDecoder().decode(about)) as Head[];
  return new Map(
    heads.map(({ columns, aliases, ...head }) => {
      const packed = columns.map((column) => {
        const count = column.by === undefined ? head.rows : columns[column.by]!.members!.length;
        return unpackColumn(column, streams.splice(0, column.isPlaced ? 2 * column.size : column.size), count);
      });
      const read = columns.map((_, c) => followed(c, columns, packed));
      const empty = { leftOut: [], lines: null, skipped: [], marks: null, doubts: [], wide: null };
      const names = aliases ? { aliases: new Map(aliases) } : {};
      return [head.id, { ...head, ...names, ...empty, columns: read }] as const;
    }),
  );
}

/** A column with a code for each row, where its codes follow from those of another. */
function followed(place: number, heads: readonly ColumnHead[], packed: readonly Column[]): Column {
  const { by } = heads[place]!;
  if (by === undefined) return packed[place]!;
  const column = packed[place] as TextColumn;
  const { codes } = followed(by, heads, packed) as TextColumn;
  const own = codesFor(column.members.length, codes.length);
  for (let row = 0; row < codes.length; row++) own[row] = column.codes[codes[row]!]!;
  return { ...column, codes: own };
}

/** Values of some bytes each, of which all first ones lie together, then all second ones, and so on. */
function joined(body: Streams, rows: number): Uint8Array<ArrayBuffer> {
  const plain = new Uint8Array(rows * body.length);
  body.forEach((plane, b) => {
    for (let i = 0; i < rows; i++) plain[i * body.length + b] = plane[i]!;
  });
  return plain;
}

function unpackColumn(
  { kind, name, blank, convention, size, members, more, isPlaced }: ColumnHead,
  body: Streams,
  rows: number,
): Column {
  const plain = joined(body.slice(0, size), rows);
  const common = { name, blank, convention, ...more };
  switch (kind) {
    case 'text':
    case 'yesno': {
      const Kind = { 1: Uint8Array, 2: Uint16Array, 4: Uint32Array }[size as 1 | 2 | 4];
      const codes: Codes = new Kind(plain.buffer);
      return { ...common, kind, members, codes } as unknown as Column;
    }
    case 'date': {
      const daysOf = (bytes: Uint8Array<ArrayBuffer>) => daysBetween(new Int32Array(bytes.buffer));
      const written = isPlaced ? { written: daysOf(joined(body.slice(size), rows)) } : {};
      return { ...common, kind, days: daysOf(plain), ...written } as unknown as Column;
    }
    case 'number': {
      const values =
        size === 8
          ? new Float64Array(plain.buffer)
          : Float64Array.from(new Int32Array(plain.buffer), (value) => (value === NO_NUMBER ? NaN : value));
      return { ...common, kind, values } as unknown as Column;
    }
  }
}
