import { firstMonth, MONTH_NAMES, NO_DAY, weekBegins, type FiscalYears } from '../calendar';
import type { Column, TextColumn } from './column';

/** What a member without a name is called. */
export const BLANK_MEMBER = '(blank)';

const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const MONTHS = MONTH_NAMES.map((name) => name.toLowerCase());

function placeIn(names: readonly string[], member: string): number {
  const word = member.toLowerCase().replace(/\.$/, '');
  return names.findIndex((name) => name === word || (word.length >= 3 && name.startsWith(word)));
}

/** Text in order of its letters, runs of digits as numbers, so that “Store 9” comes before “Store 10”. Blank comes last. */
export function compareNames(a: string, b: string): number {
  return comparePieces(a, b, pieces(a), pieces(b));
}

function comparePieces(a: string, b: string, left: readonly string[], right: readonly string[]): number {
  if (a === '' || b === '') return Number(a === '') - Number(b === '');
  for (let i = 0; i < Math.min(left.length, right.length); i++) {
    const [x, y] = [left[i]!, right[i]!];
    const digits = /^\d/.test(x) && /^\d/.test(y);
    const order = digits ? Number(x) - Number(y) : x < y ? -1 : x > y ? 1 : 0;
    if (order !== 0) return order;
  }
  return left.length - right.length || (a < b ? -1 : a > b ? 1 : 0);
}

function pieces(text: string): string[] {
  return text.toLowerCase().match(/\d+|\D+/g) ?? [];
}

/** The order of a field's members that a table declares; fields may be called like what every object has. */
export function declaredOrder(
  { orders }: { readonly orders: Readonly<Record<string, readonly string[]>> },
  field: string,
): readonly string[] | undefined {
  return Object.hasOwn(orders, field) ? orders[field] : undefined;
}

const NUMBER = /^-?\d+(?:\.\d+)?$/;

/**
 * The natural order of members: months in fiscal order, weekdays from the week's start, numbers by size, anything else by name with
 * numbers in numeric order. A declared order comes first; members it does not name follow in natural order.
 */
export function inOrder(
  members: readonly string[],
  declared: readonly string[] | undefined,
  calendar: FiscalYears,
): string[] {
  const place = declared && new Map(declared.map((member, i) => [member, i]));
  const filled = members.filter((member) => member !== '');
  const months = filled.length > 1 && filled.every((member) => placeIn(MONTHS, member) >= 0);
  const numbers = filled.length > 1 && filled.every((member) => NUMBER.test(member));
  const weekdays = filled.length > 1 && filled.every((member) => placeIn(WEEKDAYS, member) >= 0);
  const natural = (member: string): number => {
    if (member === '') return Infinity;
    if (numbers) return Number(member);
    if (months) return (placeIn(MONTHS, member) + 13 - firstMonth(calendar)) % 12;
    if (weekdays) return (placeIn(WEEKDAYS, member) + 7 - weekBegins(calendar)) % 7;
    return 0;
  };
  // Each name is taken apart once, however many it is compared with.
  const decorated = members.map((member) => ({
    member,
    declared: place?.get(member) ?? Infinity,
    natural: natural(member),
    pieces: pieces(member),
  }));
  decorated.sort(
    (a, b) =>
      // ∞ − ∞ is NaN: neither is declared, or both are blank.
      a.declared - b.declared || a.natural - b.natural || comparePieces(a.member, b.member, a.pieces, b.pieces),
  );
  return decorated.map(({ member }) => member);
}

/** The members of a column in the order of the lowest value that another column has beside each; those without one last. */
export function orderedBy(of: TextColumn, by: Column): string[] {
  const rank = by.kind === 'text' ? ranksOf(by.members) : null;
  const lowest = new Float64Array(of.members.length).fill(Infinity);
  for (let row = 0; row < of.codes.length; row++) {
    let value: number;
    if (by.kind === 'number') value = by.values[row]!;
    else if (by.kind === 'date') value = by.days[row] === NO_DAY ? NaN : by.days[row]!;
    else value = by.codes[row] === 0 ? NaN : (rank?.[by.codes[row]!] ?? by.codes[row]!);
    const code = of.codes[row]!;
    if (value < lowest[code]!) lowest[code] = value;
  }
  const codes = Array.from({ length: of.members.length - 1 }, (_, i) => i + 1);
  codes.sort((a, b) => {
    const [x, y] = [lowest[a]!, lowest[b]!];
    return (x === y ? 0 : x - y) || compareNames(of.members[a]!, of.members[b]!);
  });
  return codes.map((code) => of.members[code]!);
}

function ranksOf(members: readonly string[]): Uint32Array {
  const ranks = new Uint32Array(members.length);
  const codes = Array.from(members, (_, code) => code).sort((a, b) => compareNames(members[a]!, members[b]!));
  codes.forEach((code, rank) => (ranks[code] = rank));
  return ranks;
}
