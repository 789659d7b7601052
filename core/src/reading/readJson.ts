import { Problem, thousands } from '../problem';
import type { ColumnWish, RawTable } from '../table';
import type { Cell, Row, RowChunk, RowSource } from './cell';
import { decode, encodingOf, firstBytes } from './decode';
import type { SourceFile } from './file';
import { encodingFor } from './judgedEncoding';
import { rowsUnderHeader, type GridChunk } from './grid';
import { exactly, keysIn, nextFree, valuesIn, withKeysApart, type Cuts } from './jsonText';
import { readRows, type OnRows } from './readRows';

/** A JSON document that is one object is read whole, up to this many bytes. */
const MOST_WHOLE = 400_000_000;

/** Values are taken in batches of about this many characters. */
const BATCH = 1 << 18;

/** How the rows stand in a JSON file: in an array, one value a line, or inside one object. */
type Layout = 'array' | 'lines' | 'object';

/**
 * The tables in a JSON file: one without a name for an array or for one value a line; for an object the keys under which
 * arrays of rows stand, the longest first.
 */
export async function jsonSheets(file: SourceFile): Promise<string[]> {
  if ((await layoutOf(file)) !== 'object') return [''];
  const tables = tablesIn(await wholeOf(file), file.name);
  return tables.map(([name]) => name);
}

/** Reads rows from a JSON file: objects by their keys (keys of inner objects as `outer.inner`), arrays under a header row. */
export async function readJson(
  file: SourceFile,
  sheet: string | undefined,
  wishes: readonly ColumnWish[] = [],
  onRows?: OnRows,
): Promise<RawTable> {
  const layout = await layoutOf(file);
  let source: RowSource;
  if (layout === 'object') {
    const tables = tablesIn(await wholeOf(file), file.name);
    const found = sheet === undefined ? tables[0] : tables.find(([name]) => name === sheet);
    if (!found)
      throw noSuchPart(
        file.name,
        sheet!,
        tables.map(([name]) => name),
      );
    source = rowsOf(() => single(found[1]), file.name);
  } else source = rowsOf(() => batches(file, layout), file.name);
  const raw = await readRows(file.name, source, wishes, onRows);
  const { bad } = await encodingFor(file);
  return bad ? { ...raw, told: [bad] } : raw;
}

export function noSuchPart(file: string, part: string, parts: readonly string[]): Problem {
  return new Problem(
    'no-such-sheet',
    `there is no table “${part}” in it`,
    { in: file },
    parts.length === 0
      ? undefined
      : `it holds ${parts
          .slice(0, 8)
          .map((name) => `“${name}”`)
          .join(', ')}`,
  );
}

interface Batch {
  readonly values: readonly unknown[];
  readonly share: number;
}

async function* single(values: readonly unknown[]): AsyncGenerator<Batch> {
  const AT_ONCE = 5000;
  for (let from = 0; from < values.length; from += AT_ONCE)
    yield await Promise.resolve({ values: values.slice(from, from + AT_ONCE), share: from / values.length });
}

/** Bytes of the beginning that show how rows stand in a file, and how many are looked at where its first value is long. */
const FIRST = 1 << 16;
const MOST_FIRST = 1 << 28;

async function layoutOf(file: SourceFile): Promise<Layout> {
  let first: Uint8Array;
  let text: string;
  let ends: Cuts['ends'];
  // The first value may be long.
  let size = FIRST;
  do {
    first = await firstBytes(file, size);
    text = new TextDecoder(encodingOf(first)).decode(first).trimStart();
    ({ ends } = valuesIn(text, false));
    size *= 8;
  } while (text[0] === '{' && ends.length === 0 && first.length < file.size && size <= MOST_FIRST);
  const several = ends.length > 1 || file.size > first.length;
  if (text[0] !== '{') return ends.length > 1 && text[ends[1]!.from] === '[' ? 'lines' : 'array';
  if (ends.length === 0) return 'object';
  return several || text.slice(ends[0]!.to).trim() !== '' ? 'lines' : 'object';
}

async function wholeOf(file: SourceFile): Promise<unknown> {
  if (file.size > MOST_WHOLE)
    throw new Problem(
      'too-large',
      'it is one object of more than 400 MB',
      { in: file.name },
      'write the rows as an array of objects, or one object a line',
    );
  let text = '';
  for await (const piece of decode(file, (await encodingFor(file)).encoding)) text += piece.text;
  try {
    const value = JSON.parse(exactly(text)) as unknown;
    const isWhole = keysIn(value) === valuesIn(text, false).keys;
    return isWhole ? value : (JSON.parse(withKeysApart(exactly(text))) as unknown);
  } catch (error) {
    throw brokenJson(file.name, null, error);
  }
}

