import type { OpenSource, TableFacts } from '../../query';
import type { LevelCheck } from '../level';

export const doubleTargets: LevelCheck = {
  code: 'double-targets',
  why: 'a target that stands there twice is added up twice',
  run: async ({ report, source }) => {
    const measured = new Set(report.measures.map(({ table }) => table));
    const targets = new Set(report.benchmarks.flatMap((one) => (one.kind === 'table' ? [one.table] : [])));
    const found = await Promise.all(
      [...targets].map(async (id) => {
        const facts = source.facts(id);
        // Rows that are added up to be held against, such as orders, come twice by nature; targets are one a member and period.
        const holdsTargets = facts !== undefined && !measured.has(id) && facts.grain !== 'day';
        return { id, double: holdsTargets ? await doublesIn(source, facts) : 0 };
      }),
    );
    return found.flatMap(({ id, double }) =>
      double === 0
        ? []
        : [
            {
              severity: 'warning' as const,
              about: { kind: 'table' as const, id },
              text: `${double} ${double === 1 ? 'row has' : 'rows have'} the same members and date as another in “${id}”`,
            },
          ],
    );
  },
};

/** Rows whose members and date have been there before. */
async function doublesIn(source: OpenSource, { id, members, date }: TableFacts): Promise<number> {
  const by = [...members.keys(), ...(date === null ? [] : [date])];
  if (by.length === 0) return 0;
  const { rows } = await source.groups({ table: id, aggregates: [], by, grain: null, span: null, where: [] });
  return rows.reduce((double, count) => double + count - 1, 0);
}
