/** Text that a spreadsheet may take for a formula, also with signs of full width. */
export const beginsLikeFormula = (text: string): boolean => /^\s*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r\n]/.test(text);

/** Rows as comma-separated values (RFC 4180), lines ended by CR LF. Text that begins like a formula is made harmless by an apostrophe. */
export function writeCsv(rows: readonly (readonly (string | number)[])[]): string {
  return rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}

function cell(value: string | number): string {
  if (typeof value === 'number') return String(value);
  const harmless = beginsLikeFormula(value) ? `'${value}` : value;
  return /[",\r\n]/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}
