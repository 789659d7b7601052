import { NO_DAY } from '../calendar';
import { power } from '../number';
import { codesFor, type Codes, type Column } from './column';

interface Coded {
  readonly members: readonly string[];
  readonly codes: Codes;
}

const codings = new WeakMap<Column, Coded>();

/** Members and codes of a column to group by: those of text and yes/no; distinct values of numbers and days. */
export function codedField(column: Column): Coded {
  if (column.kind === 'text' || column.kind === 'yesno') return column;
  let coded = codings.get(column);
  if (!coded) {
    const values = column.kind === 'number' ? column.values : column.days;
    const scale = power((column.kind === 'number' ? column.decimals : null) ?? 0);
    const isDay = column.kind === 'date';
    const members = [''];
    const codeOf = new Map<number, number>();
    const wide = new Uint32Array(values.length);
    for (let row = 0; row < values.length; row++) {
      const value = values[row]!;
      if (Number.isNaN(value) || (isDay && value === NO_DAY)) continue;
      let code = codeOf.get(value);
      if (code === undefined) {
        code = members.push(String(value / scale)) - 1;
        codeOf.set(value, code);
      }
      wide[row] = code;
    }
    const codes = codesFor(members.length, values.length);
    codes.set(wide);
    codings.set(column, (coded = { members, codes }));
  }
  return coded;
}
