import { counted } from '@bold-ruler/core/problem';
import { linesNamed, type FieldsProfile } from '@bold-ruler/core/table';

/** Lines that are named. */
const MOST_LINES = 10;

const named = (lines: readonly number[], files?: readonly string[]) =>
  linesNamed({ lines, ...(files ? { files } : {}) }, lines.length, MOST_LINES);

/** The understanding of a file for people: one line a column, then what was left out. */
export function fieldsText(profile: FieldsProfile & { readonly sheet?: string }): string {
  const time = profile.date
    ? `, by “${profile.date}” from ${profile.from} to ${profile.to}, one row a ${profile.grain} or part of it`
    : ', without a date';
  const where = profile.sheet === undefined ? profile.file : `${profile.file}, sheet “${profile.sheet}”`;
  const head = `${where}: ${counted(profile.rows, 'row')}${time}`;
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
    .map(
      ({ row, column, raw, reason, file }) =>
        `  line ${row}${file === undefined ? '' : ` of ${file}`}${column ? `, ${column}` : ''}: “${raw}” is ${reason}`,
    );
  const more = profile.leftOut.length > left.length ? [`  … and ${profile.leftOut.length - left.length} more`] : [];
  const totals =
    profile.totalsRows.length > 0
      ? [`Totals among the rows, as it looks, in ${named(profile.totalsRows, profile.totalsFiles)}`]
      : [];
  const { duplicates } = profile;
  const twice = duplicates
    ? [
        `${counted(duplicates.count, 'row')} ${duplicates.count === 1 ? 'stands' : 'stand'} there already, equal to one above in ${duplicates.key ? duplicates.key.join(', ') : 'all columns'} (${linesNamed(duplicates, duplicates.count, MOST_LINES)})${Object.entries(
          duplicates.sums,
        )
          .map(([name, sum]) => `, ${sum} in ${name}`)
          .join(
            '',
          )}: “repeats”: { “by”: “row” } in a report file leaves ${duplicates.count === 1 ? 'it' : 'them'} out.`,
      ]
    : [];
  const notes =
    profile.noteRows.length > 0
      ? [`Notes below the rows, as it looks, in ${named(profile.noteRows, profile.noteFiles)}`]
      : [];
  const empty = profile.emptyLines > 0 ? [`Empty lines: ${profile.emptyLines}`] : [];
  const doubts = profile.doubts.map(
    ({ column, readings }) =>
      `“${column}” can be read in ${readings.length} ways: ${readings.map(({ read, raw, as }) => `“${raw}” is ${as} as ${read}`).join(', or ')}. The first is used; “read” in a report file settles it.`,
  );
  const told = (profile.told ?? []).map(({ what, count, first: [first] }) => {
    const where = `${count === 1 ? '' : `${count} times, first `}in line ${first!.line}${first!.file === undefined ? '' : ` of ${first!.file}`}: ${first!.raw.split('\n')[0]}`;
    switch (what) {
      case 'stray quote':
        return `A quote encloses no cell and is read as a letter ${where}`;
      case 'many lines':
        return `A cell holds several lines ${where} …`;
      case 'no result':
        return `A formula has no stored result and is blank ${where}; open the workbook in a spreadsheet program and save it`;
      case 'no text':
        return `A text is missing in the workbook, and the cell is blank ${where}`;
      case 'bad bytes':
        return `A byte is not valid in the file’s encoding, UTF-8, and is read as “�” ${where}`;
    }
  });
  const far = profile.farDays
    ? [
        `Far from all other days (${profile.farDays.othersFrom} to ${profile.farDays.othersTo}): ${profile.farDays.from}${profile.farDays.to === profile.farDays.from ? '' : ` to ${profile.farDays.to}`} in ${linesNamed(profile.farDays, profile.farDays.count, MOST_LINES)}; ${profile.farDays.count === 1 ? 'it does' : 'they do'} not set the as-of date.`,
      ]
    : [];
  const wide = profile.wide
    ? [
        `Columns are named after ${profile.wide.grain}s (${profile.wide.values.map(({ columns }) => columns.length).join(' + ')} of them): “long” in a report file makes rows of them.`,
      ]
    : [];
  return [
    head,
    ...table,
    ...(left.length > 0 ? ['Left out:', ...left, ...more] : []),
    ...totals,
    ...twice,
    ...notes,
    ...empty,
    ...told,
    ...far,
    ...doubts,
    ...wide,
    '',
  ].join('\n');
}
