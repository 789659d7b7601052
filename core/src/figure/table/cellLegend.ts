import { AHEAD, HAIRLINE, INK } from '../../highlight';
import { MINUS, type Writing } from '../../format';
import { tidy } from '../../number';
import type { Cells } from '../../query';
import type { Mark } from '../../scene';
import type { FigureRequest } from '../form';
import { faceInCell, inkBetween } from '../incell/scores';
import type { LegendEntry } from '../legend';
import { benchmarkEntries, highlightEntries, sampleRect } from '../rows/legend';
import { NO_ROW, rectMark } from '../shapes';
import { isPainted, PAINTED, paintsFirst } from './cell';
import type { FigureColumn, FigureNumbers } from './columns';

const WIDE = 48;
const PARTS = 12;

/** What the figures in the cells say, column by column, and what a highlight paints. */
export function cellLegend(
  request: FigureRequest,
  rows: Cells,
  columns: readonly FigureColumn[],
  writing: Writing,
): LegendEntry[] {
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
  if (first?.cell === 'bullet') entries.push(...benchmarkEntries(asked).slice(0, 1));
  return [...entries, ...columns.flatMap((column) => (column.kind === 'number' ? entryOf(column, rows) : []))];
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
