import type { Accepted } from '../report';
import type { Finding } from './level';

/** Where a fact is found. */
export type FoundIn = Pick<Finding, 'about' | 'repair'>;

/** A fact that somebody has to decide about: told once, with every place where it is found. */
export interface Decision extends Omit<Finding, 'about' | 'repair' | 'acceptedBy'> {
  readonly places: readonly FoundIn[];
  /** What lets it stand, where something does. */
  readonly acceptedBy: readonly Omit<Accepted, 'reason'>[];
}

/**
 * Findings as what there is to decide. What is wrong stands first; then what money hangs on, the most first; then the rest by its
 * severity; what is let stand last.
 */
export function decisionsOf(findings: readonly Finding[]): Decision[] {
  const grouped = new Map<string, Finding[]>();
  for (const one of findings) {
    // The same words about another table are another fact.
    const key = JSON.stringify([one.code, one.severity, one.fact, one.table, one.accepted]);
    const group = grouped.get(key);
    if (group) group.push(one);
    else grouped.set(key, [one]);
  }
  return [...grouped.values()].map(decision).sort((a, b) => place(a) - place(b) || shareOf(b) - shareOf(a));
}

function decision(group: readonly Finding[]): Decision {
  const [{ about: _, repair: __, acceptedBy: ___, ...fact }] = group as [Finding];
  const by = new Map(group.flatMap(({ acceptedBy }) => (acceptedBy ? [[JSON.stringify(acceptedBy), acceptedBy]] : [])));
  // Tables, measures and benchmarks may hold one fact twice, as two of their columns do.
  const places = new Map(group.map(({ about, repair }) => [`${about.kind} ${about.id}`, { about, repair }]));
  return { ...fact, places: [...places.values()], acceptedBy: [...by.values()] };
}

const shareOf = ({ amount }: Decision) => amount?.share ?? 0;

const place = ({ severity, accepted, amount }: Decision) =>
  accepted !== null ? 4 : severity === 'error' ? 0 : amount ? 1 : severity === 'warning' ? 2 : 3;
