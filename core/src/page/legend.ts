import type { Drawn, LegendEntry } from '../figure';
import { isProblem } from '../problem';
import type { Page } from '../report';
import type { Placed } from './drawPage';
import { SHEET } from './layout';

const NONE_SHARED: ReadonlySet<string> = new Set();

/** What the figures of a page shared when it was drawn before: they are drawn once where that is still so. */
const SHARED_BEFORE = new WeakMap<Page, ReadonlySet<string>>();

/** What is shared as it was when the page was drawn last. */
export const expectedLegend = (page: Page): ReadonlySet<string> => SHARED_BEFORE.get(page) ?? NONE_SHARED;

/**
 * Keys of the entries that legends of several figures have: they stand once at the page's foot. Beneath one another on a narrow page each
 * figure keeps its own, as the foot is far away. The expected set itself where it holds the same keys.
 */
export async function sharedLegend(
  page: Page,
  width: number,
  answered: (id: string) => Promise<Drawn>,
): Promise<ReadonlySet<string>> {
  const expected = expectedLegend(page);
  const counts = new Map<string, number>();
  for (const row of width < SHEET.narrow ? [] : page.rows)
    for (const block of 'blocks' in row ? row.blocks : []) {
      if (!('figure' in block)) continue;
      const drawn = await answered(block.figure).catch((error: unknown) => {
        if (!isProblem(error)) throw error;
        return null;
      });
      for (const key of drawn?.legend.keys() ?? []) counts.set(key, (counts.get(key) ?? 0) + 1);
    }
  const keys = [...counts].flatMap(([key, count]) => (count > 1 ? [key] : []));
  const isAsBefore = keys.length === expected.size && keys.every((key) => expected.has(key));
  const shared = isAsBefore ? expected : new Set(keys);
  SHARED_BEFORE.set(page, shared);
  return shared;
}

/** What stands at the foot: what several figures share, and what a small one has no room for. */
export function legendOf(placed: readonly Placed[], shared: ReadonlySet<string>): LegendEntry[] {
  const entries = new Map<string, LegendEntry>();
  for (const { drawn } of placed)
    for (const [key, { entry, isTold }] of drawn?.legend ?? [])
      if (!entries.has(key) && (shared.has(key) || !isTold)) entries.set(key, entry);
  return [...entries.values()];
}
