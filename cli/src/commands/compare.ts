import { compareReports } from '@bold-ruler/core/comparison';
import { Problem } from '@bold-ruler/core/problem';
import { comparisonText } from '../comparisonText';
import { openReport } from '../files';
import { say } from '../say';
import { json } from './common';

interface Options {
  readonly table: readonly string[];
  readonly set: readonly string[];
  readonly allow: readonly string[];
  readonly json?: true;
}

/** Two reports, or one over its own files and over others. */
export async function compare(old: string, now: string | undefined, { table, set, allow, ...options }: Options) {
  if (now === undefined && table.length === 0)
    throw new Problem(
      'usage',
      'there is nothing to compare with',
      undefined,
      'name a second report, or give newer files with --table NAME=FILE',
    );
  const was = await openReport(old, set, allow);
  const is = await openReport(now ?? old, set, allow, table);
  const found = await compareReports(was, is);
  if (options.json) json(found);
  else say(comparisonText(found));
}
