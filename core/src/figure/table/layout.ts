import { writingOf } from '../../format';
import { AHEAD, BEHIND, encodeRow, HAIRLINE, INK, LEVEL, QUIET, textOn } from '../../highlight';
import { judgementAt, rowSource, type Cells } from '../../query';
import { shorten, shortenAll, textWidth, type Mark, type Scene } from '../../scene';
import type { FigureRequest } from '../form';
import {
  badgeMark,
  barPaint,
  centred,
  footOf,
  headOf,
  heightOf,
  lineMark,
  NO_ROW,
  PAD,
  textMark,
  type Belonging,
  type Box,
  type LegendEntry,
} from '../frame';
import { barInCell, shareInCell } from '../incell/bars';
import { scaleOver, together, type CellScale } from '../incell/scale';
import { dotInCell, faceInCell, inkBetween, rampInCell, type Mood } from '../incell/scores';
import { sparkColumns, sparkLine } from '../incell/spark';
import { rowKey, spoken } from '../names';
import { cellMark, nullIfBlank, widest } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { isRunning } from '../time/running';
import type { FigureColumn, FigureNumbers, TableCells } from './columns';

const SIZE = 13;
const HEAD_SIZE = 11.5;
const ROW = 28;
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
/** Cells whose figure says the number itself. */
const SAYS_IT = new Set<FigureNumbers['cell']>(['dot']);

interface Placed {
  readonly column: FigureColumn;
  readonly x: number;
  readonly width: number;
  /** Where a number's figure stands within its column. */
  readonly figure: { readonly x: number; readonly width: number } | null;
}

export interface TableLook {
  readonly called: string;
  readonly hasTotals: boolean;
  readonly legend: readonly LegendEntry[];
}

/** Rows of a table with figures in their cells: each as high as a line of text allows, no more. */
export function tableScene(
  request: FigureRequest,
  data: TableCells,
  columns: readonly FigureColumn[],
  { called, hasTotals, legend }: TableLook,
): Scene {
  const { look } = request;
  const { rows } = data;
  const writing = writingOf(rows);
  const natural = columns.map(naturalWidth);
  const asked = natural.reduce((sum, width) => sum + width, 0) + GAP * Math.max(0, columns.length - 1);
  // A paper narrower than the columns can be made is made wider.
  const width = Math.max(
    look.width ?? Math.max(DEFAULT_WIDTH, Math.min(1600, asked + 2 * PAD)),
    leastWidth(columns, natural) + 2 * PAD,
  );
  const placed = placeColumns(columns, natural, asked, width - 2 * PAD);
  const head = headOf({ ...request, cells: rows }, width, writing);
  const foot = footOf({ ...request, cells: rows }, width, legend);
  const totals = hasTotals && rows.count > 1 ? ROW : 0;
  const top = head.bottom + HEAD;
  const needed = top + rows.count * ROW + totals + 6 + foot.height;
  const height = heightOf(look.height, needed, head, foot, HEAD + ROW + totals + 6);
  const bottom = height - foot.height - totals - 6;
  const marks: Mark[] = [...head.marks, ...headings(placed, head.bottom, width)];
  const scales = scalesOf(placed, data);
  const shown = placed.map(({ column, width: room }) =>
    column.kind === 'text' && !column.numeric ? shortenAll(column.texts, room, SIZE) : column.texts,
  );
  let dropped = 0;
  const cellMarks: Mark[] = [];
  for (let row = 0; row < rows.count; row++) {
    const y = top + row * ROW;
    // A paper that is too low shows the rows it holds.
    if (y + ROW > bottom + 0.5) {
      dropped++;
      continue;
    }
    const of = rowKey(rows, row);
    placed.forEach((place, c) => drawCell(marks, request, data, place, shown[c]![row]!, scales[c]!, row, { ...of, y }));
    marks.push(
      lineMark('tick', of, { x1: PAD, y1: y + ROW, x2: width - PAD, y2: y + ROW }, null, {
        stroke: HAIRLINE,
        strokeWidth: 0.5,
      }),
    );
    cellMarks.push(cellMark(rows, row, of, { x: PAD - 6, y, width: width - 2 * PAD + 12, height: ROW }));
  }
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
    scroll: { top, bottom: top + (rows.count - dropped) * ROW, row: ROW },
  };
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
const GIVES = { figure: 0.66, name: 0.75 } as const;

