import { edited, usageOf, type Edit, type Edited, type Usage } from '../edit';
import {
  decisionsOf,
  levelChecks,
  type About,
  type Decision,
  type Finding,
  type FoundIn,
  graver,
  type Repair,
} from '../level';
import type { Named } from '../report';
import type { OpenReport } from '../workspace';
import { asksOf } from './asks';

/** A decision as it is shown: `repair` is what putting it right is called, and in how many of its places that can be done. */
export interface DecisionShown extends Omit<Decision, 'places'> {
  readonly about: readonly About[];
  readonly repair: { readonly name: string; readonly places: number } | null;
}

/** Everything that somebody has to decide, the gravest first: what could mislead a reader, and what files leave open. */
export async function findingsIn(desk: OpenReport): Promise<Finding[]> {
  return [...(await levelChecks(desk)), ...(await asksOf(desk))].sort(graver);
}

/** Questions about what is wrong, and what an edit would do. */
export const checks = {
  /** Everything that is to be decided, each fact once. */
  async check(desk: OpenReport): Promise<DecisionShown[]> {
    return decisionsOf(await findingsIn(desk)).map(({ places, ...one }) => ({
      ...one,
      about: places.map(({ about }) => about),
      repair: repairShown(places),
    }));
  },

  /** What puts a fact right in all its places, in the report as it is; null where nothing does, or it is not found any more. */
  async repair(
    desk: OpenReport,
    { code, fact, table }: Pick<DecisionShown, 'code' | 'fact' | 'table'>,
  ): Promise<Edit | null> {
    const open = (await levelChecks(desk)).filter((one) => one.accepted === null);
    const found = decisionsOf(open).find((one) => one.code === code && one.fact === fact && one.table === table);
    const repairs = repairsOf(found?.places ?? []);
    if (repairs.length === 0) return null;
    const saying = `${repairs[0]!.name.charAt(0).toLowerCase()}${repairs[0]!.name.slice(1)}`;
    if (repairs.length === 1) return { ...repairs[0]!.edit, saying };
    return { edit: 'several', edits: repairs.map(({ edit }) => edit), saying };
  },

  /** What an edit makes of the report; for those that have to know names. */
  edited(desk: OpenReport, edit: Edit): Edited {
    return edited(desk.report, edit, { vocabulary: desk.vocabulary, facts: desk.source.facts });
  },

  async usage(desk: OpenReport, kind: Named, name: string): Promise<Usage> {
    return usageOf(desk.report, desk.vocabulary, kind, name);
  },
};

/** What puts right the places in which a fact is found, where one name says it all. What is the same for several is done once. */
function repairsOf(places: readonly FoundIn[]): Repair[] {
  const repairs = places.flatMap(({ repair }) => repair ?? []);
  if (new Set(repairs.map(({ name }) => name)).size > 1) return [];
  return [...new Map(repairs.map((one) => [JSON.stringify(one.edit), one])).values()];
}

function repairShown(places: readonly FoundIn[]): DecisionShown['repair'] {
  const [first] = repairsOf(places);
  return first ? { name: first.name, places: places.filter(({ repair }) => repair !== null).length } : null;
}
