import { distance } from 'fastest-levenshtein';

/** Why two names may be one: they differ in nothing but how they are spelled; in initials; in a few letters; one is a part of the other. */
export type Likeness = 'spelling' | 'initials' | 'letters' | 'part';

/** A name and another that may be meant by it. */
export interface NameProposal {
  readonly name: string;
  readonly meant: string;
  readonly why: Likeness;
}

/** How a name reads when its case, its accents and the spaces in it do not count. */
export const plainName = (name: string): string =>
  name.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();

/** Letters that are written as two where a keyboard lacks them. */
const AS_TWO: Readonly<Record<string, string>> = {
  ä: 'ae',
  ö: 'oe',
  ü: 'ue',
  å: 'aa',
  ø: 'oe',
  æ: 'ae',
  œ: 'oe',
  ß: 'ss',
  þ: 'th',
  ł: 'l',
  đ: 'd',
};

const inTwo = (name: string) =>
  name
    .normalize('NFC')
    .toLowerCase()
    .replace(/[äöüåøæœßþłđ]/gu, (letter) => AS_TWO[letter]!);

const words = (name: string) => name.split(/[^\p{L}\p{N}]+/u).filter((word) => word !== '');

/** Its words without accents, in both ways of writing letters a keyboard lacks, and names such as O’Brien also as one word. */
function readings(name: string): readonly (readonly string[])[] {
  const written = [name, name.replace(/(?<=\p{L})['’ʼ`´](?=\p{L})/gu, '')].flatMap((one) => [
    words(plainName(one.replaceAll('ß', 'ss').replace(/[øØ]/g, 'o').replace(/[łŁ]/g, 'l'))),
    words(plainName(inTwo(one))),
  ]);
  return [...new Map(written.map((some) => [some.join(' '), some])).values()];
}

/** How a name reads when case, accents, spaces, signs and the order of words do not count. */
const keysOf = (name: string) => readings(name).map((some) => [...some].sort().join(' '));

/** Words that are the same, or of which one is the first letters of the other; at least one of each pair of names is whole. */
function isByInitials(a: readonly string[], b: readonly string[]): boolean {
  if (a.length !== b.length || a.length < 2) return false;
  const left = [...b];
  let whole = 0;
  let shortened = 0;
  // Whole words first, so that an initial does not take what another word needs.
  const rest = a.filter((word) => {
    const at = word.length > 1 ? left.indexOf(word) : -1;
    if (at < 0) return true;
    left.splice(at, 1);
    whole++;
    return false;
  });
  for (const word of rest) {
    const at = left.findIndex(
      (other) => word[0] === other[0] && (word.length === 1 || other.length === 1) && word.length !== other.length,
    );
    if (at < 0) return false;
    left.splice(at, 1);
    shortened++;
  }
  return whole > 0 && shortened > 0;
}

/** A surname alone, or a name without its addition. */
function isPart(a: readonly string[], b: readonly string[]): boolean {
  const [less, more] = a.length < b.length ? [a, b] : [b, a];
  return less.length < more.length && less.every((word) => word.length > 3 && more.includes(word));
}

/** So many letters may differ in a name of some length; codes differ in one letter and are others. */
const lettersOff = (length: number) => (length < 5 ? 0 : length < 9 ? 1 : 2);
const withoutDigits = (name: string) => !/\d/.test(name);

/** More names are not compared letter by letter with one another. */
const MOST_COMPARED = 3_000_000;

/**
 * For each name another one that may be meant by it: the same but for its spelling, else the same but for initials, else the one that
 * differs in the fewest letters, else the only one of which it is a part. Where several are as likely there is none.
 * @param names to be matched
 * @param known what they may stand for, the most likely first
 */
export function proposeNames(names: readonly string[], known: readonly string[]): NameProposal[] {
  const byKey = new Map<string, Set<string>>();
  const byWord = new Map<string, string[]>();
  for (const name of known) {
    for (const key of keysOf(name)) {
      const same = byKey.get(key);
      if (same) same.add(name);
      else byKey.set(key, new Set([name]));
    }
    for (const word of new Set(readings(name).flat()))
      if (word.length > 1) byWord.set(word, [...(byWord.get(word) ?? []), name]);
  }
  const comparesLetters = names.length * known.length <= MOST_COMPARED;
  return names.flatMap((name): NameProposal[] => {
    const one = (candidates: ReadonlySet<string>, why: Likeness) => {
      const others = [...candidates].filter((other) => other !== name);
      return others.length === 1 ? [{ name, meant: others[0]!, why }] : others.length > 1 ? [] : null;
    };
    // Of several spellings of one name the first is meant.
    const spelled = keysOf(name).flatMap((key) => [...(byKey.get(key) ?? [])]);
    const alike = spelled.find((other) => other !== name);
    if (alike !== undefined) return [{ name, meant: alike, why: 'spelling' }];
    const mine = readings(name);
    const nearby = new Set(mine.flat().flatMap((word) => byWord.get(word) ?? []));
    const initials = one(
      new Set([...nearby].filter((other) => mine.some((a) => readings(other).some((b) => isByInitials(a, b))))),
      'initials',
    );
    if (initials) return initials;
    if (!comparesLetters || !withoutDigits(name)) return [];
    const key = keysOf(name)[0]!;
    const most = lettersOff(key.length);
    let best = most + 1;
    let closest: string[] = [];
    for (const other of known) {
      if (other === name || !withoutDigits(other)) continue;
      for (const otherKey of keysOf(other)) {
        if (Math.abs(otherKey.length - key.length) > most) continue;
        const off = distance(key, otherKey);
        if (off > most || off > best) continue;
        if (off < best) closest = [];
        best = off;
        if (!closest.includes(other)) closest.push(other);
      }
    }
    if (closest.length > 0) return closest.length === 1 ? [{ name, meant: closest[0]!, why: 'letters' }] : [];
    return one(new Set([...nearby].filter((other) => isPart(mine[0]!, readings(other)[0]!))), 'part') ?? [];
  });
}

/**
 * Names of one list that may be one: each of a lesser weight with the weightiest it may stand for.
 * @param weights how much hangs on each name, such as its rows
 */
export function proposeMerges(names: readonly string[], weights: readonly number[]): NameProposal[] {
  const order = names.map((_, i) => i).sort((a, b) => weights[b]! - weights[a]!);
  const sorted = order.map((i) => names[i]!);
  const rank = new Map(sorted.map((name, i) => [name, i]));
  const meantBy = new Map<string, NameProposal>();
  const groups = new Map<string, string>();
  for (const name of sorted)
    for (const key of keysOf(name)) {
      const first = groups.get(key);
      if (first === undefined) groups.set(key, name);
      else if (first !== name && !meantBy.has(name)) meantBy.set(name, { name, meant: first, why: 'spelling' });
    }
  const left = sorted.filter((name) => !meantBy.has(name));
  for (const proposal of proposeNames(left, left))
    if (rank.get(proposal.meant)! < rank.get(proposal.name)!) meantBy.set(proposal.name, proposal);
  // A name that stands for another is none that others stand for.
  return sorted.flatMap((name) => {
    const proposal = meantBy.get(name);
    if (!proposal) return [];
    let { meant } = proposal;
    while (meantBy.has(meant)) meant = meantBy.get(meant)!.meant;
    return [{ ...proposal, meant }];
  });
}
