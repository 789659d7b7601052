/** What a spreadsheet calls a column by its place, from 0: A, B, … Z, AA, … */
export function columnLetters(column: number): string {
  const letter = String.fromCharCode(65 + (column % 26));
  return column < 26 ? letter : `${columnLetters(Math.floor(column / 26) - 1)}${letter}`;
}
