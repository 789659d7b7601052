import type { Condition } from '../brief';
import type { Aggregate } from '../measure';
import { power } from '../number';
import type { Groups, Query } from '../query';

/** Above this many groups a roll-up is hardly smaller than the rows it stands for. */
const MOST_GROUPS = 1 << 17;

type MemberCondition = Extract<Condition, { readonly members: readonly unknown[] }>;
const byMember = (condition: Condition): condition is MemberCondition => 'members' in condition;

/**
 * A query of which many others are parts: the same groups, split further by the fields that conditions name, so that other
 * members of those fields are answered without reading rows again. Exact sums only, so that both ways give one result.
 */
export interface Rollup {
  readonly query: Query;
  /** Takes the asked query from the answer to `query`; null where it cannot be, as sums are not exact or groups too many. */
  answer(rolled: Groups): Groups | null;
}

/** The roll-up of a query with conditions on members; null where it has none, or aggregates that cannot be put together from parts. */
export function rollupOf(query: Query): Rollup | null {
  const conditions = query.where.filter(byMember);
  if (conditions.length === 0) return null;
  const parts = query.aggregates.map(partsOf);
  if (parts.some((part) => part === null)) return null;
  const extra = [...new Set(conditions.map(({ field }) => field))].filter((field) => !query.by.includes(field));
  const by = [...query.by, ...extra];
  return {
    query: {
      ...query,
      by,
      aggregates: (parts as Aggregate[][]).flat(),
      where: query.where.filter((condition) => !byMember(condition)),
    },
    answer: (rolled) => (rolled.count > MOST_GROUPS ? null : fold(query, conditions, by, rolled)),
  };
}

/** The aggregates of parts from which one of the whole follows; an average is a sum and a count. */
function partsOf(aggregate: Aggregate): Aggregate[] | null {
  if (aggregate.distinct) return null;
  switch (aggregate.fn) {
    case 'sum':
    case 'count':
    case 'min':
    case 'max':
      return [aggregate];
    case 'avg':
      return [
        { ...aggregate, fn: 'sum' },
        { ...aggregate, fn: 'count' },
      ];
    default:
      return null;
  }
}

function fold(
  query: Query,
  conditions: readonly MemberCondition[],
  by: readonly string[],
  rolled: Groups,
): Groups | null {
  const summed = query.aggregates.flatMap(({ fn }) => (fn === 'avg' ? ['sum', 'count'] : [fn]));
  // Sums in another order would differ in their last digit.
  if (summed.some((fn, i) => fn === 'sum' && rolled.values[i]!.decimals === null)) return null;

  const marks = conditions.map(({ field, kind, members }) => {
    const { members: names, codes } = rolled.fields[by.indexOf(field)]!;
    const named = new Set(members.map((member) => member ?? ''));
    return { codes, keep: Uint8Array.from(names, (name) => (named.has(name) === (kind === 'is') ? 1 : 0)) };
  });
  const own = query.by.map((_, f) => rolled.fields[f]!);
  const placeOf = new Map<number, number>();
  // Where each group of the answer first occurs; keys are in the order of codes and steps.
  const found: { key: number; at: number }[] = [];
  const into = new Int32Array(rolled.count).fill(-1);
  for (let g = 0; g < rolled.count; g++) {
    if (!marks.every(({ codes, keep }) => keep[codes[g]!] === 1)) continue;
    let key = 0;
    for (const { members, codes } of own) key = key * members.length + codes[g]!;
    // Days are far from overflowing 2²¹ on either side of 1970.
    if (rolled.steps) key = key * 4_194_304 + rolled.steps[g]! + 2_097_152;
    let place = placeOf.get(key);
    if (place === undefined) {
      placeOf.set(key, (place = found.length));
      found.push({ key, at: g });
    }
    into[g] = place;
  }
  const count = found.length;
  const order = found.map((_, place) => place).sort((a, b) => found[a]!.key - found[b]!.key);

  const gather = (part: Float64Array, how: string): Float64Array => {
    const sums = new Float64Array(count).fill(NaN);
    for (let g = 0; g < rolled.count; g++) {
      const place = into[g]!;
      const value = part[g]!;
      if (place < 0 || Number.isNaN(value)) continue;
      const before = sums[place]!;
      if (Number.isNaN(before)) sums[place] = value;
      else if (how === 'min') sums[place] = Math.min(before, value);
      else if (how === 'max') sums[place] = Math.max(before, value);
      else sums[place] = before + value;
    }
    return Float64Array.from(order, (place) => sums[place]!);
  };
  let at = 0;
  const values = query.aggregates.map(({ fn }) => {
    const { of, decimals } = rolled.values[at]!;
    if (fn !== 'avg') return ((at += 1), { of: gather(of, fn), decimals });
    const sums = gather(of, 'sum');
    const counts = gather(rolled.values[at + 1]!.of, 'sum');
    at += 2;
    const scale = power(decimals ?? 0);
    return { of: sums.map((sum, i) => sum / counts[i]! / scale), decimals: null };
  });
  return {
    count,
    fields: own.map(({ members, codes }) => ({
      members,
      codes: Int32Array.from(order, (place) => codes[found[place]!.at]!),
    })),
    steps: rolled.steps && Int32Array.from(order, (place) => rolled.steps![found[place]!.at]!),
    rows: gather(rolled.rows, 'sum'),
    values,
    undated: rolled.undated,
  };
}
