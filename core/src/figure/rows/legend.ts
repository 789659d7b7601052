import { MINUS, writeNumber, writePercent, type Writing } from '../../format';
import {
  BAND_TINTS,
  encodeGap,
  encodeRow,
  INK,
  judgesGaps,
  litValue,
  rampEnds,
  rampInk,
  rampValues,
} from '../../highlight';
import { tidy } from '../../number';
import type { Cells } from '../../query';
import type { HighlightRule, Look, Ramp } from '../../report';
import type { Mark, Paint } from '../../scene';
import type { LegendEntry } from '../legend';
import { badgeMark, lineMark, NO_ROW, rectMark } from '../shapes';
import { dotMark } from '../path';
import { bandName, bandRange, type ResolvedBands } from '../bullet/bands';
import type { FigureRequest } from '../form';
import { GHOST } from './actualBar';
import { BLANK_MEMBER } from '../../table';

/**
 * What inks, edges and badges mean, from the rules that paint a row; the measure itself where none does.
 * @param as what rules paint in the figure: badges beside rows, bars alone, or dots on a line
 * @param rows those that are painted, where these are not all
 */
export function highlightEntries(
  request: FigureRequest,
  writing: Writing,
  as: 'badges' | 'bars' | 'dots' = 'badges',
  rows: readonly number[] = Array.from({ length: request.cells.count }, (_, row) => row),
): LegendEntry[] {
  const { cells, highlight } = request;
  const used = new Set(rows.map((row) => encodeRow(highlight, cells, row).rule));
  const entries = highlight.rules
    .filter(({ id }) => used.has(id))
    // Badges stand beside gaps: a rule that judges none has its bar alone.
    .map((rule) => ruleEntry(rule, request, writing, as === 'badges' && !judgesGaps(highlight) ? 'bars' : as));
  const ramp = used.has(null) && highlight.ramp ? rampEntry(highlight.ramp, request, writing) : null;
  if (ramp) return [...entries, ramp];
  // A line says what it is itself.
  if (as === 'dots') return entries;
  const plain = used.has(null) && (entries.length === 0 || highlight.on !== 'standing');
  return plain
    ? [
        ...entries,
        {
          words: entries.length > 0 ? 'others' : cells.stacked ? 'actual' : cells.measure.name,
          sample: (x, y) => [sampleRect(x, y, 6, INK)],
        },
      ]
    : entries;
}

/** What a rule’s paint means. */
export function ruleEntry(
  rule: HighlightRule,
  request: FigureRequest,
  writing: Writing,
  as: 'badges' | 'bars' | 'dots',
): LegendEntry {
  const { ink = INK, edge, pattern, badge } = rule.encode;
  return {
    words: ruleWords(rule, request, writing),
    sample: (x, y) =>
      badge && as === 'badges'
        ? [badgeMark(badge, x + 8, y, ink, rule.id)]
        : as === 'dots'
          ? [dotMark('legend', NO_ROW, [x + 8, y], 3.25, null, { fill: ink })]
          : [
              sampleRect(x, y, 8, ink, {
                ...(edge || pattern ? { stroke: edge ?? ink, strokeWidth: edge ? 1.5 : 1 } : {}),
                ...(pattern ? { pattern } : {}),
              }),
            ],
  };
}

/** What inks and badges mean in rows with their gaps beside them: those of the bars, and those of the gaps where others paint them. */
export function rowEntries(request: FigureRequest, writing: Writing): LegendEntry[] {
  const entries = highlightEntries(request, writing);
  return judgesGaps(request.highlight) ? entries : [...entries, ...gapEntries(request, writing)];
}

/** What the inks and badges of gaps mean. */
export function gapEntries(request: FigureRequest, writing: Writing): LegendEntry[] {
  const { cells } = request;
  const highlight = judgesGaps(request.highlight) ? request.highlight : request.standing;
  const used = new Set(Array.from({ length: cells.count }, (_, row) => encodeGap(request, cells, row).rule));
  return highlight.rules
    .filter(({ id }) => used.has(id))
    .map((rule) => ruleEntry(rule, { ...request, highlight }, writing, 'badges'));
}

/** A ramp from end to end, with what its ends are. */
function rampEntry(ramp: Ramp, { cells, highlight }: FigureRequest, writing: Writing): LegendEntry | null {
  const looked = rampValues(
    ramp,
    Array.from({ length: cells.count }, (_, row) => litValue(highlight, cells, row)),
    cells.benchmarks,
  );
  const ends = rampEnds(ramp, looked);
  if (!ends) return null;
  const steps = 16;
  const write = (value: number) =>
    highlight.on === 'gap percent' || highlight.on === 'share'
      ? writePercent(value, 0, highlight.on === 'gap percent', cells.measure.format)
      : highlight.on === 'value' || highlight.on === 'gap'
        ? writeNumber(value, writing)
        : String(tidy(Math.round(value * 100) / 100)).replace('-', MINUS);
  const about =
    { value: '', 'gap percent': 'gap ' }[highlight.on as string] ?? `${highlight.expression ?? highlight.on} `;
  const held = ramp.middle?.at === 'benchmark' && cells.benchmark ? ` from ${cells.benchmark.name}` : '';
  return {
    words: `${about}${write(ends.low)} to ${write(ends.high)}${held}`,
    wide: 64,
    sample: (x, y) =>
      Array.from({ length: steps }, (_, i) => {
        const value = ends.low + ((ends.high - ends.low) * (i + 0.5)) / steps;
        return rectMark('legend', NO_ROW, { x: x + (i * 64) / steps, y: y - 4, width: 64 / steps, height: 8 }, null, {
          fill: rampInk(ramp, ends, value),
        });
      }),
  };
}

