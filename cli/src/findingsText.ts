import type { Finding } from '@bold-ruler/core/level';

/** Findings for people: one a line, with why it matters beneath. */
export function findingsText(findings: readonly Finding[]): string {
  if (findings.length === 0) return 'Nothing to find fault with.\n';
  return findings
    .map(({ severity, about, text, why, code, accepted }) => {
      const head = `${severity}  ${about.kind} ${about.id}: ${text}  [${code}]`;
      return accepted === null ? `${head}\n    ${why}\n` : `${head}\n    accepted: ${accepted}\n`;
    })
    .join('');
}
