import { compareNames } from '../table';
import type { ValueType } from './check';

/** One thing that can stand where the cursor is. */
export interface ExpressionCompletion {
  readonly text: string;
  /** What it is, in words. */
  readonly detail: string;
  /** The part of the text it takes the place of. */
  readonly from: number;
  readonly to: number;
}

const FUNCTIONS: readonly (readonly [text: string, detail: string])[] = [
  ['sum(', 'sum of a number'],
  ['avg(', 'mean of a number'],
  ['count(*)', 'number of rows'],
  ['count(distinct ', 'number of different values'],
  ['min(', 'lowest'],
  ['max(', 'highest'],
  ['stddev_samp(', 'standard deviation'],
  ['percentile_cont(0.5) within group (order by ', 'median, or another percentile'],
  ['filter (where ', 'only some rows, behind an aggregate'],
  ['case when ', 'one value or another: … then … else … end'],
  ['case ', 'by what something is: case line when … then … else … end'],
  ['coalesce(', 'the first that is not blank'],
  ['nullif(', 'blank where both are equal'],
  ['abs(', 'without its sign'],
  ['round(', 'to some decimals'],
  ['sign(', '−1, 0 or 1'],
  ['greatest(', 'the greatest of several'],
  ['least(', 'the least of several'],
  ['extract(year from ', 'a part of a date'],
  ['cast(', 'as another kind'],
];

const KINDS: Readonly<Record<ValueType, string>> = { text: 'text', number: 'number', date: 'date', yesno: 'yes or no' };

/** What can stand at the cursor of an expression: columns and functions that go on with what is written there. */
export function completeExpression(
  text: string,
  cursor: number,
  columns: ReadonlyMap<string, ValueType>,
  aliases: ReadonlyMap<string, string> = new Map(),
): ExpressionCompletion[] {
  const before = text.slice(0, cursor);
  // Nothing is offered inside a text or a number.
  if (/(?:^|[^\p{L}_\p{N}])\d[\d.]*$/u.test(before)) return [];
  if ((before.replace(/"[^"]*"?/g, '').match(/'/g) ?? []).length % 2 === 1) return [];
  const word = /(?:"[^"]*|[\p{L}_][\p{L}\p{N}_]*(?:\.[\p{L}\p{N}_]*)?)$/u.exec(before)?.[0] ?? '';
  const from = cursor - word.length;
  const typed = word.replace(/^"/, '').toLowerCase();
  const inQuotes = word.startsWith('"');
  // Behind a table's name and a dot stand the columns that are looked up in it.
  const known = typed.includes('.')
    ? [...aliases].flatMap(([alias, name]) => (columns.has(name) ? [[alias, columns.get(name)!] as const] : []))
    : [...columns];
  const named = known
    .filter(([name]) => name.toLowerCase().includes(typed))
    .sort(
      ([a], [b]) =>
        Number(b.toLowerCase().startsWith(typed)) - Number(a.toLowerCase().startsWith(typed)) || compareNames(a, b),
    )
    .map(([name, kind]) => ({
      text: typed.includes('.') ? dotted(name) : quoted(name),
      detail: KINDS[kind],
      from,
      to: cursor,
    }));
  const called = inQuotes
    ? []
    : FUNCTIONS.filter(([call]) => call.startsWith(typed)).map(([call, detail]) => ({
        text: call,
        detail,
        from,
        to: cursor,
      }));
  return typed === '' ? [...named, ...called] : [...called.filter(({ text: call }) => call !== typed), ...named];
}

/** A name behind a table's, each in quotes where it must be. */
const dotted = (alias: string) => {
  const dot = alias.indexOf('.');
  return `${quoted(alias.slice(0, dot))}.${quoted(alias.slice(dot + 1))}`;
};

/** A column's name as expressions write it. */
export function quoted(name: string): string {
  return /^[a-z_][a-z0-9_]*$/i.test(name) && !RESERVED.has(name.toLowerCase())
    ? name
    : `"${name.replaceAll('"', '""')}"`;
}

const RESERVED = new Set(
  'and or not in between like is null case when then else end from as filter where within group order by distinct true false extract cast date'.split(
    ' ',
  ),
);