/** Width of figures that may give way; narrow ones have one size. */
const figureRoom = (column: FigureColumn) =>
  column.kind === 'number' && FIGURE[column.cell] >= 80 ? FIGURE[column.cell] : 0;
const nameRoom = (column: FigureColumn, natural: number) => (column.kind === 'text' && !column.numeric ? natural : 0);

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
): Placed[] {
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
    const placed: Placed = { column, x, width, figure: figureWidth > 0 ? { x, width: figureWidth } : null };
    x += width + GAP;
    return placed;
  });
}

function headings(placed: readonly Placed[], top: number, width: number): Mark[] {
  const marks = placed.map(({ column, x, width: room }): Mark => {
    const end = column.kind === 'number' || column.numeric;
    const text = shorten(column.heading, room + GAP - 6, HEAD_SIZE);
    const mark = textMark('label', text, end ? x + room : x, top + HEAD - 10, HEAD_SIZE, {
      anchor: end ? 'end' : 'start',
      paint: { fill: QUIET },
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

type Scales = (row: number) => CellScale;

/** The scale of each column's cells: its own, one it shares with others, or each row's. */
function scalesOf(placed: readonly Placed[], { stepped }: TableCells): Scales[] {
  const columns = placed.map(({ column }) => (column.kind === 'number' ? column : null));
  const stepValues = (column: FigureNumbers, row: number) =>
    (column.steps?.[row]?.rows ?? []).map((at) => stepped!.actual[at]!);
  const isSpark = ({ cell }: FigureNumbers) => cell === 'spark columns' || cell === 'spark line';
  const ofRow = (column: FigureNumbers, row: number) =>
    scaleOver(
      isSpark(column)
        ? stepValues(column, row)
        : [column.values[row]!, column.cell === 'bullet' ? (column.references?.[row] ?? NaN) : NaN],
    );
  const ofColumn = (column: FigureNumbers) =>
    column.values.reduce((scale, _, row) => together(scale, ofRow(column, row)), scaleOver([]));
  const whole = columns.map((column) => (column ? ofColumn(column) : scaleOver([])));
  const shared = columns.reduce(
    (scale, column, c) => (column?.scale === 'shared' ? together(scale, whole[c]!) : scale),
    scaleOver([]),
  );
  return columns.map((column, c): Scales => {
    if (column?.scale === 'shared') return () => shared;
    if (column?.scale !== 'row') return () => whole[c]!;
    if (isSpark(column)) return (row) => ofRow(column, row);
    const others = columns.filter((one): one is FigureNumbers => one?.scale === 'row' && !isSpark(one));
    return (row) => others.reduce((scale, one) => together(scale, ofRow(one, row)), scaleOver([]));
  });
}

function drawCell(
  marks: Mark[],
  request: FigureRequest,
  { rows, stepped }: TableCells,
  { column, x, width, figure }: Placed,
  text: string,
  scales: Scales,
  row: number,
  of: Belonging & { readonly y: number },
): void {
  const { y } = of;
  const belongs: Belonging = { key: of.key, step: of.step };
  const base = centred(y + ROW / 2, SIZE);
  const encoding = encodeRow(request.highlight, rows, row);
  if (column.kind === 'text') {
    const end = column.numeric;
    marks.push(
      textMark('label', text, end ? x + width : x, base, SIZE, {
        anchor: end ? 'end' : 'start',
        weight: encoding.bold && textWidth(text, SIZE, 600) <= width ? 600 : 400,
        paint: { fill: end ? QUIET : INK },
        row: belongs,
      }),
    );
    return;
  }
  const value = column.values[row]!;
  const scale = scales(row);
  const box: Box = { x: figure?.x ?? x, y, width: figure?.width ?? width, height: ROW };
  const lit = request.cells.brief.lit !== null && encoding.rule ? encoding : null;
  const isMain = column.references !== null || column.sorts === 'value';
  // Standings colour what is held against something; other bars are plain.
  const painted = isMain && (rows.benchmarks !== null || lit) ? barPaint(encoding) : { fill: INK };
  const rule = isMain ? encoding.rule : null;
  let fill = INK;
  switch (column.cell) {
    case 'number':
      break;
    case 'bar':
      barInCell(marks, belongs, box, value, scale, painted, rule);
      break;
    case 'bullet':
      barInCell(marks, belongs, box, value, scale, painted, rule, column.references?.[row] ?? NaN);
      break;
    case 'share bar':
      shareInCell(marks, belongs, box, value, painted, rule);
      break;
    case 'spark columns':
    case 'spark line': {
      const steps = (column.steps?.[row]?.rows ?? []).map((at) => {
        const found = request.cells.brief.lit === null ? null : encodeRow(request.highlight, stepped!, at);
        return {
          of: rowKey(stepped!, at),
          value: stepped!.actual[at]!,
          runs: isRunning(stepped!, at),
          lit: found?.rule ? found : null,
        };
      });
      (column.cell === 'spark columns' ? sparkColumns : sparkLine)(marks, box, steps, scale, belongs);
      break;
    }
    case 'delta': {
      const badge = deltaBadge(column, rows, row, value);
      fill = badge.ink;
      if (badge.badge && !Number.isNaN(value))
        marks.push(
          badgeMark(badge.badge, x + width - textWidth(text, SIZE, 400) - 12, y + ROW / 2, fill, rule, belongs),
        );
      break;
    }
    case 'dot': {
      const [low, high] = spanOf(column);
      dotInCell(marks, belongs, { ...box, x: x + width - 24, width: 24 }, value, inkBetween(value, low, high));
      return;
    }
    case 'face': {
      const { mood, ink } = moodOf(column, rows, row, value);
      faceInCell(marks, belongs, box, value, mood, ink);
      break;
    }
    case 'ramp': {
      const [low, high] = spanOf(column);
      const ink = inkBetween(value, low, high);
      rampInCell(marks, belongs, { ...box, x: x - 6, width: width + 12 }, value, ink);
      fill = Number.isNaN(value) ? INK : textOn(ink);
      break;
    }
  }
  marks.push(
    textMark(column.cell === 'delta' ? 'gap' : 'value', text, x + width, base, SIZE, {
      anchor: 'end',
      paint: { fill },
      row: belongs,
      rule: column.cell === 'delta' ? rule : null,
      value: nullIfBlank(value),
    }),
  );
}

/** Least and greatest of a column. */
function spanOf({ values }: FigureNumbers): readonly [number, number] {
  const there = values.filter((value) => !Number.isNaN(value));
  return there.length === 0 ? [0, 1] : [there.reduce((a, b) => Math.min(a, b)), there.reduce((a, b) => Math.max(a, b))];
}

/** How a change is marked: a gap by its standing, another change by its sign and its measure's aim. */
function deltaBadge(
  column: FigureNumbers,
  rows: Cells,
  row: number,
  value: number,
): { badge: 'up' | 'level' | 'down' | null; ink: string } {
  if (column.sorts === 'gap percent') {
    const { standing } = judgementAt(rows, row);
    if (standing === null) return { badge: null, ink: INK };
    return {
      ahead: { badge: 'up', ink: AHEAD },
      level: { badge: 'level', ink: LEVEL },
      behind: { badge: 'down', ink: BEHIND },
    }[standing] as {
      badge: 'up' | 'level' | 'down';
      ink: string;
    };
  }
  if (value === 0) return { badge: 'level', ink: LEVEL };
  const isGood = value > 0 === (column.measure?.aim !== 'cut');
  return { badge: value > 0 ? 'up' : 'down', ink: column.measure?.aim === 'hold' ? LEVEL : isGood ? AHEAD : BEHIND };
}

/** Good, fair or poor: as it stands to its benchmark, or by thirds of its column. */
function moodOf(column: FigureNumbers, rows: Cells, row: number, value: number): { mood: Mood; ink: string } {
  const inks = { good: AHEAD, fair: LEVEL, poor: BEHIND };
  const { standing } = column.references ? judgementAt(rowSource(rows, row)[0], row) : { standing: null };
  if (standing !== null) {
    const mood = ({ ahead: 'good', level: 'fair', behind: 'poor' } as const)[standing];
    return { mood, ink: inks[mood] };
  }
  const [low, high] = spanOf(column);
  const part = high === low ? 0.5 : (value - low) / (high - low);
  const better = column.measure?.aim === 'cut' ? 1 - part : part;
  const mood = better >= 2 / 3 ? 'good' : better < 1 / 3 ? 'poor' : 'fair';
  return { mood, ink: inks[mood] };
}
