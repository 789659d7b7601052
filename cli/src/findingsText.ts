import { decisionsOf, type Finding } from '@bold-ruler/core/level';
import { listed } from '@bold-ruler/core/problem';

/** Findings for people: each fact once, with where it is found, and why it matters beneath. */
export function findingsText(findings: readonly Finding[]): string {
  if (findings.length === 0) return 'Nothing to find fault with.\n';
  return decisionsOf(findings)
    .map(({ severity, places, text, why, code, accepted }) => {
      const [{ about }] = places as [(typeof places)[0]];
      const kind = places.length === 1 ? about.kind : `${about.kind}s`;
      const where = listed(
        places.map((one) => one.about.id),
        'and',
      );
      const head = `${severity}  ${kind} ${where}: ${text}  [${code}]`;
      return accepted === null ? `${head}\n    ${why}\n` : `${head}\n    accepted: ${accepted}\n`;
    })
    .join('');
}
