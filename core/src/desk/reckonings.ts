import { drawFigure, figureNamed } from '../figure';
import { reckon, rowsBehind, rowsCsv, sumWords, type Reckoning } from '../reckoning';
import { cellText } from '../table';
import type { OpenReport } from '../workspace';

/** A working with the first of the rows behind it, as text. */
export interface ReckoningShown extends Reckoning {
  /** The arithmetic of each sentence in words, where it has any. */
  readonly sums: readonly (string | null)[];
  readonly headings: readonly string[];
  readonly lines: readonly (readonly string[])[];
}

const MOST_ROWS_SHOWN = 300;

/** A row's working, its table and the rows of it that it was made from. */
async function reckoned(desk: OpenReport, figureId: string, row: number) {
  const drawn = await drawFigure(desk, figureNamed(desk.report, figureId));
  const reckoning = await reckon(desk, drawn, row);
  const table = (reckoning.behind && desk.tables.get(reckoning.behind.table)) ?? null;
  return { reckoning, table, rows: table ? rowsBehind(table, reckoning.behind!) : [] };
}

/** Questions about how numbers came about. */
export const reckonings = {
  /** The working behind a row of a figure's numbers, with the first of the rows it was made from. */
  async reckon(desk: OpenReport, figureId: string, row: number): Promise<ReckoningShown> {
    const { reckoning, table, rows } = await reckoned(desk, figureId, row);
    const columns = table?.columns ?? [];
    return {
      ...reckoning,
      sums: reckoning.sentences.map(sumWords),
      headings: columns.map(({ name }) => name),
      lines: rows.slice(0, MOST_ROWS_SHOWN).map((at) => columns.map((column) => cellText(column, at))),
    };
  },

  /** All rows behind a row of a figure's numbers, as CSV. */
  async rowsCsv(desk: OpenReport, figureId: string, row: number): Promise<string> {
    const { table, rows } = await reckoned(desk, figureId, row);
    return table ? rowsCsv(table, rows) : '';
  },
};
