import { rowKey } from '../figure';
import type { DrawnPage, Placed } from '../page';
import type { OpenSource } from '../query';
import { reckon } from '../reckoning';
import type { Report } from '../report';
import { keyText, type Mark } from '../scene';
import type { ToldCell } from './writeHtml';

/** A figure with more rows than this gives no workings away: a page is no archive. */
const MOST_ROWS = 40;

/** The workings behind the cells of a page's figures, ready to be asked for one by one. */
export async function workingsOf(
  source: OpenSource,
  report: Report,
  { placed }: DrawnPage,
): Promise<(placed: Placed, cell: Mark) => ToldCell | null> {
  const byFigure = new Map<Placed, Map<string, ToldCell>>();
  for (const one of placed) {
    const { drawn } = one;
    if (!drawn || drawn.rows.count > MOST_ROWS) continue;
    const told = new Map<string, ToldCell>();
    for (let row = 0; row < drawn.rows.count; row++)
      told.set(keyText(rowKey(drawn.rows, row)), await reckon({ source, report }, drawn, row));
    byFigure.set(one, told);
  }
  return (one, cell) => byFigure.get(one)?.get(keyText(cell)) ?? null;
}
