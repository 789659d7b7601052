import { writingOf } from '../../format';
import { encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { listed } from '../../problem';
import { shorten, shortenAll, textWidth, type Mark, type Part, type Scene } from '../../scene';
import type { FigureRequest } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import type { LegendEntry } from '../legend';
import { centred, lineMark, NO_ROW, rectMark, textMark } from '../shapes';
import { cellLegend } from './cellLegend';
import { moreWords } from '../more';
import { rowKey, spoken } from '../names';
import { leastOfRows, MORE } from '../room';
import { cellMark, widest } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import type { FigureColumn, FigureNumbers, TableCells } from './columns';
import type { TableLine } from './subtotals';
import { isPainted, PAINTED, SAYS_IT, scalesOf, drawCell, SIZE, ROW, type PlacedColumn } from './cell';

const HEAD_SIZE = 11.5;
const MORE_SIZE = 11;
const HEAD = 30;
const GAP = 18;
/** Pixels of height from which the whole has a row of its own. */
const LEAST_WITH_TOTALS = 180;
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
  all: readonly FigureColumn[],
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
  const wanted = all.map((column) => {
    if (isAbove(column)) return Math.max(24, textWidth(column.heading, HEAD_SIZE) + 2);
    const sums = column.kind === 'number' ? subtotals.map(({ texts }) => texts.get(column.id) ?? '') : [];
    return Math.max(naturalWidth(column), widest(sums, SIZE, 600));
  });
  const { columns, natural, names, aside } = columnsFor(all, wanted, look.width);
  const asked = natural.reduce((sum, width) => sum + width, 0) + GAP * Math.max(0, columns.length - 1);
  // A paper narrower than names and a first number can be made is made wider.
  const width = Math.max(
    look.width ?? Math.max(DEFAULT_WIDTH, Math.min(1600, asked + 2 * PAD)),
    leastWidth(columns, natural, names) + 2 * PAD,
  );
  const placed = placeColumns(columns, natural, names, asked, width - 2 * PAD);
  const head = headOf({ ...request, cells: rows }, width, writing);
  const foot = footOf({ ...request, cells: rows }, width, [...legend, ...cellLegend(request, rows, columns, writing)]);
  // On very low paper a row is worth more than the whole, which the title says.
  const totals = hasTotals && rows.count > 1 && (look.height ?? Infinity) >= LEAST_WITH_TOTALS ? ROW : 0;
  const top = head.bottom + HEAD;
  const needed = top + lines.length * ROW + totals + 6 + (aside.length > 0 ? MORE : 0) + foot.height;
  const least = leastOfRows(look.height, lines.length, HEAD + totals + 6, { pitch: ROW });
  const height = heightOf(request, needed, head, foot, least);
  const bottom = height - foot.height - totals - 6;
  // A paper that is too low shows the rows it holds, and how many it does not.
  const below = aside.length > 0 ? bottom - MORE : bottom;
  const last = top + lines.length * ROW > below + 0.5 ? bottom - MORE : below;
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
  const told = moreTold(unseen.length > 0 ? moreWords(rows, unseen, writing) : '', aside, width - 2 * PAD);
  if (told !== '') marks.push(textMark('label', told, PAD, bottom - 6, MORE_SIZE, { paint: { fill: QUIET } }));
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
    description: `${spoken(called, rows)}${aside.length === 0 ? '' : ` Without room here: ${listed(aside, 'and')}.`}`,
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

/**
 * The columns that paper of a width has room for: numbers step aside from the right, the first stays. What is not seen is told.
 * @param width left out where the paper is as wide as its columns need
 */
function columnsFor(
  all: readonly FigureColumn[],
  wanted: readonly number[],
  width: number | undefined,
): {
  readonly columns: readonly FigureColumn[];
  readonly natural: readonly number[];
  /** Pixels that names keep, if they need them. */
  readonly names: number;
  /** Headings of those that are not seen. */
  readonly aside: readonly string[];
} {
  let names = LEAST_NAMES;
  const seen = all.map((_, c) => c);
  const aside: string[] = [];
  const picked = <T>(list: readonly T[]) => seen.map((c) => list[c]!);
  while (width !== undefined && leastWidth(picked(all), picked(wanted), names) > width - 2 * PAD) {
    const numbers = seen.filter((c) => all[c]!.kind === 'number');
    if (numbers.length < 2) {
      names = VERY_LEAST_NAMES;
      break;
    }
    const [last] = numbers.slice(-1);
    aside.unshift(all[last!]!.heading);
    seen.splice(seen.indexOf(last!), 1);
  }
  return { columns: picked(all), natural: picked(wanted), names, aside };
}

/** What a table has no room for, in one line: its rows, and its columns by their names where these fit. */
function moreTold(rows: string, aside: readonly string[], width: number): string {
  const count = aside.length === 1 ? '1 more column' : `${aside.length} more columns`;
  const columns = aside.length === 0 ? [] : [`${count}: ${listed(aside, 'and')}`, count];
  const before = rows === '' ? '' : `${rows} · `;
  const texts = columns.map((text) => `${before}${text}`);
  return texts.find((text) => textWidth(text, MORE_SIZE) <= width) ?? texts.at(-1) ?? rows;
}

/** How far figures can give way, as a part of what they would like. */
const GIVES = 0.66;
/** Width of figures that may give way; narrow ones have one size. */
const figureRoom = (column: FigureColumn) =>
  column.kind === 'number' && FIGURE[column.cell] >= 80 ? FIGURE[column.cell] : 0;
/** What of a column of names may give way: short names stay whole, of long ones as much as tells them apart. */
const nameRoom = (column: FigureColumn, natural: number, least: number) =>
  column.kind === 'text' && !column.numeric ? Math.max(0, natural - least) : 0;
/** Pixels that names keep beside numbers, and beside a single one. */
const LEAST_NAMES = 96;
const VERY_LEAST_NAMES = 48;
function leastWidth(columns: readonly FigureColumn[], natural: readonly number[], names: number): number {
  const least = columns.map(
    (column, c) => natural[c]! - figureRoom(column) * GIVES - nameRoom(column, natural[c]!, names),
  );
  return least.reduce((sum, width) => sum + width, 0) + GAP * Math.max(0, columns.length - 1);
}

/** Columns from left to right; where there is not room for all, figures give way first, then names; where there is more, it goes to the figures. */
function placeColumns(
  columns: readonly FigureColumn[],
  natural: readonly number[],
  leastNames: number,
  asked: number,
  room: number,
): PlacedColumn[] {
  const wide = columns.map(figureRoom);
  const figures = wide.reduce((sum, one) => sum + one, 0);
  const short = asked - room;
  // Figures shrink to a third of their width, or grow to three times.
  const share = figures === 0 ? 0 : Math.max(-2.2, Math.min(GIVES, short / figures));
  const left = short - share * figures;
  const texts = columns.map((column, c) => nameRoom(column, natural[c]!, leastNames));
  const names = texts.reduce((sum, one) => sum + one, 0);
  const squeeze = names > 0 && left > 0 ? Math.min(1, left / names) : 0;
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
