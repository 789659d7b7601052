import { formOf } from '../brief';
import { numbersWith, type Cells, type Numbers } from '../query';
import { formDefinition } from './registry';

/** The numbers behind a figure, with what its form adds to them. */
export function numbersOf(cells: Cells): Numbers {
  return numbersWith(cells, formDefinition(formOf(cells.brief)).numbers?.(cells));
}
