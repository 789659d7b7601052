import { drawFigure } from '../figure';
import { isProblem } from '../problem';
import type { Workspace } from '../query';
import type { Report } from '../report';
import type { Finding, Said, Seen } from './level';
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
  return said.flatMap(({ code, why, all }) => all.map((one) => finding(report, code, why, one))).sort(graver);
}

/** What a check says of one thing, with who lets it stand: for this place, or for every place of the same fact. */
export function finding(report: Report, code: string, why: string, said: Said): Finding {
  const { about, text, fact = text } = said;
  const by = report.accepted?.find(
    (one) =>
      one.code === code &&
      (one.about === 'report'
        ? one.id === fact
        : one.about === about.kind && one.id === about.id && (one.fact ?? fact) === fact),
  );
  return {
    repair: null,
    amount: null,
    lines: null,
    table: about.kind === 'table' ? about.id : null,
    view: null,
    ...said,
    fact,
    code,
    why,
    accepted: by?.reason ?? null,
    acceptedBy: by ? { code, about: by.about, id: by.id, ...(by.fact === undefined ? {} : { fact: by.fact }) } : null,
  };
}

const rank = ({ severity, accepted }: Finding) => (accepted === null ? RANK[severity] : RANK.note + 1);

/** The gravest first, what is let stand last. */
export const graver = (a: Finding, b: Finding) => rank(a) - rank(b);
