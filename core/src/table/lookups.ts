import { NO_DAY } from '../calendar';
import { codedField } from './coded';
import { columnOf, columnsRead, type Column, type Joining, type Table } from './column';

/** A text that is a whole number, as a column of numbers would hold it. */
export const asWhole = (text: string) => (/^0+(?=\d+$)/.test(text) ? text.replace(/^0+(?=\d)/, '') : text);

/** A lookup that fits, and which share of the rows finds something in it. */
export interface LookupOffer extends Joining {
  readonly found: number;
  /** Rows of the table that find nothing. */
  readonly lost: number;
}

/** Of less than half of the rows nobody would look anything up. */
const LEAST_FOUND = 0.5;

/** What a column of days is called from which a row is valid; other days are those on which something was. */
const VALID_FROM = /\b(?:from|since|valid|start|starts|starting|begin|begins|effective|ab|seit|gültig)\b/i;

/** Whether a column may hold keys: names, codes, whole numbers. */
const isKeyLike = (column: Column) => column.kind === 'text' || (column.kind === 'number' && column.decimals === 0);

/** A name without what does not tell it apart from another. */
const plainly = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .replace(/\b(?:id|ids|no|nr|number|code|key|name)\b/g, '')
    .replace(/s?\s*$/, '')
    .trim();

/** The columns of targets for fields of other names that mean the same: `rep` stands in `Rep`. */
export function fieldsNamedAlike(table: Table, targets: Table): Record<string, string> {
  const isField = ({ kind }: Column) => kind === 'text' || kind === 'yesno';
  const theirs = columnsRead(targets).filter(isField);
  const exact = new Set(theirs.map(({ name }) => name));
  const ours = new Set(table.columns.map(({ name }) => name));
  return Object.fromEntries(
    table.columns.filter(isField).flatMap((column) => {
      if (exact.has(column.name)) return [];
      const alike = theirs.filter((one) => !ours.has(one.name) && plainly(one.name) === plainly(column.name));
      return alike.length === 1 ? [[column.name, alike[0]!.name]] : [];
    }),
  );
}

/** Texts by which keys of two columns are compared: numbers that one of them writes as text are the same numbers. */
function textsOf(columns: readonly Column[], isMixed: readonly boolean[]): (row: number) => string | null {
  const coded = columns.map(codedField);
  return (row) => {
    const parts: string[] = [];
    for (let i = 0; i < coded.length; i++) {
      const code = coded[i]!.codes[row]!;
      if (code === 0) return null;
      const text = coded[i]!.members[code]!;
      parts.push(isMixed[i] ? asWhole(text) : text);
    }
    return parts.length === 1 ? parts[0]! : JSON.stringify(parts);
  };
}

/** The keys of a table's rows where none stands twice (with days: on one day); null where one does or there are none. */
function keysOf(table: Table, textAt: (row: number) => string | null, days: Int32Array | null): Set<string> | null {
  const seen = new Set<string>();
  const keys = new Set<string>();
  for (let row = 0; row < table.rows; row++) {
    const key = textAt(row);
    if (key === null || days?.[row] === NO_DAY) continue;
    const one = days ? `${days[row]!} ${key}` : key;
    if (seen.has(one)) return null;
    seen.add(one);
    keys.add(key);
  }
  return keys.size > 1 ? keys : null;
}

/** How many rows find a key. */
function rowsFinding(table: Table, columns: readonly Column[], isMixed: readonly boolean[], keys: ReadonlySet<string>) {
  if (columns.length === 1) {
    const { members, codes } = codedField(columns[0]!);
    const known = members.map((member, code) => code > 0 && keys.has(isMixed[0] ? asWhole(member) : member));
    let rows = 0;
    for (let row = 0; row < codes.length; row++) if (known[codes[row]!]) rows++;
    return rows;
  }
  const textAt = textsOf(columns, isMixed);
  let rows = 0;
  for (let row = 0; row < table.rows; row++) {
    const key = textAt(row);
    if (key !== null && keys.has(key)) rows++;
  }
  return rows;
}

/**
 * How rows of a table could find rows of another: by one column whose values stand there once each and are found here, or where
 * there is none by two; where a key stands there several times on different days, from the day on which it is valid.
 * @returns the best first; empty where nothing fits, or the other table has nothing but its key
 */
export function lookupOffers(table: Table, other: Table): LookupOffer[] {
  if (other.rows < 2 || table.rows === 0) return [];
  const here = columnsRead(table).filter((column) => isKeyLike(column) && column.name !== table.date);
  const there = columnsRead(other).filter((column) => isKeyLike(column) && column.name !== other.date);
  const isNamedAlike = (a: Column, b: Column) => plainly(a.name) === plainly(b.name);
  const pairs = there.flatMap((on) =>
    here
      // Of numbers nobody knows what they are but by their name.
      .filter((column) => isNamedAlike(column, on) || (column.kind === 'text' && on.kind === 'text'))
      .map((column) => ({ column, on })),
  );
  const date = other.date === null ? undefined : columnOf(other, other.date);
  const isValidFrom = date?.kind === 'date' && VALID_FROM.test(date.name);
  const days = isValidFrom && table.date !== null ? date.days : null;
  const offers: (LookupOffer & { readonly alike: number })[] = [];
  const attempt = (some: readonly { readonly column: Column; readonly on: Column }[], since: boolean): void => {
    const isMixed = some.map(({ column, on }) => column.kind !== on.kind);
    if (other.columns.length <= some.length + (since ? 1 : 0)) return;
    const keys = keysOf(
      other,
      textsOf(
        some.map(({ on }) => on),
        isMixed,
      ),
      since ? days : null,
    );
    if (!keys) return;
    const columns = some.map(({ column }) => column);
    const found = rowsFinding(table, columns, isMixed, keys);
    if (found / table.rows < LEAST_FOUND) return;
    offers.push({
      columns: columns.map(({ name }) => name),
      to: other.id,
      on: some.map(({ on }) => on.name),
      ...(since ? { since: date!.name } : {}),
      found: found / table.rows,
      lost: table.rows - found,
      alike: some.filter(({ column, on }) => isNamedAlike(column, on)).length / some.length,
    });
  };
  for (const pair of pairs) attempt([pair], false);
  if (offers.length === 0 && days) for (const pair of pairs) attempt([pair], true);
  if (offers.length === 0) {
    const alike = pairs.filter(({ column, on }) => isNamedAlike(column, on));
    for (let i = 0; i < alike.length; i++)
      for (let k = i + 1; k < alike.length; k++)
        if (alike[i]!.on !== alike[k]!.on && alike[i]!.column !== alike[k]!.column)
          attempt([alike[i]!, alike[k]!], false);
  }
  return offers.sort((a, b) => b.alike - a.alike || b.found - a.found).map(({ alike: _, ...offer }) => offer);
}
