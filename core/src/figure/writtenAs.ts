import type { Cells } from '../query';
import type { FigureFormat, Measure } from '../report';

/** An answer whose numbers are written as a figure says: its measure's, and what is held against it. Other measures keep their own writing. */
export function writtenAs<C extends Cells | null>(cells: C, format: FigureFormat | undefined): C {
  if (!cells || !format || Object.keys(format).length === 0) return cells;
  const { name, table } = cells.measure;
  const written = (measure: Measure): Measure =>
    measure.name === name && measure.table === table
      ? { ...measure, format: { ...measure.format, ...format } }
      : measure;
  return {
    ...cells,
    measure: written(cells.measure),
    values: cells.values.map((value) => ({ ...value, measure: written(value.measure) })),
  };
}
