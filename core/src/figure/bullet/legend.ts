import { writeNumber } from '../../format';
import { BAND_TINTS, encode, INK } from '../../highlight';
import { judgementAt } from '../../query';
import type { Look } from '../../report';
import type { Mark, Paint } from '../../scene';
import { badgeMark, lineMark, NO_ROW, rectMark, type LegendEntry } from '../frame';
import { bandName, bandRange } from './bands';
import type { Plan } from './parts';

/** What the samples mean, from the marks that are there. */
export function legendOf({ request, bands, writing }: Plan): LegendEntry[] {
  const { cells, highlight } = request;
  const name = cells.benchmark?.name ?? '';
  const entries: LegendEntry[] = [];
  const standings = (['ahead', 'level', 'behind'] as const).filter((standing) =>
    cells.actual.some((_, i) => judgementAt(cells, i).standing === standing),
  );
  const due = cells.due?.some((value) => !Number.isNaN(value)) ?? false;
  const against = due && !cells.grain ? `the ${name} due by now` : name;
  if (!cells.benchmarks) entries.push({ words: cells.measure.name, sample: (x, y) => [sampleRect(x, y, 6, INK)] });
  for (const standing of standings) {
    const { ink, badge, rule } = encode(highlight, standing);
    const words =
      cells.measure.aim === 'hold'
        ? { ahead: 'near', level: `near ${against}`, behind: `away from ${against}` }
        : { ahead: `ahead of ${against}`, level: `level with ${against}`, behind: `behind ${against}` };
    entries.push({
      words: words[standing],
      sample: (x, y) => (badge ? [badgeMark(badge, x + 8, y, ink, rule)] : [sampleRect(x, y, 6, ink)]),
    });
  }
  if (cells.benchmarks)
    entries.push({ words: name, sample: (x, y) => [sampleRule(x, y, request.look, { stroke: INK, strokeWidth: 3 })] });
  if (due)
    entries.push({
      words: `${name} due by now`,
      sample: (x, y) => [sampleRule(x, y, request.look, { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] })],
    });
  if (bands) {
    BAND_TINTS[bands.edges.length + 1]!.forEach((tint, i) => {
      const range = bandRange(bands, i, cells.measure.aim, name, (value) => writeNumber(value, writing));
      entries.push({ words: `${bandName(bands, i)}: ${range}`, sample: (x, y) => [sampleRect(x, y, 12, tint)] });
    });
  }
  return entries;
}

function sampleRule(x: number, y: number, { orientation }: Look, paint: Paint): Mark {
  const ends =
    orientation === 'vertical'
      ? { x1: x + 1, y1: y, x2: x + 15, y2: y }
      : { x1: x + 8, y1: y - 6, x2: x + 8, y2: y + 6 };
  return lineMark('legend', NO_ROW, ends, null, paint);
}

function sampleRect(x: number, y: number, height: number, fill: string): Mark {
  return rectMark('legend', NO_ROW, { x, y: y - height / 2, width: 16, height }, null, { fill });
}
