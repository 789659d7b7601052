import { edited, usageOf, type Edit, type Edited, type Usage } from '../edit';
import { decisionsOf, levelChecks, type About, type Decision, type Finding, type FoundIn, type Repair } from '../level';
import type { Named } from '../report';
import type { OpenReport } from '../workspace';
import { asksOf } from './asks';

/** A decision as it is shown: `repair` is what putting it right in every place is called. */
export interface DecisionShown extends Omit<Decision, 'places'> {
  readonly about: readonly About[];
  readonly repair: string | null;
}

/** Everything that somebody has to decide: what could mislead a reader, and what files leave open. */
export async function findingsIn(desk: OpenReport): Promise<Finding[]> {
  return [...(await levelChecks(desk)), ...(await asksOf(desk))];
}

/** Questions about what is wrong, and what an edit would do. */
export const checks = {
  /** Everything that is to be decided, each fact once. */
  async check(desk: OpenReport): Promise<DecisionShown[]> {
    return decisionsOf(await findingsIn(desk)).map(({ places, ...one }) => ({
      ...one,
      about: places.map(({ about }) => about),
      repair: repairsOf(places)[0]?.name ?? null,
    }));
  },

  /** What puts a fact right in all its places, in the report as it is; null where nothing does, or it is not found any more. */
  async repair(desk: OpenReport, { code, fact }: Pick<DecisionShown, 'code' | 'fact'>): Promise<Edit | null> {
    const open = (await levelChecks(desk)).filter((one) => one.accepted === null);
    const found = decisionsOf(open).find((one) => one.code === code && one.fact === fact);
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

/** What puts right all places in which a fact is found; nothing where one of them has none of the same name. What is the same for several is done once. */
function repairsOf(places: readonly FoundIn[]): Repair[] {
  const repairs = places.flatMap(({ repair }) => repair ?? []);
  if (repairs.length < places.length || new Set(repairs.map(({ name }) => name)).size > 1) return [];
  return [...new Map(repairs.map((one) => [JSON.stringify(one.edit), one])).values()];
}
