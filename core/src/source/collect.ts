import type { Groups, Query } from '../query';
import type { Accumulator } from './accumulator';
import type { Placements } from './placement';

/** What tells the value of a group, by its place, that has rows. */
export type Gathered = Pick<Accumulator, 'result' | 'decimals'>;

/**
 * The groups that have rows, in order of their codes and steps.
 * @param keys of the places, where groups were found by hashing; null where the place itself is the key
 * @param size how many places there are
 */
export function collect(
  query: Query,
  places: Placements,
  keys: readonly number[] | null,
  size: number,
  rowsIn: (place: number) => number,
  gathered: readonly Gathered[],
  undated: number,
): Groups {
  const order: number[] = [];
  for (let place = 0; place < size; place++) if (keys || rowsIn(place) > 0) order.push(place);
  if (keys) order.sort((a, b) => keys[a]! - keys[b]!);
  const keyed = keys ? order.map((place) => keys[place]!) : order;
  const count = order.length;
  const rows = new Float64Array(count);
  for (let i = 0; i < count; i++) rows[i] = rowsIn(order[i]!);
  return {
    count,
    fields: query.by.map((_, f) => ({ members: places.members[f]!, codes: integers(keyed, places.codeOf(f)) })),
    steps: query.grain && integers(keyed, places.stepIn),
    rows,
    values: gathered.map(({ result, decimals }) => {
      const of = new Float64Array(count);
      for (let i = 0; i < count; i++) of[i] = result(order[i]!, rows[i]!);
      return { of, decimals };
    }),
    undated,
  };
}

function integers(keys: readonly number[], of: (key: number) => number): Int32Array {
  const all = new Int32Array(keys.length);
  for (let i = 0; i < all.length; i++) all[i] = of(keys[i]!);
  return all;
}
