import { membersIn, writingOf } from '../../format';
import { encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { listed } from '../../problem';
import { shorten, shortenAll, textWidth, type Mark, type Part, type Scene } from '../../scene';
import type { Cells } from '../../query';
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
import { columnsFor, GAP, HEAD_SIZE, leastWidth, naturalWidth, placeColumns } from './columnRoom';
import type { FigureColumn, TableCells } from './columns';
import type { TableLine } from './subtotals';
import { isPainted, PAINTED, scalesOf, drawCell, SIZE, ROW, type PlacedColumn } from './cell';

const MORE_SIZE = 11;
const HEAD = 30;
/** Pixels of height from which the whole has a row of its own. */
const LEAST_WITH_TOTALS = 180;
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
  const foot = footOf({ ...request, cells: rows }, width, [...legend, ...cellLegend(request, data, columns, writing)]);
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
            ? totalName(rows)
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

/** What a table has no room for, in one line: its rows, and its columns by their names where these fit. */
function moreTold(rows: string, aside: readonly string[], width: number): string {
  const count = aside.length === 1 ? '1 more column' : `${aside.length} more columns`;
  const columns = aside.length === 0 ? [] : [`${count}: ${listed(aside, 'and')}`, count];
  const before = rows === '' ? '' : `${rows} · `;
  const texts = columns.map((text) => `${before}${text}`);
  return texts.find((text) => textWidth(text, MORE_SIZE) <= width) ?? texts.at(-1) ?? rows;
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

/** Whose numbers the foot has: all, or those that a selection has kept. */
function totalName(rows: Cells): string {
  if (!rows.isSelection) return 'all';
  const shown = membersIn(rows);
  return shown === 1 ? 'this one' : `these ${shown}`;
}
