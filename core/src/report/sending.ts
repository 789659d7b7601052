import type { Report } from './report';

/** A list as it has become: places of items that were there already, and the new ones as they are. */
type ListNow = readonly (number | readonly [unknown])[];

/** What has changed from one report to another, as plain data. */
export interface ReportChanges {
  /** Parts that are there now and are others than before. */
  readonly parts: Readonly<Record<string, unknown>>;
  /** Lists of which most items are those of before. */
  readonly lists: Readonly<Record<string, ListNow>>;
  readonly gone: readonly string[];
}

type Parts = Readonly<Record<string, unknown>>;

/**
 * What has to be sent to someone who has the report before. Parts that are the very same object have not changed, so reports that
 * share what an edit left alone differ in little.
 */
export function changesBetween(before: Report, now: Report): ReportChanges {
  const [old, fresh] = [before, now] as unknown as [Parts, Parts];
  const parts: Record<string, unknown> = {};
  const lists: Record<string, ListNow> = {};
  for (const [name, part] of Object.entries(fresh)) {
    const known = old[name];
    if (known === part) continue;
    if (!Array.isArray(part) || !Array.isArray(known)) {
      parts[name] = part;
      continue;
    }
    const places = new Map(known.map((item: unknown, at) => [item, at]));
    lists[name] = part.map((item: unknown) => places.get(item) ?? ([item] as const));
  }
  return { parts, lists, gone: Object.keys(old).filter((name) => !Object.hasOwn(fresh, name)) };
}

/** The report that the changes lead to. What has not changed is the very same object. */
export function withChanges(before: Report, { parts, lists, gone }: ReportChanges): Report {
  const now: Record<string, unknown> = { ...before, ...parts };
  for (const [name, list] of Object.entries(lists)) {
    const known = (before as unknown as Record<string, readonly unknown[]>)[name]!;
    now[name] = list.map((item) => (typeof item === 'number' ? known[item] : item[0]));
  }
  for (const name of gone) delete now[name];
  return now as unknown as Report;
}
