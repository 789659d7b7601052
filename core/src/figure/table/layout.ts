import { writingOf } from '../../format';
import { encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { shorten, shortenAll, textWidth, type Mark, type Part, type Scene } from '../../scene';
import type { FigureRequest } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import type { LegendEntry } from '../legend';
import { centred, lineMark, NO_ROW, rectMark, textMark } from '../shapes';
import { cellLegend } from './cellLegend';
import { moreMark } from '../more';
import { rowKey, spoken } from '../names';
import { leastOfRows, MORE } from '../room';
import { cellMark, widest } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import type { FigureColumn, FigureNumbers, TableCells } from './columns';
import type { TableLine } from './subtotals';
import { isPainted, PAINTED, SAYS_IT, scalesOf, drawCell, SIZE, ROW, type PlacedColumn } from './cell';

const HEAD_SIZE = 11.5;
const HEAD = 30;
const GAP = 18;
/** Widths of the figures in cells; numbers and names take what they need. */
const FIGURE: Record<FigureNumbers['cell'], number> = {
  number: 0,
  bar: 96,
  'share bar': 84,
  bullet: 110,
  'spark columns': 132,
  'spark line': 120,
  delta: 16,
  dot: 24,
  face: 22,
  ramp: 0,
};

export interface TableLook {
  readonly called: string;
  readonly hasTotals: boolean;
  readonly legend: readonly LegendEntry[];
  /** Rows under their subtotals; left out: the rows alone. */
  readonly lines?: readonly TableLine[];
}

/** Rows of a table with figures in their cells: each as high as a line of text allows, no more. */
export function tableScene(
  request: FigureRequest,
  data: TableCells,
  columns: readonly FigureColumn[],
  { called, hasTotals, legend, lines: given }: TableLook,
): Scene {
  const { look } = request;
  const { rows } = data;
  const writing = writingOf(rows);
  const lines = given ?? Array.from({ length: rows.count }, (_, row): TableLine => ({ kind: 'row', row }));
  const isGrouped = lines.length > rows.count;
  const subtotals = lines.flatMap((line) => (line.kind === 'subtotal' ? [line] : []));
  // Wider fields stand above their rows, with what these come to, and reach over the columns beside them.
  const above = isGrouped ? rows.fields.slice(0, -1) : [];
  const isAbove = (column: FigureColumn) => column.kind === 'text' && above.includes(column.id);
  const natural = columns.map((column) => {
    if (isAbove(column)) return Math.max(24, textWidth(column.heading, HEAD_SIZE) + 2);
    const sums = column.kind === 'number' ? subtotals.map(({ texts }) => texts.get(column.id) ?? '') : [];
    return Math.max(naturalWidth(column), widest(sums, SIZE, 600));
  });
  const asked = natural.reduce((sum, width) => sum + width, 0) + GAP * Math.max(0, columns.length - 1);
  // A paper narrower than the columns can be made is made wider.
  const width = Math.max(
    look.width ?? Math.max(DEFAULT_WIDTH, Math.min(1600, asked + 2 * PAD)),
    leastWidth(columns, natural) + 2 * PAD,
  );
  const placed = placeColumns(columns, natural, asked, width - 2 * PAD);
  const head = headOf({ ...request, cells: rows }, width, writing);
  const foot = footOf({ ...request, cells: rows }, width, [...legend, ...cellLegend(request, rows, columns, writing)]);
  const totals = hasTotals && rows.count > 1 ? ROW : 0;
  const top = head.bottom + HEAD;
  const needed = top + lines.length * ROW + totals + 6 + foot.height;
  const least = leastOfRows(look.height, lines.length, HEAD + totals + 6, { pitch: ROW });
  const height = heightOf(look.height, needed, head, foot, least);
  const bottom = height - foot.height - totals - 6;
  // A paper that is too low shows the rows it holds, and how many it does not.
  const isCut = top + lines.length * ROW > bottom + 0.5;
  const last = isCut ? bottom - MORE : bottom;
  const marks: Mark[] = [...head.marks, ...headings(placed, head.bottom, width)];
  const scales = scalesOf(placed, data);
  const shown = placed.map(({ column, width: room }) =>
    isAbove(column)
      ? column.texts.map(() => '')
      : column.kind === 'text' && !column.numeric
        ? shortenAll(column.texts, room, SIZE)
        : column.texts,
  );
  let dropped = 0;
  const unseen: number[] = [];
  const cellMarks: Mark[] = [];
  for (const [i, line] of lines.entries()) {
    const y = top + i * ROW;
    if (y + ROW > last + 0.5) {
      if (line.kind === 'row') unseen.push(line.row);
      dropped++;
      continue;
    }
    const { row } = line;
    if (line.kind === 'subtotal') {
      subtotalMarks(marks, placed, line, i, y, width);
      const of = rowKey(line.cells, row);
      cellMarks.push(cellMark(line.cells, row, of, { x: PAD - 6, y, width: width - 2 * PAD + 12, height: ROW }));
      continue;
    }
    const of = rowKey(rows, row);
    const lit = isPainted(rows) && look.paints === 'row' ? encodeRow(request.highlight, rows, row) : null;
    if (lit?.rule)
      marks.push(
        rectMark(
          'band',
          of,
          { x: PAD - 6, y: y + 1, width: width - 2 * PAD + 12, height: ROW - 2 },
          null,
          {
            fill: lit.ink,
            opacity: PAINTED,
          },
          lit.rule,
        ),
      );
    placed.forEach((place, c) =>
      drawCell(marks, request, data, place, shown[c]![row]!, scales[c]!, row, { ...of, y, part: partAt(placed, i, c) }),
    );
    marks.push(
      lineMark('tick', of, { x1: PAD, y1: y + ROW, x2: width - PAD, y2: y + ROW }, null, {
        stroke: HAIRLINE,
        strokeWidth: 0.5,
      }),
    );
    cellMarks.push(cellMark(rows, row, of, { x: PAD - 6, y, width: width - 2 * PAD + 12, height: ROW }));
  }
  if (unseen.length > 0) marks.push(moreMark(rows, unseen, writing, PAD, bottom - 4));
  if (totals > 0) {
    const y = bottom;
    marks.push(
      lineMark('total', NO_ROW, { x1: PAD, y1: y, x2: width - PAD, y2: y }, null, { stroke: INK, strokeWidth: 1.5 }),
    );
    placed.forEach(({ column, x, width: room }, c) => {
      const text =
        column.kind === 'number'
          ? column.total
          : c === placed.findIndex((one) => one.column.kind === 'text' && !one.column.numeric)
            ? 'all'
            : '';
      if (text === '') return;
      const end = column.kind === 'number';
      marks.push(
        textMark(
          'total',
          end ? text : shorten(text, room, SIZE, 600),
          end ? x + room : x,
          centred(y + ROW / 2, SIZE),
          SIZE,
          {
            weight: 600,
            anchor: end ? 'end' : 'start',
            row: { ...NO_ROW, part: partAt(placed, lines.length, c) },
          },
        ),
      );
    });
  }
  marks.push(...foot.marks(height - foot.height), ...cellMarks);
  return {
    width,
    height,
    title: head.title,
    description: spoken(called, rows),
    rulers: [],
    marks,
    dropped,
    scroll: { top, bottom: top + (lines.length - dropped) * ROW, row: ROW },
  };
}

/** What a cell is to those who hear the table: texts name their line. */
function partAt(placed: readonly PlacedColumn[], line: number, column: number): Part {
  const cell = { as: 'cell', line, column } as const;
  return placed[column]!.column.kind === 'text' ? { ...cell, isName: true } : cell;
}

/** What the rows beneath come to, in their columns; a rule above it. */
function subtotalMarks(
  marks: Mark[],
  placed: readonly PlacedColumn[],
  { level, member, texts, cells, row }: Extract<TableLine, { kind: 'subtotal' }>,
  line: number,
  y: number,
  width: number,
): void {
  const of = rowKey(cells, row);
  const stroke = { stroke: level === 0 ? INK : HAIRLINE, strokeWidth: 0.75 };
  marks.push(lineMark('subtotal', of, { x1: PAD, y1: y, x2: width - PAD, y2: y }, null, stroke));
  const field = cells.fields[level];
  const numbers = placed.find(({ column }) => column.kind === 'number')?.x ?? width - PAD;
  for (const [c, { column, x, width: room }] of placed.entries()) {
    const end = column.kind === 'number';
    const text = end ? (texts.get(column.id) ?? '') : column.id === field ? member : '';
    if (text === '') continue;
    marks.push(
      textMark(
        'subtotal',
        end ? text : shorten(text, numbers - x - GAP, SIZE, 600),
        end ? x + room : x,
        centred(y + ROW / 2, SIZE),
        SIZE,
        {
          weight: 600,
          anchor: end ? 'end' : 'start',
          row: { ...of, part: partAt(placed, line, c) },
        },
      ),
    );
  }
}

/** The width a column would like. */
function naturalWidth(column: FigureColumn): number {
  const heading = textWidth(column.heading, HEAD_SIZE) + 2;
  if (column.kind === 'text') return Math.max(heading, Math.min(260, widest(column.texts, SIZE)));
  const numbers = SAYS_IT.has(column.cell)
    ? 0
    : Math.max(widest(column.texts, SIZE), textWidth(column.total, SIZE, 600));
  const figure = FIGURE[column.cell];
  return Math.max(Math.min(heading, 140), numbers + figure + (numbers > 0 && figure > 0 ? 10 : 0));
}

/** How far figures and names can give way, as parts of what they would like. */
const GIVES = { figure: 0.66, name: 0.8 } as const;
/** Width of figures that may give way; narrow ones have one size. */
const figureRoom = (column: FigureColumn) =>
  column.kind === 'number' && FIGURE[column.cell] >= 80 ? FIGURE[column.cell] : 0;
/** What of a column of names may give way: its heading and, of names, as much as tells them apart stay. */
const nameRoom = (column: FigureColumn, natural: number) =>
  column.kind === 'text' && !column.numeric
    ? Math.max(0, natural - Math.min(LEAST_NAMES, textWidth(column.heading, HEAD_SIZE)))
    : 0;
/** Pixels that headings of names keep, if they need them. */
const LEAST_NAMES = 120;
function leastWidth(columns: readonly FigureColumn[], natural: readonly number[]): number {
  const least = columns.map(
    (column, c) => natural[c]! - figureRoom(column) * GIVES.figure - nameRoom(column, natural[c]!) * GIVES.name,
  );
  return least.reduce((sum, width) => sum + width, 0) + GAP * Math.max(0, columns.length - 1);
}

/** Columns from left to right; where there is not room for all, figures give way first, then names; where there is more, it goes to the figures. */
function placeColumns(
  columns: readonly FigureColumn[],
  natural: readonly number[],
  asked: number,
  room: number,
): PlacedColumn[] {
  const wide = columns.map(figureRoom);
  const figures = wide.reduce((sum, one) => sum + one, 0);
  const short = asked - room;
  // Figures shrink to a third of their width, or grow to three times.
  const share = figures === 0 ? 0 : Math.max(-2.2, Math.min(GIVES.figure, short / figures));
  const left = short - share * figures;
  const texts = columns.map((column, c) => nameRoom(column, natural[c]!));
  const names = texts.reduce((sum, one) => sum + one, 0);
  const squeeze = names > 0 && left > 0 ? Math.min(GIVES.name, left / names) : 0;
  let x = PAD;
  return columns.map((column, c) => {
    const width = natural[c]! - wide[c]! * share - texts[c]! * squeeze;
    const figureWidth = column.kind === 'number' ? FIGURE[column.cell] - wide[c]! * share : 0;
    const placed: PlacedColumn = { column, x, width, figure: figureWidth > 0 ? { x, width: figureWidth } : null };
    x += width + GAP;
    return placed;
  });
}

function headings(placed: readonly PlacedColumn[], top: number, width: number): Mark[] {
  const marks = placed.map(({ column, x, width: room }, c): Mark => {
    const end = column.kind === 'number' || column.numeric;
    const text = shorten(column.heading, room + GAP - 6, HEAD_SIZE);
    const mark = textMark('label', text, end ? x + room : x, top + HEAD - 10, HEAD_SIZE, {
      anchor: end ? 'end' : 'start',
      paint: { fill: QUIET },
      row: { ...NO_ROW, part: partAt(placed, -1, c) },
    });
    if (column.kind === 'text') return mark;
    return { ...mark, column: column.id, ...(column.sorts ? { sorts: column.sorts } : {}) };
  });
  return [
    ...marks,
    lineMark('tick', NO_ROW, { x1: PAD, y1: top + HEAD, x2: width - PAD, y2: top + HEAD }, null, {
      stroke: INK,
      strokeWidth: 1,
    }),
  ];
}
