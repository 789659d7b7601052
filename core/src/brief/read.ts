import { GRAINS, type PeriodWords } from '../calendar';
import { forms } from '../form';
import type { Problem } from '../problem';
import {
  SELECTIONS,
  SORT_KEYS,
  type Brief,
  type Condition,
  type Form,
  type Selection,
  type Sorting,
  type View,
  type Vocabulary,
} from './brief';
import { OPENINGS } from './openings';
import { BriefParser, type Offer } from './parser';
import { grain, readPeriod, startsWith } from './readPeriod';

export { OPENINGS } from './openings';

const CLAUSES = ['by', 'each', 'during', 'against', 'as', 'keep', 'sorted by', 'only', 'lit by', 'on'] as const;

type Clauses = { -readonly [K in keyof Omit<Brief, 'views'>]?: Brief[K] };

/** Reads a brief. Throws a `Problem` with the place of the words it could not read and the closest known names. */
export function readBrief(text: string, vocabulary: Vocabulary): Brief {
  let briefs = known.get(vocabulary);
  if (!briefs) known.set(vocabulary, (briefs = new Map()));
  let brief = briefs.get(text);
  if (!brief) {
    brief = readWith(new BriefParser(text), vocabulary);
    if (briefs.size >= MOST_KNOWN) briefs.clear();
    briefs.set(text, brief);
  }
  return brief;
}

/** Reads a period as it stands in a brief. Throws a `Problem` where the text is none. */
export function periodFrom(text: string): PeriodWords {
  const reader = new BriefParser(text);
  const period = readPeriod(reader);
  if (!reader.ended) throw reader.misplaced([], 'what follows a period');
  return period;
}

/** The same sentences are read again with every drawing, under the same names. */
const known = new WeakMap<Vocabulary, Map<string, Brief>>();
const MOST_KNOWN = 500;

/** What can come next behind a text: whole words or names, each with the place where it begins. */
export function offersAfter(
  text: string,
  vocabulary: Vocabulary,
): { readonly offers: readonly Offer[]; readonly problem: Problem | null } {
  let reader: BriefParser;
  try {
    reader = new BriefParser(text);
  } catch (problem) {
    return { offers: [], problem: problem as Problem };
  }
  try {
    readWith(reader, vocabulary);
    return { offers: reader.offers, problem: null };
  } catch (problem) {
    return { offers: reader.offers, problem: problem as Problem };
  }
}

function readWith(reader: BriefParser, vocabulary: Vocabulary): Brief {
  const views = readViews(reader, vocabulary);
  const clauses: Clauses = {};
  while (!reader.ended) {
    reader.comma();
    readClause(reader, vocabulary, clauses);
  }
  reader.offer('clause', ...CLAUSES.filter((clause) => !isTaken(clauses, clause)));
  return {
    views,
    by: clauses.by ?? [],
    grain: clauses.grain ?? null,
    period: clauses.period ?? { kind: 'all time' },
    against: clauses.against ?? null,
    form: clauses.form ?? null,
    keep: clauses.keep ?? null,
    sort: clauses.sort ?? null,
    only: clauses.only ?? [],
    lit: clauses.lit ?? null,
    ruler: clauses.ruler ?? null,
  };
}

const CLAUSE_KEYS = {
  by: 'by',
  each: 'grain',
  during: 'period',
  against: 'against',
  as: 'form',
  keep: 'keep',
  'sorted by': 'sort',
  only: 'only',
  'lit by': 'lit',
  on: 'ruler',
} as const;

function isTaken(clauses: Clauses, clause: (typeof CLAUSES)[number]): boolean {
  return clauses[CLAUSE_KEYS[clause]] !== undefined;
}

function readViews(reader: BriefParser, vocabulary: Vocabulary): View[] {
  const views = [readView(reader, vocabulary)];
  for (;;) {
    const before = reader.place;
    if (!reader.comma()) return views;
    // A comma may also stand before the next clause, whose words win over a name that begins like it.
    if (CLAUSES.some((clause) => startsWith(reader, clause))) {
      reader.place = before;
      return views;
    }
    views.push(readView(reader, vocabulary));
  }
}

const VIEW_OPENINGS = {
  cumulative: 'cumulative',
  'share of': 'share',
  'rank of': 'rank',
  'change in': 'change',
} as const;

/** A measure, looked at in some way. Where the words are a measure's name and also a way of looking, the longer reading wins. */
function readView(reader: BriefParser, { measures }: Vocabulary): View {
  reader.offer('word', ...Object.keys(VIEW_OPENINGS), 'smoothed 3');
  const start = reader.place;
  const plain = reader.longest(measures);
  const open = readOpening(reader);
  if (open) {
    const inner = reader.longest(measures);
    const words = inner ? reader.place - start + inner.words : 0;
    if (inner && (!plain || words > plain.words)) {
      reader.place += inner.words;
      return { ...open, measure: inner.name };
    }
    if (!plain) return { ...open, measure: reader.name(measures, 'measure', OPENINGS) } as View;
  }
  reader.place = start;
  return { kind: 'plain', measure: reader.name(measures, 'measure', OPENINGS) };
}

function readOpening(
  reader: BriefParser,
): { kind: 'smoothed'; steps: number } | { kind: 'cumulative' | 'share' | 'rank' | 'change' } | null {
  const start = reader.place;
  for (const [phrase, kind] of Object.entries(VIEW_OPENINGS)) if (reader.quietly(phrase)) return { kind };
  if (reader.quietly('smoothed')) {
    const steps = reader.count();
    if (steps !== null) return { kind: 'smoothed', steps };
  }
  reader.place = start;
  return null;
}

