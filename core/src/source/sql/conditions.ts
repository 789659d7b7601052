import type { Condition } from '../../brief';
import type { Span } from '../../calendar';
import { decimalsOf } from '../../number';
import { Problem } from '../../problem';
import { noField } from '../../query';
import type { Piece, SqlWriter } from './dialect';
import { comparison, textOf } from './expression';
import type { TableInSql } from './tableInSql';

/** A field in a statement; unknown ones are told. */
export function leafOf(table: TableInSql, field: string, w: SqlWriter): Piece {
  if (!table.kinds.has(field)) throw noField(table.id, field);
  return table.leaf(w)(field);
}

/** What rows must meet, as SQL. */
export function conditionsOf(table: TableInSql, span: Span | null, where: readonly Condition[], w: SqlWriter): string {
  const parts = where.map((condition) => conditionOf(table, condition, w));
  if (span) parts.unshift(w.within(table.leaf(w)(table.entry.date!), span));
  return parts.length === 0 ? '' : ` where ${parts.join(' and ')}`;
}

function conditionOf(table: TableInSql, condition: Condition, w: SqlWriter): string {
  const piece = leafOf(table, condition.field, w);
  if ('value' in condition) {
    if (piece.type !== 'number')
      throw new Problem(
        'wrong-type',
        `“${condition.field}” is not a number, so it cannot be ${condition.kind} ${condition.value}`,
        { in: 'brief' },
        'use “is” with its members',
      );
    const { kind, value } = condition;
    const bound: Piece = { sql: w.number(value, decimalsOf(value)), type: 'number', decimals: decimalsOf(value) };
    return comparison(kind === 'at least' ? '>=' : '<', piece, bound, w);
  }
  const named = condition.members.flatMap((member) => (member === null || member === '' ? [] : [member]));
  const hasBlank = named.length < condition.members.length;
  const text = (piece.type === 'text' ? piece.raw : undefined) ?? memberOf(piece, w);
  const isNamed = named.length === 0 ? w.truth(false) : w.isOneOf(text, named);
  // What compares with nothing is neither: blank is told by itself.
  if (condition.kind === 'is') return hasBlank ? `(${text} is null or ${text} = '' or ${isNamed})` : isNamed;
  return hasBlank ? `(${text} <> '' and ${w.not(isNamed)})` : `coalesce(${w.not(isNamed)}, ${w.truth(true)})`;
}

/** What a field’s member is called, blank as an empty text: days by their number, as in memory. */
export function memberOf(piece: Piece, w: SqlWriter): string {
  if (piece.type === 'text' && piece.raw !== undefined) return `coalesce(${piece.raw}, '')`;
  const text =
    piece.type === 'date' ? w.shown({ sql: w.dayNumber(piece.sql), type: 'number', decimals: 0 }) : textOf(piece, w);
  return `coalesce(${text}, '')`;
}
