import { writeView } from '../../brief';
import { writeNumber, type Writing } from '../../format';
import { INK, QUIET } from '../../highlight';
import { trendsOf } from '../../query';
import type { FigureRequest } from '../form';
import type { LegendEntry } from '../legend';
import { lineMark, NO_ROW } from '../shapes';
import { bandEntries, highlightEntries, sampleRect } from '../rows/legend';
import { PAPER, type Paint } from '../../scene';
import { dotMark } from '../path';
import { runningWords } from '../time/running';
import { trendBands } from './trendBands';

/** A short piece of a line. */
export function sampleLine(words: string, paint: Paint): LegendEntry {
  return { words, sample: (x, y) => [lineMark('legend', NO_ROW, { x1: x, y1: y, x2: x + 16, y2: y }, null, paint)] };
}

/** A forecast goes on where actuals end. */
const isToCome = ({ actual, benchmarks }: FigureRequest['cells']): boolean =>
  actual.some((value, row) => Number.isNaN(value) && !Number.isNaN(benchmarks![row]!));

/** What a trend draws of its series: its legend shows that and nothing else. */
export interface TrendDrawn {
  /** A panel has one series only: bars, dots, benchmarks and bands are drawn. */
  readonly alone: boolean;
  /** Its line bears a dot a step. */
  readonly dotted: boolean;
  /** Benchmarks are a rule a step, not a line. */
  readonly ruled: boolean;
  /** The last row of each line, as which the line is painted. */
  readonly ends: readonly number[];
}

/** What the lines, bars and areas of a trend are, each once, as it is drawn. */
export function trendLegend(
  request: FigureRequest,
  writing: Writing,
  { alone, dotted, ruled, ends }: TrendDrawn,
): LegendEntry[] {
  const { cells, look } = request;
  const { benchmark, grain } = cells;
  const low = alone ? cells.low : null;
  const barred = look.draw !== undefined && look.draw !== 'line';
  const isLit = cells.benchmarks !== null || cells.brief.lit !== null;
  const entries: LegendEntry[] = [];
  // Several lines bear their names at their ends.
  if (alone && (!barred || look.draw === 'both'))
    entries.push(
      sampleLine(cells.view.kind === 'plain' ? cells.measure.name : writeView(cells.view), {
        stroke: INK,
        ...(look.smooth === undefined ? { strokeWidth: 2 } : { strokeWidth: 1, opacity: 0.6 }),
      }),
    );
  if (isLit && alone && barred) entries.push(...highlightEntries(request, writing, 'bars'));
  else if (isLit && (dotted || cells.brief.lit !== null)) {
    const shown = Array.from(cells.actual.keys()).filter((row) => !Number.isNaN(cells.actual[row]!));
    entries.push(...highlightEntries(request, writing, 'dots', dotted ? shown : ends));
  }
  if (benchmark && alone && cells.benchmarks!.some((value) => !Number.isNaN(value)))
    entries.push(
      look.draw === 'pairs'
        ? { words: benchmark.name, sample: (x, y) => [sampleRect(x, y, 8, '#B1A999')] }
        : benchmark.kind === 'forecast'
          ? sampleLine(
              benchmark.name,
              isToCome(cells) ? { stroke: INK, strokeWidth: 1.75, dash: [5, 3.5] } : { stroke: QUIET, strokeWidth: 1 },
            )
          : sampleLine(
              benchmark.name,
              ruled ? { stroke: INK, strokeWidth: 2.5 } : { stroke: QUIET, strokeWidth: 1.75 },
            ),
    );
  const running = runningWords(cells);
  if (running !== null)
    entries.push({
      words: running,
      sample: (x, y) =>
        look.draw && look.draw !== 'line'
          ? [sampleRect(x, y, 8, QUIET, { pattern: 'hatch', stroke: QUIET, strokeWidth: 1 })]
          : [
              lineMark('legend', NO_ROW, { x1: x, y1: y, x2: x + 10, y2: y }, null, {
                stroke: INK,
                strokeWidth: 1.75,
                dash: [2.5, 2.5],
              }),
              dotMark('legend', NO_ROW, [x + 12, y], 3, null, { fill: PAPER, stroke: INK, strokeWidth: 1.5 }),
            ],
    });
  if (low)
    entries.push({
      words: 'range of a step if steps vary as before',
      sample: (x, y) => [sampleRect(x, y, 12, QUIET, { opacity: 0.18 })],
    });
  if (look.smooth !== undefined)
    entries.push(
      sampleLine(
        `mean of ${look.smooth} whole ${grain}s${{ trailing: '', preceding: ' before', centred: ' around' }[look.window ?? 'trailing']}`,
        {
          stroke: INK,
          strokeWidth: 2.25,
        },
      ),
    );
  if (look.trend) {
    const [line, ...others] = trendsOf(cells);
    if (line)
      entries.push(
        sampleLine(
          others.length > 0
            ? `straight lines through whole ${grain}s`
            : `straight line through ${line.steps} whole ${grain}s: ${writeNumber(line.slope, writing, true)} a ${grain}, R² ${Number.isNaN(line.rSquared) ? '–' : line.rSquared.toFixed(2)}`,
          { stroke: QUIET, strokeWidth: 1.5, dash: [7, 4] },
        ),
      );
  }
  const bands = alone ? trendBands(cells, look) : null;
  const all = bands ? [...entries, ...bandEntries(request, bands, writing)] : entries;
  // Bars and the line through them are the same number.
  return all.filter(({ words }, i) => all.findIndex((one) => one.words === words) === i);
}
