import type { Condition } from '../../brief';
import { isoDay, type Span } from '../../calendar';
import { Problem } from '../../problem';
import type { Bindings } from './database';
import { dayNumber, textOf, type Piece } from './expression';
import { unknownIn, type TableInSql } from './tableInSql';

/** A field in a statement; unknown ones are told. */
export function leafOf(table: TableInSql, field: string, bindings: Bindings): Piece {
  if (!table.kinds.has(field)) throw unknownIn(table.id, field, [...table.kinds.keys()]);
  return table.leaf(bindings)(field);
}

/** What rows must meet, as SQL. */
export function conditionsOf(
  table: TableInSql,
  span: Span | null,
  where: readonly Condition[],
  bindings: Bindings,
): string {
  const parts = where.map((condition) => conditionOf(table, condition, bindings));
  if (span) {
    const day = table.leaf(bindings)(table.entry.date!).sql;
    const [from, to] = [span.from, span.to].map((one) => bindings.bind(isoDay(one), 'date'));
    parts.unshift(`${day} between ${from} and ${to}`);
  }
  return parts.length === 0 ? '' : ` where ${parts.join(' and ')}`;
}

function conditionOf(table: TableInSql, condition: Condition, bindings: Bindings): string {
  const piece = leafOf(table, condition.field, bindings);
  if ('value' in condition) {
    if (piece.type !== 'number')
      throw new Problem(
        'wrong-type',
        `“${condition.field}” is not a number, so it cannot be ${condition.kind} ${condition.value}`,
        { in: 'brief' },
        'use “is” with its members',
      );
    const bound = bindings.bind(String(condition.value), 'numeric');
    return `${piece.sql} ${condition.kind === 'at least' ? '>=' : '<'} ${bound}`;
  }
  const named = condition.members.flatMap((member) => (member === null || member === '' ? [] : [member]));
  const hasBlank = named.length < condition.members.length;
  const text = piece.raw ?? `coalesce(${fieldText(piece)}, '')`;
  const isNamed =
    named.length === 1
      ? `${text} = ${bindings.bind(named[0]!, 'text')}`
      : `${text} = any (${bindings.bind(named, 'text[]')})`;
  // What compares with nothing is neither: blank is told by itself.
  if (condition.kind === 'is') return hasBlank ? `(${text} is null or ${text} = '' or ${isNamed})` : isNamed;
  return hasBlank ? `(${text} <> '' and not ${isNamed})` : `coalesce(not ${isNamed}, true)`;
}

/** What a field’s member is called: days by their number, as in memory. */
export const fieldText = (piece: Piece): string =>
  piece.type === 'date' ? `${dayNumber(piece.sql)}::text` : textOf(piece);
