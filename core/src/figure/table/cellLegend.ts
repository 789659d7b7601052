import { AHEAD, HAIRLINE, INK, judgesGaps } from '../../highlight';
import { MINUS, type Writing } from '../../format';
import { tidy } from '../../number';
import type { Cells } from '../../query';
import type { Mark } from '../../scene';
import type { FigureRequest } from '../form';
import { faceInCell, inkBetween } from '../incell/scores';
import type { LegendEntry } from '../legend';
import { SPARK_PAINTS, tellsOf, type SparkTells } from '../incell/spark';
import { benchmarkEntries, gapEntries, highlightEntries, ruleEntry, sampleRect } from '../rows/legend';
import { NO_ROW, rectMark } from '../shapes';
import { runningWords } from '../time/running';
import { isPainted, PAINTED, paintsFirst, sparkSteps } from './cell';
import type { FigureColumn, FigureNumbers, TableCells } from './columns';

const WIDE = 48;
const PARTS = 12;

/** What the figures in the cells say, column by column, and what a highlight paints. */
export function cellLegend(
  request: FigureRequest,
  data: TableCells,
  columns: readonly FigureColumn[],
  writing: Writing,
): LegendEntry[] {
  const { rows } = data;
  const asked = { ...request, cells: rows };
  const { paints } = request.look;
  const first = columns.find((column): column is FigureNumbers => column.kind === 'number');
  const entries: LegendEntry[] = [];
  if (isPainted(rows) && paints !== undefined)
    entries.push(
      ...highlightEntries(asked, writing, 'bars').map((entry) => ({
        ...entry,
        sample: (x: number, y: number) =>
          entry.sample(x, y).map((mark) => ({ ...mark, paint: { ...mark.paint, opacity: PAINTED } })),
      })),
    );
  else if (first && paintsFirst(first) && isPainted(rows)) entries.push(...highlightEntries(asked, writing, 'bars'));
  if (columns.some((column) => column.kind === 'number' && column.cell === 'delta' && column.sorts === 'gap percent')) {
    // Badges say what bars of the same rules say.
    const badges = gapEntries(asked, writing);
    const isBoth = paints === undefined && judgesGaps(asked.highlight);
    const kept = isBoth ? entries.filter(({ words }) => !badges.some((badge) => badge.words === words)) : entries;
    entries.splice(0, entries.length, ...badges, ...kept);
  }
  if (first?.cell === 'bullet') entries.push(...benchmarkEntries(asked).slice(0, 1));
  return [
    ...entries,
    ...sparkLegend(request, data, columns, writing),
    ...columns.flatMap((column) => (column.kind === 'number' ? entryOf(column, rows) : [])),
  ];
}

/** What small columns and lines tell beside their heights, of those that are drawn. */
function sparkLegend(
  request: FigureRequest,
  { rows, stepped }: TableCells,
  columns: readonly FigureColumn[],
  writing: Writing,
): LegendEntry[] {
  const sparks = columns.filter(
    (column): column is FigureNumbers =>
      column.kind === 'number' && (column.cell === 'spark columns' || column.cell === 'spark line'),
  );
  if (!stepped || sparks.length === 0) return [];
  const tells = new Set<SparkTells>();
  const rules = new Set<string>();
  for (const column of sparks)
    for (let row = 0; row < rows.count; row++) {
      const steps = sparkSteps(request, column, stepped, row).filter(({ value }) => !Number.isNaN(value));
      // A line is not lit, and what runs is a point of it like others.
      const isLine = column.cell === 'spark line';
      const told = tellsOf(isLine ? steps.map((step) => ({ ...step, lit: null })) : steps);
      told.forEach((one, i) => {
        if (!isLine || one !== 'running') tells.add(one);
        if (one === 'lit') rules.add(steps[i]!.lit!.rule!);
      });
    }
  const words: Partial<Record<SparkTells, string | null>> = {
    highest: `highest ${stepped.grain} of a row`,
    lowest: `lowest ${stepped.grain} of a row`,
    running: runningWords(stepped),
  };
  const lit = request.highlight.rules
    .filter(({ id }) => rules.has(id))
    .map((rule) => ruleEntry(rule, { ...request, cells: stepped }, writing, 'bars'));
  const plain = (['highest', 'lowest', 'running'] as const).flatMap((one): LegendEntry[] => {
    const said = tells.has(one) ? words[one] : null;
    if (!said) return [];
    const paint = SPARK_PAINTS[one];
    return [
      {
        words: said,
        sample: (x, y) => [rectMark('legend', NO_ROW, { x: x + 5, y: y - 6, width: 5, height: 11 }, null, paint)],
      },
    ];
  });
  return [...lit, ...plain];
}

/** What the cells of one column say; nothing where they bear their numbers alone. */
function entryOf(column: FigureNumbers, rows: Cells): LegendEntry[] {
  const { cell, heading, ends, moods, measure } = column;
  // Ends and edges are short numbers, written as short as they are.
  const isPlain = measure === null || measure.format.style === 'number';
  const write = (value: number) =>
    isPlain && Math.abs(value) < 1000
      ? String(tidy(Number(value.toPrecision(4)))).replace('-', MINUS)
      : column.write(value);
  const by = ends?.by === 'shown' ? ', the lowest and the highest shown' : '';
  if (cell === 'face') {
    if (!moods)
      return [
        {
          words: `${heading}: as it stands to ${rows.benchmark?.name ?? 'what it is held against'}`,
          sample: faceSample,
        },
      ];
    const side = measure?.aim === 'cut' ? 'up to' : 'from';
    const shown = moods.by === 'shown' ? ', thirds of those shown' : '';
    return [
      {
        words: `${heading}: good ${side} ${write(moods.good)}, fair ${side} ${write(moods.fair)}${shown}`,
        sample: faceSample,
      },
    ];
  }
  if (!ends) return [];
  const words = `${heading}: ${write(ends.low)} to ${write(ends.high)}${by}`;
  if (cell === 'dot' || cell === 'ramp') return [{ words, wide: WIDE, sample: (x, y) => rampSample(column, x, y) }];
  return [
    {
      words: `${heading}: bars ${write(ends.low)} to ${write(ends.high)}`,
      sample: (x, y) => [
        sampleRect(x, y, 8, HAIRLINE),
        rectMark('legend', NO_ROW, { x, y: y - 4, width: 8, height: 8 }, null, { fill: INK }),
      ],
    },
  ];
}

function rampSample({ ends, measure }: FigureNumbers, x: number, y: number): Mark[] {
  const { low, high } = ends!;
  return Array.from({ length: PARTS }, (_, i) =>
    rectMark('legend', NO_ROW, { x: x + (i * WIDE) / PARTS, y: y - 4, width: WIDE / PARTS, height: 8 }, null, {
      fill: inkBetween(low + ((high - low) * (i + 0.5)) / PARTS, low, high, measure?.aim),
    }),
  );
}

function faceSample(x: number, y: number): Mark[] {
  const marks: Mark[] = [];
  faceInCell(marks, NO_ROW, { x, y: y - 9, width: 16, height: 18 }, 0, 'good', AHEAD);
  return marks.map((mark) => ({ ...mark, role: 'legend', value: null }));
}
