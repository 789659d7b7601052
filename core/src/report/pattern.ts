/** Whether the name of a table's file stands for several. */
export const isPattern = (file: string): boolean => file.includes('*');

/**
 * Whether a file's name, without its folder, fits a pattern in which a * stands for any letters. Hidden files fit none. It is matched from
 * left to right, without trying again.
 */
export function fitsPattern(name: string, pattern: string): boolean {
  if (name.startsWith('.')) return false;
  const [first = '', ...others] = pattern.split('*');
  const last = others.pop();
  if (last === undefined) return name === pattern;
  const end = name.length - last.length;
  if (!name.startsWith(first) || !name.endsWith(last) || end < first.length) return false;
  let at = first.length;
  for (const part of others) {
    const found = name.indexOf(part, at);
    if (found < 0 || found + part.length > end) return false;
    at = found + part.length;
  }
  return true;
}
