import { encodeRow, INK, QUIET } from '../../highlight';
import type { Cells } from '../../query';
import type { Mark, Paint } from '../../scene';
import type { FigureRequest } from '../form';
import { barPaint, lineMark, rectMark } from '../shapes';
import type { Belonging } from '../shapes';
import { beyondMark, type Axes } from './parts';

/** Where a row of a figure lies. */
export interface RowPlace {
  readonly axes: Axes;
  readonly row: number;
  readonly of: Belonging;
  /** Across the value axis, in pixels. */
  readonly centre: number;
  readonly thickness: number;
}

/** The bar from zero to a row's actual, with a sign where it goes on beyond the ruler. */
export function actualBar(marks: Mark[], { cells, highlight }: FigureRequest, place: RowPlace): void {
  const { axes, row, of, centre, thickness } = place;
  const actual = cells.actual[row]!;
  if (Number.isNaN(actual)) return;
  landingGhost(marks, cells, place);
  const encoding = encodeRow(highlight, cells, row);
  const role = cells.isRest[row] ? 'rest' : 'actual';
  const box = axes.rect(axes.zero, actual, centre, thickness);
  marks.push(rectMark(role, of, box, actual, barPaint(encoding), encoding.rule));
  const beyond = beyondMark(axes, of, actual, centre, thickness, encoding.ink);
  if (beyond) marks.push(beyond);
}

/** How what is still to come is painted. */
export const GHOST: Paint = { fill: QUIET, pattern: 'hatch', stroke: QUIET, strokeWidth: 1 };

/** From where a row is to where it will land. */
function landingGhost(marks: Mark[], cells: Cells, { axes, row, of, centre, thickness }: RowPlace): void {
  const landing = cells.landing?.[row] ?? NaN;
  if (Number.isNaN(landing)) return;
  marks.push(rectMark('forecast', of, axes.rect(cells.actual[row]!, landing, centre, thickness), landing, GHOST));
}

const DUE_RULE: Paint = { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] };

/** A thin rule across a row at what is due by now. */
export function dueRule(marks: Mark[], { cells }: FigureRequest, place: RowPlace): void {
  const { axes, row, of, centre, thickness } = place;
  const due = cells.due?.[row] ?? NaN;
  if (axes.shows(due)) marks.push(lineMark('due', of, axes.across(due, centre, thickness), due, DUE_RULE));
}
