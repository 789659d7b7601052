/** Whether the name of a table's file stands for several. */
export const isPattern = (file: string): boolean => file.includes('*');

/** Whether a file's name, without its folder, fits a pattern in which a * stands for any letters. Hidden files fit none. */
export function fitsPattern(name: string, pattern: string): boolean {
  const parts = pattern.split('*').map((part) => part.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  return !name.startsWith('.') && new RegExp(`^${parts.join('.*')}$`).test(name);
}