function brokenJson(file: string, value: number | null, error: unknown): Problem {
  const what = error instanceof Error ? error.message.split('\n')[0]! : String(error);
  const where = value === null ? '' : ` in value ${thousands(value)}`;
  return new Problem(
    'broken-json',
    `the JSON is broken${where}: ${what.slice(0, 160)}`,
    { in: file },
    'mend that place, or save the file again from where it came',
  );
}

/** Arrays of rows inside an object, at most two keys deep; and columns that stand as arrays side by side. */
function tablesIn(document: unknown, file: string): [string, readonly unknown[]][] {
  const found: [string, readonly unknown[]][] = [];
  const look = (value: unknown, path: string, depth: number) => {
    if (Array.isArray(value)) {
      if (value.length > 0 && value.every((row) => row !== null && typeof row === 'object')) found.push([path, value]);
    } else if (value !== null && typeof value === 'object' && depth < 3) {
      for (const [key, inner] of Object.entries(value)) look(inner, path === '' ? key : `${path}.${key}`, depth + 1);
    }
  };
  look(document, '', 0);
  if (found.length === 0 && document !== null && typeof document === 'object') {
    const columns = Object.entries(document).filter((entry): entry is [string, unknown[]] => Array.isArray(entry[1]));
    const rows = Math.max(0, ...columns.map(([, values]) => values.length));
    if (rows > 0) {
      const table = Array.from({ length: rows }, (_, r) =>
        Object.fromEntries(columns.map(([key, values]) => [key, values[r] ?? null])),
      );
      found.push(['', table]);
    } else found.push(['', [document]]);
  }
  if (found.length === 0)
    throw new Problem(
      'no-rows-in-json',
      'there are no rows in this JSON',
      { in: file },
      'write the rows as an array of objects, or one object a line',
    );
  return found.sort((a, b) => b[1].length - a[1].length);
}

/** The values of a file in batches. What a batch leaves, which is at most one value, begins the next. */
async function* batches(file: SourceFile, layout: Layout): AsyncGenerator<Batch> {
  const inArray = layout === 'array';
  const { encoding } = await encodingFor(file);
  let rest = '';
  let begun = false;
  let enough = BATCH;
  let count = 0;
  let closed = inArray;
  const parse = (text: string, { ends, keys }: Cuts, share: number): Batch => {
    const part = ({ from, to }: Cuts['ends'][number]) => exactly(text.slice(from, to));
    let values: unknown[];
    try {
      // In an array the values stand as they would in one of their own.
      const whole = { from: ends[0]!.from, to: ends[ends.length - 1]!.to };
      const joined = inArray ? part(whole) : ends.map(part).join(',');
      values = JSON.parse(`[${joined}]`) as unknown[];
      if (keys !== keysIn(values)) values = JSON.parse(`[${withKeysApart(joined)}]`) as unknown[];
    } catch {
      values = ends.map((place, i) => {
        try {
          return JSON.parse(withKeysApart(part(place))) as unknown;
        } catch (error) {
          throw brokenJson(file.name, count + i + 1, error);
        }
      });
    }
    count += values.length;
    return { values: inArray ? values : values.flatMap(rowsIn), share };
  };
  const cut = (text: string): Cuts => {
    const lead = inArray ? '[' : '';
    const { ends, end, ...more } = valuesIn(lead + text, inArray);
    return {
      ...more,
      ends: ends.map(({ from, to }) => ({ from: from - lead.length, to: to - lead.length })),
      end: end === null ? null : end - lead.length,
    };
  };
  function* taken(isEnd: boolean, share: number): Generator<Batch> {
    for (;;) {
      if (closed) {
        // Behind an array another may begin; anything else would be lost.
        rest = rest.trimStart();
        if (rest === '') return;
        if (rest[0] !== '[')
          throw brokenJson(
            file.name,
            null,
            new Error(`behind the end of its array stands more: “${rest.slice(0, 40)}”`),
          );
        rest = rest.slice(1);
        closed = false;
      }
      const found = cut(isEnd && !inArray ? `${rest}\n` : rest);
      const { ends, end, complete } = found;
      // A value longer than the batch is waited for, each time twice as long.
      enough = ends.length === 0 ? rest.length * 2 : BATCH;
      if (ends.length > 0) yield parse(rest, found, share);
      if (inArray && end !== null) {
        rest = rest.slice(end + 1);
        closed = true;
        continue;
      }
      if (isEnd && !complete) throw brokenJson(file.name, count + 1, new Error('the file ends in the middle of it'));
      const last = ends.at(-1)?.to ?? 0;
      rest = rest.slice(inArray && rest[last] === ',' ? last + 1 : last);
      return;
    }
  }
  for await (const { text, bytes } of decode(file, encoding)) {
    rest += text;
    if (!begun) {
      rest = rest.replace(/^[\uFEFF\s]+/, '');
      if (rest === '') continue;
      if (inArray && rest[0] !== '[')
        throw brokenJson(file.name, null, new Error('it begins with neither “[” nor “{”'));
      begun = true;
    }
    if (rest.length >= enough) yield* taken(false, file.size === 0 ? 1 : bytes / file.size);
  }
  if (!begun)
    throw new Problem('empty-file', 'there are no rows in it', { in: file.name }, 'choose a file with rows in it');
  yield* taken(true, 1);
}

