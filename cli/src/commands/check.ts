import { findingsIn } from '@bold-ruler/core/desk';
import { Problem } from '@bold-ruler/core/problem';
import { openReport } from '../files';
import { findingsText } from '../findingsText';
import { say } from '../say';
import { json } from './common';

export async function check(reportFile: string, options: { json?: true; allow: string[] }) {
  const findings = await findingsIn(await openReport(reportFile, [], options.allow));
  if (options.json) json(findings.map(({ repair, ...finding }) => ({ ...finding, repair: repair?.name ?? null })));
  else say(findingsText(findings));
  const errors = findings.filter(({ severity, accepted }) => severity === 'error' && accepted === null).length;
  if (errors > 0)
    throw new Problem('check-failed', `${errors} ${errors === 1 ? 'finding is an error' : 'findings are errors'}`);
}
