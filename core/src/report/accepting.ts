import type { Accepted, Report } from './report';

/** The report in which a finding of the level checks is let stand for a reason; without a reason it is one again. */
export function accepting(report: Report, of: Omit<Accepted, 'reason'>, reason: string | null): Report {
  const { accepted = [], ...rest } = report;
  const others = accepted.filter(
    ({ code, about, id, fact }) => code !== of.code || about !== of.about || id !== of.id || fact !== of.fact,
  );
  const next: readonly Accepted[] = reason === null ? others : [...others, { ...of, reason }];
  return next.length === 0 ? rest : { ...rest, accepted: next };
}
