/** Text that a spreadsheet may take for a formula, also with signs of full width. */
export const beginsLikeFormula = (text: string): boolean => /^\s*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r\n]/.test(text);

/** Rows as comma-separated values (RFC 4180), lines ended by CR LF. Text that begins like a formula, or would where something else parts the
 * cells, is made harmless by an apostrophe.
 */
export function writeCsv(rows: readonly (readonly (string | number)[])[]): string {
  return rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}

/** What would begin like a formula in a program that parts cells by something else than commas. */
const BEHIND_DELIMITER = /([;\t|\r\n])([^\S\t\r\n]*[=+\-@\uff1d\uff0b\uff0d\uff20])/g;

function cell(value: string | number): string {
  if (typeof value === 'number') return String(value);
  const within = value.replace(BEHIND_DELIMITER, "$1'$2");
  const harmless = beginsLikeFormula(value) ? `'${within}` : within;
  return /[",;\t|\r\n]/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}
