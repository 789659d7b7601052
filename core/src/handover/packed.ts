import { gunzipSync, gzipSync, strFromU8, strToU8 } from 'fflate';
import { NO_DAY, type Span } from '../calendar';
import { columnOf, type Codes, type Column, type Table } from '../table';

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
  readonly more: Readonly<Record<string, unknown>>;
};

/** An integer that stands for a blank number. */
const NO_NUMBER = -(2 ** 31);

/** What of a table a file carries: some columns, and the rows of some days; null for all rows. */
export interface CarriedPart {
  readonly columns: readonly string[];
  readonly span: Span | null;
  /** What is known of all rows' days. */
  readonly spans?: Table['spans'];
}

/** Parts of tables as bytes, small: whole numbers where they are, equal bytes beside one another. */
export function packTables(parts: readonly (readonly [Table, CarriedPart])[]): Uint8Array {
  const heads: Head[] = [];
  const bodies: Uint8Array[] = [];
  for (const [table, { columns: names, span, spans }] of parts) {
    const rows = rowsIn(table, span);
    const columns = names.flatMap((name) => {
      const column = columnOf(table, name);
      if (!column) return [];
      const { head, body } = packColumn(column, rows);
      bodies.push(body);
      return [head];
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
  const head = strToU8(JSON.stringify(heads));
  const whole = new Uint8Array(4 + head.length + bodies.reduce((sum, { length }) => sum + length, 0));
  new DataView(whole.buffer).setUint32(0, head.length);
  whole.set(head, 4);
  let at = 4 + head.length;
  for (const body of bodies) {
    whole.set(body, at);
    at += body.length;
  }
  return gzipSync(whole, { level: 9, mtime: 0 });
}

function rowsIn(table: Table, span: Span | null): Uint32Array {
  const date = table.date === null ? undefined : columnOf(table, table.date);
  const all = Uint32Array.from({ length: table.rows }, (_, row) => row);
  if (!span || date?.kind !== 'date') return all;
  return all.filter((row) => date.days[row]! >= span.from && date.days[row]! <= span.to);
}

function packColumn(column: Column, rows: Uint32Array): { head: ColumnHead; body: Uint8Array } {
  const { kind, name, convention } = column;
  if (kind === 'text' || kind === 'yesno') {
    // All members stay, also those without a row: they can be chosen, and conditions name them.
    const { members } = column;
    const size = members.length <= 0x100 ? 1 : members.length <= 0x10000 ? 2 : 4;
    const codes = Array.from(rows, (row) => column.codes[row]!);
    const blank = codes.reduce((count, code) => count + (code === 0 ? 1 : 0), 0);
    return { head: { kind, name, convention, blank, size, members, more: {} }, body: planes(codes, size) };
  }
  if (kind === 'date') {
    // Days follow one another: their distances are small.
    let before = 0;
    const steps = Array.from(rows, (row) => {
      const step = column.days[row]! - before;
      before = column.days[row]!;
      return step | 0;
    });
    const blank = rows.reduce((count, row) => count + (column.days[row] === NO_DAY ? 1 : 0), 0);
    const more = { grain: column.grain, read: column.read };
    return { head: { kind, name, convention, blank, size: 4, more }, body: planes(steps, 4) };
  }
  const values = Array.from(rows, (row) => column.values[row]!);
  const isWhole = values.every(
    (value) => Number.isNaN(value) || (Number.isInteger(value) && Math.abs(value) < 2 ** 31 && !Object.is(value, -0)),
  );
  const blank = values.reduce((count, value) => count + (Number.isNaN(value) ? 1 : 0), 0);
  const more = { decimals: column.decimals, ...(column.unit === undefined ? {} : { unit: column.unit }) };
  const size = isWhole ? 4 : 8;
  const body = planes(isWhole ? values.map((value) => (Number.isNaN(value) ? NO_NUMBER : value)) : values, size);
  return { head: { kind, name, convention, blank, size, more }, body };
}

/** The first bytes of all values, then all second bytes, and so on: what is alike lies together. */
function planes(values: readonly number[], size: 1 | 2 | 4 | 8): Uint8Array {
  const plain = new Uint8Array(values.length * size);
  const view = new DataView(plain.buffer);
  values.forEach((value, i) => {
    if (size === 8) view.setFloat64(i * 8, value, true);
    else if (size === 4) view.setInt32(i * 4, value, true);
    else if (size === 2) view.setUint16(i * 2, value, true);
    else view.setUint8(i, value);
  });
  const shuffled = new Uint8Array(plain.length);
  for (let i = 0; i < values.length; i++)
    for (let b = 0; b < size; b++) shuffled[b * values.length + i] = plain[i * size + b]!;
  return shuffled;
}

/** The tables that were packed. */
export function unpackTables(packed: Uint8Array): Map<string, Table> {
  const whole = gunzipSync(packed);
  const view = new DataView(whole.buffer, whole.byteOffset, whole.byteLength);
  const length = view.getUint32(0);
  const heads = JSON.parse(strFromU8(whole.subarray(4, 4 + length))) as Head[];
  let at = 4 + length;
  return new Map(
    heads.map(({ columns, aliases, ...head }) => {
      const read = columns.map((column) => {
        const size = column.size * head.rows;
        const body = whole.subarray(at, at + size);
        at += size;
        return unpackColumn(column, body, head.rows);
      });
      const empty = { leftOut: [], lines: null, skipped: [], marks: null, doubts: [], wide: null };
      const names = aliases ? { aliases: new Map(aliases) } : {};
      return [head.id, { ...head, ...names, ...empty, columns: read }] as const;
    }),
  );
}

function unpackColumn(
  { kind, name, blank, convention, size, members, more }: ColumnHead,
  body: Uint8Array,
  rows: number,
): Column {
  const plain = new Uint8Array(rows * size);
  for (let i = 0; i < rows; i++) for (let b = 0; b < size; b++) plain[i * size + b] = body[b * rows + i]!;
  const common = { name, blank, convention, ...more };
  switch (kind) {
    case 'text':
    case 'yesno': {
      const Kind = { 1: Uint8Array, 2: Uint16Array, 4: Uint32Array }[size as 1 | 2 | 4];
      const codes: Codes = new Kind(plain.buffer);
      return { ...common, kind, members, codes } as unknown as Column;
    }
    case 'date': {
      const days = new Int32Array(plain.buffer);
      for (let i = 1; i < rows; i++) days[i] = (days[i]! + days[i - 1]!) | 0;
      return { ...common, kind, days } as unknown as Column;
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