/** Of an array of objects, as of several that were appended, each is a row. */
function rowsIn(value: unknown): readonly unknown[] {
  const isObject = (one: unknown) => typeof one === 'object' && one !== null && !Array.isArray(one);
  return Array.isArray(value) && value.length > 0 && value.every(isObject) ? value : [value];
}

/** Rows from values: the first decides whether they are objects, arrays or single values. */
function rowsOf(values: () => AsyncIterable<Batch>, file: string): RowSource {
  return async function* (aside) {
    const held = values()[Symbol.asyncIterator]();
    const first = await held.next();
    if (first.done) return;
    const inArrays = first.value.values.length > 0 && Array.isArray(first.value.values[0]);
    const all = (async function* () {
      yield first.value;
      for (;;) {
        const next = await held.next();
        if (next.done) return;
        yield next.value;
      }
    })();
    if (inArrays) yield* rowsUnderHeader(arrayRows(all), aside);
    else yield* objectRows(all, file, aside);
  };
}

async function* arrayRows(batches: AsyncIterable<Batch>): AsyncGenerator<GridChunk> {
  let firstLine = 1;
  for await (const { values, share } of batches) {
    const rows = values.map((value) => (Array.isArray(value) ? value.map(cellOf) : [cellOf(value)]));
    yield { rows, firstLine, share };
    firstLine += rows.length;
  }
}

async function* objectRows(
  batches: AsyncIterable<Batch>,
  file: string,
  aside: Parameters<RowSource>[0],
): AsyncGenerator<RowChunk> {
  const names: string[] = [];
  const placeOf = new Map<string, number>();
  let line = 0;
  const taken = new Set<string>();
  const place = (name: string) => {
    let found = placeOf.get(name);
    if (found === undefined) {
      const short = nextFree(name.slice(0, 500), (one) => taken.has(one));
      taken.add(short);
      found = names.push(short) - 1;
      placeOf.set(name, found);
    }
    return found;
  };
  for await (const { values, share } of batches) {
    const rows: Row[] = [];
    const lines: number[] = [];
    const firstLine = line + 1;
    for (const value of values) {
      line++;
      if (value === null || (typeof value === 'object' && Object.keys(value).length === 0)) {
        aside(line);
        continue;
      }
      const row: Cell[] = [];
      // Several paths may lead to one name: {"a": {"b": 1}, "a.b": 2}.
      const filled = new Set<string>();
      const put = (inner: unknown, name: string, depth: number) => {
        if (inner !== null && typeof inner === 'object' && !Array.isArray(inner) && depth < 4) {
          for (const [key, deeper] of Object.entries(inner))
            put(deeper, name === '' ? key : `${name}.${key}`, depth + 1);
          return;
        }
        const own = nextFree(name === '' ? 'value' : name, (one) => filled.has(one));
        filled.add(own);
        const c = place(own);
        while (row.length < c) row.push('');
        row[c] = cellOf(inner);
      };
      put(value, '', 0);
      rows.push(row);
      lines.push(line);
    }
    yield { names, rows, firstLine, lines, share };
  }
  if (names.length === 0)
    throw new Problem('empty-file', 'there are no rows in it', { in: file }, 'choose a file with rows in it');
}

/** A JSON value as a cell. Lists and objects too deep to be columns stay as JSON text. */
function cellOf(value: unknown): Cell {
  switch (typeof value) {
    case 'string':
    case 'number':
      return value;
    case 'boolean':
      return value ? 'true' : 'false';
    case 'object':
      return value === null ? '' : JSON.stringify(value);
    default:
      return '';
  }
}
