import { edited, usageOf, type Edit, type Edited, type Usage } from '../edit';
import { levelChecks, type Finding } from '../level';
import type { Named } from '../report';
import type { OpenReport } from '../workspace';

/** A finding of the level checks; `repair` is what putting it right is called. */
export interface FindingShown extends Omit<Finding, 'repair'> {
  readonly repair: string | null;
}

/** Questions about what is wrong, and what an edit would do. */
export const checks = {
  /** Everything in the report that could mislead its reader. */
  async check(desk: OpenReport): Promise<FindingShown[]> {
    const findings = await levelChecks(desk);
    return findings.map(({ repair, ...finding }) => ({ ...finding, repair: repair?.name ?? null }));
  },

  /** What puts a finding right in the report as it is; null where nothing does, or it is not found any more. */
  async repair(desk: OpenReport, { code, about, text }: FindingShown): Promise<Edit | null> {
    const finding = (await levelChecks(desk)).find(
      (one) => one.code === code && one.about.kind === about.kind && one.about.id === about.id && one.text === text,
    );
    if (!finding?.repair) return null;
    const { name, edit } = finding.repair;
    return { ...edit, saying: name.charAt(0).toLowerCase() + name.slice(1) };
  },

  /** What an edit makes of the report; for those that have to know names. */
  edited(desk: OpenReport, edit: Edit): Edited {
    return edited(desk.report, edit, { vocabulary: desk.vocabulary, facts: desk.source.facts });
  },

  async usage(desk: OpenReport, kind: Named, name: string): Promise<Usage> {
    return usageOf(desk.report, desk.vocabulary, kind, name);
  },
};
