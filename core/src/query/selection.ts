import type { Selection, Sorting } from '../brief';
import type { Aim } from '../report';
import { compareNames } from '../table';

/** What selecting and sorting look at: one entry a member, with its numbers over the whole period. Blank is NaN. */
export interface Candidate {
  /** Place in the natural order of members. */
  readonly place: number;
  readonly name: string;
  readonly actual: number;
  readonly benchmark: number;
  /** To what is due by now while the period runs, else to the benchmark. */
  readonly gap: number;
  readonly gapPercent: number;
}

/** Numbers by which a selection ranks: the greatest are kept. */
function merit(order: Selection['order'], { actual, gap }: Candidate, aim: Aim): number {
  switch (order) {
    case 'highest':
      return actual;
    case 'lowest':
      return -actual;
    case 'largest either sign':
      return Math.abs(actual);
    case 'widest gaps':
      return Math.abs(gap);
    case 'furthest ahead':
      return toward(gap, aim);
    case 'furthest behind':
      return -toward(gap, aim);
  }
}

/** A gap as progress under the aim: more is better. */
function toward(gap: number, aim: Aim): number {
  return aim === 'raise' ? gap : aim === 'cut' ? -gap : -Math.abs(gap);
}

/**
 * The kept members, and whether a tie was cut at the edge. Ties are broken by name; blanks are never kept; with fewer
 * members than asked there are as many as there are. `largest either sign` comes in signed order, everything else best first.
 */
export function select<C extends Candidate>(
  candidates: readonly C[],
  { count, order }: Selection,
  aim: Aim,
): { kept: C[]; tieCut: boolean } {
  const ranked = candidates
    .map((candidate) => ({ candidate, merit: merit(order, candidate, aim) }))
    .filter((item) => Number.isFinite(item.merit))
    .sort((a, b) => b.merit - a.merit || compareNames(a.candidate.name, b.candidate.name));
  const kept = ranked.slice(0, count).map(({ candidate }) => candidate);
  const tieCut = ranked.length > count && ranked[count - 1]!.merit === ranked[count]!.merit;
  if (order === 'largest either sign') kept.sort((a, b) => b.actual - a.actual || compareNames(a.name, b.name));
  return { kept, tieCut };
}

/** Members in the order a brief asks for; blanks come last either way. */
export function sort<C extends Candidate>(candidates: readonly C[], { key, direction }: Sorting): C[] {
  const sign = direction === 'up' ? 1 : -1;
  const value = (c: C): number => {
    switch (key) {
      case 'value':
        return c.actual;
      case 'benchmark':
        return c.benchmark;
      case 'gap':
        return c.gap;
      case 'gap percent':
        return c.gapPercent;
      case 'name':
      case 'given order':
        return c.place;
    }
  };
  return [...candidates].sort((a, b) => {
    if (key === 'name') return sign * compareNames(a.name, b.name);
    const [x, y] = [value(a), value(b)];
    if (!Number.isFinite(x) || !Number.isFinite(y))
      return Number(!Number.isFinite(x)) - Number(!Number.isFinite(y)) || a.place - b.place;
    return sign * (x - y) || a.place - b.place;
  });
}
