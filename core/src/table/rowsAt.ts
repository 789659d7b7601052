import { NO_DAY } from '../calendar';
import { codesFor, type Column } from './column';

/** A column with its value at each of some rows. */
export function columnAt(column: Column, rows: Uint32Array): Column {
  let blank = 0;
  switch (column.kind) {
    case 'number': {
      const values = Float64Array.from(rows, (row) => column.values[row]!);
      for (const value of values) if (Number.isNaN(value)) blank++;
      return { ...column, values, blank };
    }
    case 'date': {
      const days = Int32Array.from(rows, (row) => column.days[row]!);
      for (const day of days) if (day === NO_DAY) blank++;
      const written = column.written && Int32Array.from(rows, (row) => column.written![row]!);
      return { ...column, days, blank, ...(written ? { written } : {}) };
    }
    case 'yesno': {
      const codes = Uint8Array.from(rows, (row) => column.codes[row]!);
      for (const code of codes) if (code === 0) blank++;
      return { ...column, codes, blank };
    }
    case 'text':
      return textOfRows(column, rows);
  }
}

/** Members that no row has any more are let go. */
function textOfRows(column: Extract<Column, { kind: 'text' }>, rows: Uint32Array): Column {
  const used = new Uint8Array(column.members.length);
  for (const row of rows) used[column.codes[row]!] = 1;
  used[0] = 1;
  const codeOf = new Uint32Array(column.members.length);
  const members: string[] = [];
  column.members.forEach((member, code) => {
    if (used[code]) codeOf[code] = members.push(member) - 1;
  });
  const codes = codesFor(members.length, rows.length);
  let blank = 0;
  for (let i = 0; i < rows.length; i++) {
    codes[i] = codeOf[column.codes[rows[i]!]!]!;
    if (codes[i] === 0) blank++;
  }
  return { ...column, members, codes, blank };
}