function readClause(reader: BriefParser, vocabulary: Vocabulary, clauses: Clauses): void {
  reader.offer('clause', ...CLAUSES.filter((clause) => !isTaken(clauses, clause)));
  const opening = reader.next;
  const clause = CLAUSES.find((phrase) => reader.quietly(phrase));
  if (!clause) throw reader.misplaced(CLAUSES, 'the beginning of a clause');
  if (isTaken(clauses, clause)) {
    throw reader.problem(
      'clause-twice',
      `the clause “${clause}” stands twice`,
      opening!.from,
      opening!.to,
      'keep one of them',
    );
  }
  switch (clause) {
    case 'by':
      clauses.by = readFields(reader, vocabulary);
      return;
    case 'each':
      clauses.grain = grain(reader, GRAINS, 'a grain of time');
      return;
    case 'during':
      clauses.period = readPeriod(reader);
      return;
    case 'against':
      clauses.against = reader.name(vocabulary.benchmarks, 'benchmark', OPENINGS);
      return;
    case 'as':
      clauses.form = reader.name(forms(), 'form', OPENINGS) as Form;
      return;
    case 'keep':
      clauses.keep = readSelection(reader);
      return;
    case 'sorted by':
      clauses.sort = readSorting(reader);
      return;
    case 'only':
      clauses.only = readConditions(reader, vocabulary);
      return;
    case 'lit by':
      clauses.lit = reader.name(vocabulary.highlights, 'highlight', OPENINGS);
      return;
    case 'on':
      clauses.ruler = reader.name(vocabulary.rulers, 'ruler', OPENINGS);
      return;
  }
}

/** Takes the name of a field, or another name that it has. */
function readField(reader: BriefParser, known: readonly string[], { aliases }: Vocabulary): string {
  if (aliases && reader.longest(known) === null) {
    const alias = reader.longest([...aliases.keys()]);
    const name = alias && aliases.get(alias.name);
    if (alias && name !== null && known.includes(name!)) {
      reader.place += alias.words;
      return name!;
    }
  }
  return reader.name(known, 'field', OPENINGS);
}

function readFields(reader: BriefParser, vocabulary: Vocabulary): string[] {
  const { fields, aliases } = vocabulary;
  const known = aliases ? [...fields, ...aliases.keys()] : fields;
  const by = [readField(reader, fields, vocabulary)];
  for (;;) {
    const before = reader.place;
    if (!reader.comma() && !reader.quietly('and')) return by;
    if (CLAUSES.some((clause) => startsWith(reader, clause)) || reader.longest(known) === null) {
      reader.place = before;
      return by;
    }
    const from = reader.position;
    const field = readField(reader, fields, vocabulary);
    if (by.includes(field))
      throw reader.problem(
        'field-twice',
        `the field “${field}” stands twice`,
        from,
        reader.tokens[reader.place - 1]!.to,
        'keep one of them',
      );
    by.push(field);
  }
}

function readSelection(reader: BriefParser): Selection {
  const count = reader.count();
  if (count === null) throw reader.misplaced(['5 highest'], 'how many to keep');
  const order = reader.oneOf(SELECTIONS);
  if (order === null) throw reader.misplaced(SELECTIONS, 'which to keep');
  return { count, order, rest: reader.phrase('and the rest') };
}

function readSorting(reader: BriefParser): Sorting {
  const key = reader.oneOf(SORT_KEYS);
  if (key === null) throw reader.misplaced(SORT_KEYS, 'what to sort by');
  const direction = reader.oneOf(['up', 'down'] as const);
  return { key, direction: direction ?? (key === 'name' || key === 'given order' ? 'up' : 'down') };
}

function readConditions(reader: BriefParser, vocabulary: Vocabulary): Condition[] {
  const conditions: Condition[] = [];
  do {
    conditions.push(readCondition(reader, vocabulary));
  } while (reader.phrase('and'));
  return conditions;
}

function readCondition(reader: BriefParser, vocabulary: Vocabulary): Condition {
  const known = [...new Set([...vocabulary.fields, ...(vocabulary.numbers ?? [])])];
  const field = readField(reader, known, vocabulary);
  for (const kind of ['at least', 'below'] as const) {
    if (!reader.phrase(kind)) continue;
    const value = reader.number();
    if (value === null) throw reader.misplaced(['100'], 'a number');
    return { kind, field, value };
  }
  if (!reader.phrase('is')) throw reader.misplaced(['is', 'is not', 'at least', 'below'], 'what follows a field');
  const kind = reader.phrase('not') ? 'is not' : 'is';
  const members = [readMember(reader, vocabulary, field)];
  while (reader.phrase('or')) members.push(readMember(reader, vocabulary, field));
  return { kind, field, members };
}

/** A member of a field. Where members are not known, words up to the next clause are one. */
function readMember(reader: BriefParser, vocabulary: Vocabulary, field: string): string | null {
  const known = vocabulary.members(field);
  // A member that is called “blank” stands in quotes.
  if ((known === null || (reader.longest(known)?.words ?? 0) < 2) && reader.phrase('blank')) return null;
  if (known) return reader.name(known, 'member', OPENINGS);
  const token = reader.next;
  if (!token || token.kind === 'comma') throw reader.misplaced(['a member'], 'a member');
  if (token.kind === 'quoted') {
    reader.place++;
    return token.text;
  }
  const words: string[] = [];
  while (reader.next?.kind === 'word' && !(OPENINGS as readonly string[]).includes(reader.next.text.toLowerCase())) {
    words.push(reader.next.text);
    reader.place++;
  }
  if (words.length === 0) throw reader.misplaced(['a member'], 'a member');
  return words.join(' ');
}
