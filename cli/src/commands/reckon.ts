import { drawFigure } from '@bold-ruler/core/figure';
import { Problem } from '@bold-ruler/core/problem';
import { reckon as reckoningOf, rowsCsv, WHOLE } from '@bold-ruler/core/reckoning';
import { reckonText, rowAt } from '../reckonText';
import { say, sayRows } from '../say';
import { figureFor, json, type Common } from './common';

export interface ReckonCommand extends Common {
  readonly at: string[];
  readonly step?: string;
  readonly whole?: true;
  readonly json?: true;
  readonly rows?: true;
}

export async function reckon(first: string, second: string | undefined, options: ReckonCommand) {
  const { workspace, figure } = await figureFor(first, second, options);
  const drawn = await drawFigure(workspace, figure);
  const row = options.whole ? WHOLE : rowAt(drawn, options.at, options.step);
  const reckoning = await reckoningOf(workspace, drawn, row);
  if (options.rows) {
    if (!reckoning.behind)
      throw new Problem('no-rows', 'this row stands for several members', undefined, 'ask for one of them');
    sayRows(rowsCsv(await workspace.source.rows(reckoning.behind, { from: 0, count: Infinity })));
  } else if (options.json) json(reckoning);
  else say(reckonText(reckoning));
}
