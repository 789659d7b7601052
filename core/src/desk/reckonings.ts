import { drawFigure, figureNamed } from '../figure';
import { reckon, rowsCsv, sumWords, type Reckoning } from '../reckoning';
import type { OpenReport } from '../workspace';

/** A working with the first of the rows behind it, as text. */
export interface ReckoningShown extends Reckoning {
  /** The arithmetic of each sentence in words, where it has any. */
  readonly sums: readonly (string | null)[];
  readonly headings: readonly string[];
  readonly lines: readonly (readonly string[])[];
}

const MOST_ROWS_SHOWN = 300;

/** A row's working. */
async function reckoned(desk: OpenReport, figureId: string, row: number): Promise<Reckoning> {
  return reckon(desk, await drawFigure(desk, figureNamed(desk.report, figureId)), row);
}

/** Questions about how numbers came about. */
export const reckonings = {
  /** The working behind a row of a figure's numbers, with the first of the rows it was made from. */
  async reckon(desk: OpenReport, figureId: string, row: number): Promise<ReckoningShown> {
    const reckoning = await reckoned(desk, figureId, row);
    const { behind } = reckoning;
    const found = behind && (await desk.source.rows(behind, { from: 0, count: MOST_ROWS_SHOWN }));
    return {
      ...reckoning,
      sums: reckoning.sentences.map(sumWords),
      headings: found?.columns.map(({ name }) => name) ?? [],
      lines: found?.lines ?? [],
    };
  },

  /** All rows behind a row of a figure's numbers, as CSV. */
  async rowsCsv(desk: OpenReport, figureId: string, row: number): Promise<string> {
    const { behind } = await reckoned(desk, figureId, row);
    return behind ? rowsCsv(await desk.source.rows(behind, { from: 0, count: Infinity })) : '';
  },
};
