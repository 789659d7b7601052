import { writePeriod } from '../calendar';
import type { Brief, Condition, Vocabulary } from './brief';
import { inQuotes, isPlainName } from './quoting';
import { readBrief } from './read';
import { writeView } from './writeView';

/**
 * The brief as a canonical sentence. Names stand bare where the vocabulary reads them back as they are, else in double
 * quotes; so `readBrief(writeBrief(brief), vocabulary)` is the same brief, whatever its names.
 */
export function writeBrief(brief: Brief, vocabulary: Vocabulary): string {
  const bare = sentence(brief, (name) => name);
  if (readsBack(bare, brief, vocabulary)) return bare;
  const plain = sentence(brief, (name) => (isPlainName(name) ? name : inQuotes(name)));
  return readsBack(plain, brief, vocabulary) ? plain : sentence(brief, inQuotes);
}

function readsBack(text: string, brief: Brief, vocabulary: Vocabulary): boolean {
  try {
    return JSON.stringify(readBrief(text, vocabulary)) === JSON.stringify(brief);
  } catch {
    return false;
  }
}

/** The parts of the sentence that are written in order, each once. */
export interface BriefParts {
  readonly views: string;
  readonly by: string | null;
  readonly each: string | null;
  readonly during: string | null;
  readonly against: string | null;
  readonly as: string | null;
  readonly keep: string | null;
  readonly sorted: string | null;
  readonly only: string | null;
  readonly lit: string | null;
  readonly on: string | null;
}

/** The clauses of a brief in words, without their openings; null where a clause is left out. */
export function partsOfBrief(brief: Brief, quote: (name: string) => string = (name) => name): BriefParts {
  const { keep, sort } = brief;
  return {
    views: brief.views.map((view) => writeView(view, quote)).join(', '),
    by: brief.by.length > 0 ? brief.by.map(quote).join(', ') : null,
    each: brief.grain,
    during: brief.period.kind === 'all time' ? null : writePeriod(brief.period),
    against: brief.against === null ? null : quote(brief.against),
    as: brief.form,
    keep: keep && `${keep.count} ${keep.order}${keep.rest ? ' and the rest' : ''}`,
    sorted: sort && `${sort.key} ${sort.direction}`,
    only: brief.only.length > 0 ? brief.only.map((condition) => writeCondition(condition, quote)).join(' and ') : null,
    lit: brief.lit === null ? null : quote(brief.lit),
    on: brief.ruler === null ? null : quote(brief.ruler),
  };
}

function sentence(brief: Brief, quote: (name: string) => string): string {
  const parts = partsOfBrief(brief, quote);
  const main = [
    parts.views,
    parts.by && `by ${parts.by}`,
    parts.each && `each ${parts.each}`,
    parts.during && `during ${parts.during}`,
    parts.against && `against ${parts.against}`,
    parts.as && `as ${parts.as}`,
  ];
  const rest = [
    parts.keep && `keep ${parts.keep}`,
    parts.sorted && `sorted by ${parts.sorted}`,
    parts.only && `only ${parts.only}`,
    parts.lit && `lit by ${parts.lit}`,
    parts.on && `on ${parts.on}`,
  ];
  return [main.filter(Boolean).join(' '), ...rest.filter(Boolean)].join(', ');
}

function writeCondition(condition: Condition, quote: (name: string) => string): string {
  const field = quote(condition.field);
  switch (condition.kind) {
    case 'is':
    case 'is not':
      return `${field} ${condition.kind} ${condition.members.map((member) => (member === null ? 'blank' : quote(member))).join(' or ')}`;
    case 'at least':
    case 'below':
      return `${field} ${condition.kind} ${condition.value}`;
  }
}
