import type { Cells } from '../../query';
import type { Look } from '../../report';
import { bandsOf, type ResolvedBands } from '../bullet/bands';

/** The bands behind a trend: those its look asks for. */
export function trendBands(cells: Cells, look: Look): ResolvedBands | null {
  return look.bands === undefined ? null : bandsOf(cells, look);
}