/** What rows are judged by, in words. */
const judgedName = (cells: Cells) =>
  dueIsShown(cells) && !cells.grain ? `the ${benchmarkName(cells)} due by now` : benchmarkName(cells);

/** A rule in words, as a reader of the figure needs them. */
function ruleWords({ when }: HighlightRule, { cells, highlight }: FigureRequest, writing: Writing): string {
  if ('standing' in when) {
    const against = judgedName(cells);
    const words =
      cells.measure.aim === 'hold'
        ? { ahead: 'near', level: `near ${against}`, behind: `away from ${against}` }
        : { ahead: `ahead of ${against}`, level: `level with ${against}`, behind: `behind ${against}` };
    return words[when.standing];
  }
  if ('members' in when) return when.members.map((member) => member || BLANK_MEMBER).join(', ');
  const of = {
    value: '',
    gap: 'gap',
    'gap percent': 'gap',
    rank: 'rank',
    'rank change': 'places won',
    share: 'share',
    expression: highlight.expression ?? '',
    standing: '',
    member: '',
  }[highlight.on];
  const what = of === '' ? '' : `${of} `;
  const most = (end: string, count: number, within: 'row' | undefined) =>
    `${count === 1 ? '' : `${count} `}${end} ${of}`.trim() + (within ? ' of each row' : '');
  if ('highest' in when) return most('highest', when.highest, when.within);
  if ('lowest' in when) return most('lowest', when.lowest, when.within);
  const write = (value: number) =>
    highlight.on === 'rank' || highlight.on === 'rank change' || highlight.on === 'expression'
      ? String(value).replace('-', MINUS)
      : highlight.on === 'gap percent' || highlight.on === 'share'
        ? value === 0
          ? '0%'
          : writePercent(
              value,
              Math.round(value * 100) === value * 100 ? 0 : 1,
              highlight.on === 'gap percent',
              cells.measure.format,
            )
        : writeNumber(value, writing);
  const { from, to } = when;
  if (highlight.on === 'rank change' && from === undefined && to === 0) return 'places lost';
  if (highlight.on === 'rank change' && from === 1 && to === undefined) return 'places won';
  if (from === undefined) return to === undefined ? `every ${of || cells.measure.name}` : `${what}below ${write(to)}`;
  return to === undefined ? `${what}from ${write(from)}` : `${what}${write(from)} to ${write(to)}`;
}

const benchmarkName = (cells: Cells) => cells.benchmark?.name ?? '';
const dueIsShown = (cells: Cells) => cells.due?.some((value) => !Number.isNaN(value)) ?? false;

/** Whether any row has a benchmark that is drawn. */
const isHeld = ({ benchmarks }: Cells) => benchmarks?.some((value) => !Number.isNaN(value)) ?? false;

/** The rule of the benchmark, and of what is due by now; nothing where no row has one. */
export function benchmarkEntries({ cells, look }: FigureRequest): LegendEntry[] {
  if (!isHeld(cells)) return [];
  const entries: LegendEntry[] = [
    { words: benchmarkName(cells), sample: (x, y) => [sampleRule(x, y, look, { stroke: INK, strokeWidth: 3 })] },
  ];
  if (cells.landing?.some((value) => !Number.isNaN(value)))
    entries.push({
      words: look.landing === 'as planned' ? 'landing, the rest as planned' : 'landing at the pace so far',
      sample: (x, y) => [sampleRect(x, y, 8, INK, GHOST)],
    });
  if (dueIsShown(cells))
    entries.push({
      words: `${benchmarkName(cells)} due by now`,
      sample: (x, y) => [sampleRule(x, y, look, { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] })],
    });
  return entries;
}

export function bandEntries({ cells }: FigureRequest, bands: ResolvedBands, writing: Writing): LegendEntry[] {
  if (bands.of === 'benchmark' && !isHeld(cells)) return [];
  return BAND_TINTS[bands.edges.length + 1]!.map((tint, i) => {
    const aims = new Set(cells.stacked?.map(({ measure }) => measure.aim));
    // Rows of different aims have their bands on different sides.
    if (aims.size > 1)
      return { words: bandName(bands, i), isBand: true, sample: (x, y) => [sampleRect(x, y, 12, tint)] };
    const range = bandRange(bands, i, cells.measure.aim, judgedName(cells), (value) => writeNumber(value, writing));
    return { words: `${bandName(bands, i)}: ${range}`, isBand: true, sample: (x, y) => [sampleRect(x, y, 12, tint)] };
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
