import { writeNumber, type Writing } from '../../format';
import { BAND_TINTS, encode, INK } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import type { Look } from '../../report';
import type { Mark, Paint } from '../../scene';
import { badgeMark, lineMark, NO_ROW, rectMark, type LegendEntry } from '../frame';
import { bandName, bandRange, type Bands } from '../bullet/bands';
import type { FigureRequest } from '../form';

/** Inks and badges of the standings that occur; without a benchmark the measure itself. */
export function standingEntries({ cells, highlight }: FigureRequest): LegendEntry[] {
  if (!cells.benchmarks) return [{ words: cells.measure.name, sample: (x, y) => [sampleRect(x, y, 6, INK)] }];
  const against = dueIsShown(cells) && !cells.grain ? `the ${benchmarkName(cells)} due by now` : benchmarkName(cells);
  return (['ahead', 'level', 'behind'] as const)
    .filter((standing) => cells.actual.some((_, i) => judgementAt(cells, i).standing === standing))
    .map((standing) => {
      const { ink, badge, rule } = encode(highlight, standing);
      const words =
        cells.measure.aim === 'hold'
          ? { ahead: 'near', level: `near ${against}`, behind: `away from ${against}` }
          : { ahead: `ahead of ${against}`, level: `level with ${against}`, behind: `behind ${against}` };
      return {
        words: words[standing],
        sample: (x, y) => (badge ? [badgeMark(badge, x + 8, y, ink, rule)] : [sampleRect(x, y, 6, ink)]),
      };
    });
}

const benchmarkName = (cells: Cells) => cells.benchmark?.name ?? '';
const dueIsShown = (cells: Cells) => cells.due?.some((value) => !Number.isNaN(value)) ?? false;

/** The rule of the benchmark, and of what is due by now. */
export function benchmarkEntries({ cells, look }: FigureRequest): LegendEntry[] {
  if (!cells.benchmarks) return [];
  const entries: LegendEntry[] = [
    { words: benchmarkName(cells), sample: (x, y) => [sampleRule(x, y, look, { stroke: INK, strokeWidth: 3 })] },
  ];
  if (dueIsShown(cells))
    entries.push({
      words: `${benchmarkName(cells)} due by now`,
      sample: (x, y) => [sampleRule(x, y, look, { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] })],
    });
  return entries;
}

export function bandEntries({ cells }: FigureRequest, bands: Bands, writing: Writing): LegendEntry[] {
  return BAND_TINTS[bands.edges.length + 1]!.map((tint, i) => {
    const range = bandRange(bands, i, cells.measure.aim, benchmarkName(cells), (value) => writeNumber(value, writing));
    return { words: `${bandName(bands, i)}: ${range}`, sample: (x, y) => [sampleRect(x, y, 12, tint)] };
  });
}

function sampleRule(x: number, y: number, { orientation }: Look, paint: Paint): Mark {
  const ends =
    orientation === 'vertical'
      ? { x1: x + 1, y1: y, x2: x + 15, y2: y }
      : { x1: x + 8, y1: y - 6, x2: x + 8, y2: y + 6 };
  return lineMark('legend', NO_ROW, ends, null, paint);
}

export function sampleRect(x: number, y: number, height: number, fill: string): Mark {
  return rectMark('legend', NO_ROW, { x, y: y - height / 2, width: 16, height }, null, { fill });
}
