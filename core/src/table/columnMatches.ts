import { distance } from 'fastest-levenshtein';
import { codedField } from './coded';
import type { Column, Table } from './column';

/** A column that is gone, and one that has come and may be the same under another name. */
export interface ColumnMatch {
  readonly from: string;
  readonly to: string;
  /** 0–1: how much of what it held it still holds. */
  readonly share: number;
}

const plain = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** How much two names have in common: whole words, else letters; 0–1. */
function namesShare(a: string, b: string): number {
  const [one, other] = [plain(a), plain(b)];
  if (one === other) return 1;
  const words = (text: string) => new Set(text.split(' '));
  const [first, second] = [words(one), words(other)];
  const both = [...first].filter((word) => second.has(word)).length;
  const byWords = both / Math.min(first.size, second.size);
  const byLetters = 1 - distance(one, other) / Math.max(one.length, other.length, 1);
  return Math.max(byWords * 0.9, byLetters > 0.6 ? byLetters : 0);
}

/** How much of the members of one column the other has. */
function membersShare(a: Column, b: Column): number {
  const there = new Set(codedField(b).members.slice(1));
  const members = codedField(a).members.slice(1);
  if (members.length === 0 || there.size === 0) return 0;
  const both = members.filter((member) => there.has(member)).length;
  return both / Math.min(members.length, there.size);
}

/** The mean size of numbers, which tells a column of pieces from one of amounts. */
function magnitude(column: Column): number | null {
  if (column.kind !== 'number') return null;
  let [sum, count] = [0, 0];
  for (const value of column.values)
    if (!Number.isNaN(value)) {
      sum += Math.abs(value);
      count++;
    }
  return count === 0 ? null : sum / count / 10 ** (column.decimals ?? 0);
}

const SURE_ENOUGH = 0.45;

function likeness(a: Column, b: Column): number {
  if (a.kind !== b.kind) return 0;
  const name = namesShare(a.name, b.name);
  switch (a.kind) {
    case 'text':
    case 'yesno':
      return 0.35 * name + 0.65 * membersShare(a, b);
    case 'number': {
      const [x, y] = [magnitude(a), magnitude(b)];
      const size = x === null || y === null || x === 0 || y === 0 ? 0 : Math.min(x, y) / Math.max(x, y);
      return 0.7 * name + 0.3 * size;
    }
    case 'date':
      // Newer rows have other days.
      return 0.6 * name + 0.4;
  }
}

/**
 * For columns that a newer file lacks, those of it that may be the same under another name: of the same kind, with the same members
 * or numbers of that size, or nearly the same name. Each is proposed once, the likeliest first.
 */
export function columnMatches(before: Pick<Table, 'columns'>, after: Pick<Table, 'columns'>): ColumnMatch[] {
  const now = new Set(after.columns.map(({ name }) => name));
  const then = new Set(before.columns.map(({ name }) => name));
  const lost = before.columns.filter(({ name }) => !now.has(name));
  const come = after.columns.filter(({ name }) => !then.has(name));
  const pairs = lost
    .flatMap((from) => come.map((to) => ({ from: from.name, to: to.name, share: likeness(from, to) })))
    .filter(({ share }) => share >= SURE_ENOUGH)
    .sort((a, b) => b.share - a.share);
  const found: ColumnMatch[] = [];
  for (const pair of pairs) if (!found.some(({ from, to }) => from === pair.from || to === pair.to)) found.push(pair);
  return found;
}
