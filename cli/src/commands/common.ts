import { readBrief } from '@bold-ruler/core/brief';
import { figureNamed } from '@bold-ruler/core/figure';
import { Problem } from '@bold-ruler/core/problem';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { OpenReport } from '@bold-ruler/core/workspace';
import { openData, openReport } from '../files';
import { sayRows } from '../say';

/** Where a command's report and data come from. */
export interface Common {
  readonly data?: string;
  readonly table: readonly string[];
  readonly set: readonly string[];
  readonly allow: readonly string[];
}

export const json = (value: unknown) => sayRows(`${JSON.stringify(value, null, 2)}\n`);

/** The workspace and the figure that a command names: a report and a figure's id, or with --data a brief. */
export async function figureFor(
  first: string,
  second: string | undefined,
  options: Common,
): Promise<{ workspace: OpenReport; figure: FigureEntry }> {
  if (options.data !== undefined) {
    if (second !== undefined)
      throw new Problem('usage', 'with --data there is one more word, the brief', undefined, 'put the brief in quotes');
    const workspace = await openData(options.data, options.table, options.set);
    readBrief(first, workspace.vocabulary);
    return { workspace, figure: { id: 'brief', brief: first, look: {} } };
  }
  if (second === undefined)
    throw new Problem(
      'usage',
      'the figure’s id is missing',
      undefined,
      'write REPORT FIGURE_ID, or --data FILE "BRIEF"',
    );
  if (options.table.length > 0)
    throw new Problem('usage', '--table goes with --data', undefined, 'a report names its own tables');
  const workspace = await openReport(first, options.set, options.allow);
  return { workspace, figure: figureNamed(workspace.report, second) };
}
