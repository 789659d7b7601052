import { OPENINGS } from './openings';

/** A name in double quotes, as briefs and expressions take it. */
export function inQuotes(name: string): string {
  return `"${name.replaceAll('"', '""')}"`;
}

/** A name that stands in a brief as it is: words of letters and digits. */
export function isPlainName(name: string): boolean {
  return /^[\p{L}_][\p{L}\p{N}_%&/.-]*(?: [\p{L}\p{N}_%&/.-]+)*$/u.test(name);
}

/** A name as it is safely typed: in quotes where a word of it could be taken for the beginning of a clause. */
export function typedName(name: string): string {
  const words = name.toLowerCase().split(' ');
  const isSafe = isPlainName(name) && !words.some((word) => (OPENINGS as readonly string[]).includes(word));
  return isSafe ? name : inQuotes(name);
}
