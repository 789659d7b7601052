import { writeNumber, type Writing } from '../../format';
import { INK, QUIET } from '../../highlight';
import { trendsOf } from '../../query';
import type { FigureRequest } from '../form';
import { lineMark, NO_ROW, type LegendEntry } from '../frame';
import { bandEntries, highlightEntries, sampleRect } from '../rows/legend';
import { PAPER, type Paint } from '../../scene';
import { dotMark } from '../path';
import { runningWords } from '../time/running';
import { trendBands } from './trendBands';

/** A short piece of a line. */
export function sampleLine(words: string, paint: Paint): LegendEntry {
  return { words, sample: (x, y) => [lineMark('legend', NO_ROW, { x1: x, y1: y, x2: x + 16, y2: y }, null, paint)] };
}

/** What the lines, bars and areas of a trend are. */
export function trendLegend(request: FigureRequest, writing: Writing): LegendEntry[] {
  const { cells, look } = request;
  const { benchmark, low, grain } = cells;
  const entries: LegendEntry[] = cells.benchmarks || cells.brief.lit !== null ? highlightEntries(request, writing) : [];
  if (benchmark)
    entries.push(
      benchmark.kind === 'forecast'
        ? sampleLine(benchmark.name, { stroke: INK, strokeWidth: 1.75, dash: [5, 3.5] })
        : look.draw === 'pairs'
          ? { words: benchmark.name, sample: (x, y) => [sampleRect(x, y, 8, '#B1A999')] }
          : sampleLine(benchmark.name, { stroke: INK, strokeWidth: 2.5 }),
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
      words: 'holds 95 of 100 such steps',
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
  const bands = trendBands(cells, look);
  return bands ? [...entries, ...bandEntries(request, bands, writing)] : entries;
}
