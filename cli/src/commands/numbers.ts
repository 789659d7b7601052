import { answerFigure } from '@bold-ruler/core/figure';
import { numbersOf } from '@bold-ruler/core/figure';
import { numbersCsv } from '@bold-ruler/core/query';
import { sayRows } from '../say';
import { figureFor, json, type Common } from './common';

export async function numbers(first: string, second: string | undefined, options: Common & { csv?: true }) {
  const { workspace, figure } = await figureFor(first, second, options);
  const found = numbersOf(await answerFigure(workspace, figure));
  if (options.csv) sayRows(numbersCsv(found));
  else json(found);
}
