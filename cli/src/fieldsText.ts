import type { FieldsProfile } from '@bold-ruler/core/table';

/** The understanding of a file for people: one line a column, then what was left out. */
export function fieldsText(profile: FieldsProfile): string {
  const time = profile.date
    ? `, by “${profile.date}” from ${profile.from} to ${profile.to}, one row a ${profile.grain} or part of it`
    : ', without a date';
  const head = `${profile.file}: ${profile.rows} rows${time}`;
  const rows = profile.columns.map((c) => {
    const range = c.lowest === null ? '' : `${c.lowest} … ${c.highest}`;
    const sum = c.sum === undefined ? '' : `sum ${c.sum}`;
    return [
      c.name,
      c.type,
      c.convention,
      `${c.members} different`,
      `${c.blank} blank`,
      `${c.unread} unread`,
      range,
      sum,
    ];
  });
  const widths = rows[0]?.map((_, i) => Math.max(...rows.map((row) => row[i]!.length))) ?? [];
  const table = rows.map(
    (row) =>
      `  ${row
        .map((cell, i) => cell.padEnd(widths[i]!))
        .join('  ')
        .trimEnd()}`,
  );
  const left = profile.leftOut
    .slice(0, 20)
    .map(({ row, column, raw, reason }) => `  line ${row}${column ? `, ${column}` : ''}: “${raw}” is ${reason}`);
  const more = profile.leftOut.length > left.length ? [`  … and ${profile.leftOut.length - left.length} more`] : [];
  const totals =
    profile.totalsRows.length > 0
      ? [`These lines look like totals among the rows: ${profile.totalsRows.join(', ')}`]
      : [];
  return [head, ...table, ...(left.length > 0 ? ['Left out:', ...left, ...more] : []), ...totals, ''].join('\n');
}
