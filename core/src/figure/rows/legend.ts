import { writeNumber, writePercent, type Writing } from '../../format';
import { BAND_TINTS, encodeRow, INK } from '../../highlight';
import type { Cells } from '../../query';
import type { HighlightRule, Look } from '../../report';
import type { Mark, Paint } from '../../scene';
import { badgeMark, lineMark, NO_ROW, rectMark, type LegendEntry } from '../frame';
import { bandName, bandRange, type Bands } from '../bullet/bands';
import type { FigureRequest } from '../form';
import { BLANK_MEMBER } from '../names';

/** What inks, edges and badges mean, from the rules that paint a row; the measure itself where none does. */
export function highlightEntries(request: FigureRequest, writing: Writing): LegendEntry[] {
  const { cells, highlight } = request;
  const used = new Set(Array.from({ length: cells.count }, (_, row) => encodeRow(highlight, cells, row).rule));
  const entries = highlight.rules
    .filter(({ id }) => used.has(id))
    .map((rule): LegendEntry => {
      const { ink = INK, edge, badge } = rule.encode;
      return {
        words: ruleWords(rule, request, writing),
        sample: (x, y) =>
          badge
            ? [badgeMark(badge, x + 8, y, ink, rule.id)]
            : [sampleRect(x, y, 8, ink, edge ? { stroke: edge, strokeWidth: 1.5 } : {})],
      };
    });
  const plain = used.has(null) && (entries.length === 0 || highlight.on !== 'standing');
  return plain
    ? [
        ...entries,
        { words: entries.length === 0 ? cells.measure.name : 'others', sample: (x, y) => [sampleRect(x, y, 6, INK)] },
      ]
    : entries;
}

/** A rule in words, as a reader of the figure needs them. */
export function ruleWords({ when }: HighlightRule, { cells, highlight }: FigureRequest, writing: Writing): string {
  const name = benchmarkName(cells);
  if ('standing' in when) {
    const against = dueIsShown(cells) && !cells.grain ? `the ${name} due by now` : name;
    const words =
      cells.measure.aim === 'hold'
        ? { ahead: 'near', level: `near ${against}`, behind: `away from ${against}` }
        : { ahead: `ahead of ${against}`, level: `level with ${against}`, behind: `behind ${against}` };
    return words[when.standing];
  }
  if ('members' in when) return when.members.map((member) => member || BLANK_MEMBER).join(', ');
  const of = { value: '', gap: 'gap', 'gap percent': 'gap', rank: 'rank', share: 'share', standing: '', member: '' }[
    highlight.on
  ];
  const what = of === '' ? '' : `${of} `;
  if ('highest' in when) return when.highest === 1 ? `highest ${of}`.trim() : `${when.highest} highest ${of}`.trim();
  if ('lowest' in when) return when.lowest === 1 ? `lowest ${of}`.trim() : `${when.lowest} lowest ${of}`.trim();
  const write = (value: number) =>
    highlight.on === 'rank'
      ? String(value)
      : highlight.on === 'gap percent' || highlight.on === 'share'
        ? value === 0
          ? '0%'
          : writePercent(value, Math.round(value * 100) === value * 100 ? 0 : 1, highlight.on === 'gap percent')
        : writeNumber(value, writing);
  const { from, to } = when;
  if (from === undefined) return to === undefined ? `every ${of || cells.measure.name}` : `${what}below ${write(to)}`;
  return to === undefined ? `${what}from ${write(from)}` : `${what}${write(from)} to ${write(to)}`;
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

export function sampleRect(x: number, y: number, height: number, fill: string, more: Paint = {}): Mark {
  return rectMark('legend', NO_ROW, { x, y: y - height / 2, width: 16, height }, null, { fill, ...more });
}
