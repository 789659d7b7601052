import { drawFigure } from '../figure';
import { isProblem } from '../problem';
import type { Workspace } from '../query';
import type { Finding, Seen } from './level';
import { LEVEL_CHECKS } from './registry';

const RANK = { error: 0, warning: 1, note: 2 } as const;

/** Everything in a report that could mislead a reader, the gravest first, what is let stand last. Each figure is drawn once. */
export async function levelChecks(workspace: Workspace): Promise<Finding[]> {
  const { report, source, vocabulary } = workspace;
  const figures: Seen['figures'][number][] = [];
  for (const entry of report.figures) {
    try {
      figures.push({ entry, drawn: await drawFigure(workspace, entry) });
    } catch (error) {
      if (!isProblem(error)) throw error;
      figures.push({ entry, drawn: error });
    }
  }
  const seen: Seen = { report, source, vocabulary, figures };
  const said = await Promise.all(LEVEL_CHECKS.map(async (check) => ({ ...check, all: await check.run(seen) })));
  const found = said.flatMap(({ code, why, all }) =>
    all.map((said): Finding => {
      const { about } = said;
      const accepted = report.accepted?.find(
        (one) => one.code === code && one.about === about.kind && one.id === about.id,
      );
      return { repair: null, ...said, code, why, accepted: accepted?.reason ?? null };
    }),
  );
  const rank = ({ severity, accepted }: Finding) => (accepted === null ? RANK[severity] : RANK.note + 1);
  return found.sort((a, b) => rank(a) - rank(b));
}
