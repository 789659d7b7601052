import { AHEAD, BEHIND, encodeGap, encodeRow, INK, LEVEL, QUIET, textOn } from '../../highlight';
import { judgementAt, rowSource, type Cells } from '../../query';
import { textWidth, type Box, type Mark } from '../../scene';
import type { FigureRequest } from '../form';
import { badgeMark, barPaint, centred, rectMark, textMark, type Belonging } from '../shapes';
import { gapPercentText } from '../texts';
import { barInCell, shareInCell, trackInCell } from '../incell/bars';
import { scaleOver, together, type CellScale } from '../incell/scale';
import { moodAt } from './scores';
import { dotInCell, faceInCell, inkBetween, rampInCell, type Mood } from '../incell/scores';
import { sparkColumns, sparkLine, type SparkStep } from '../incell/spark';
import { rowKey } from '../names';
import { nullIfBlank } from '../rows/parts';
import { isRunning } from '../time/running';
import type { FigureColumn, FigureNumbers, TableCells } from './columns';

export const SIZE = 13;
export const ROW = 28;
export interface PlacedColumn {
  readonly column: FigureColumn;
  readonly x: number;
  readonly width: number;
  /** Where a number's figure stands within its column. */
  readonly figure: { readonly x: number; readonly width: number } | null;
}

/** Cells whose figure says the number itself. */
export const SAYS_IT = new Set<FigureNumbers['cell']>(['dot']);
/** Whether a column's figures take the inks of a highlight. */
export const paintsFirst = ({ cell }: FigureNumbers): boolean => ['bar', 'bullet', 'share bar'].includes(cell);

/** Whether a highlight paints its rows: the one of the brief, or how they stand. */
export const isPainted = ({ brief, benchmarks }: Cells): boolean => brief.lit !== null || benchmarks !== null;

/** How strong the ground of a painted row or cell is: letters can be read on it. */
export const PAINTED = 0.16;

type Scales = (row: number) => CellScale;
/** The scale of each column's cells: its own, one it shares with others, or each row's. */
export function scalesOf(placed: readonly PlacedColumn[], { stepped }: TableCells): Scales[] {
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
  const ofColumn = (column: FigureNumbers): CellScale =>
    column.cell === 'bar' && column.ends
      ? column.ends
      : column.values.reduce((scale, _, row) => together(scale, ofRow(column, row)), scaleOver([]));
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

export function drawCell(
  marks: Mark[],
  request: FigureRequest,
  { rows, stepped }: TableCells,
  { column, x, width, figure }: PlacedColumn,
  text: string,
  scales: Scales,
  row: number,
  of: Belonging & { readonly y: number },
): void {
  const { y } = of;
  const belongs: Belonging = { key: of.key, step: of.step, part: of.part };
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
  const lit = isPainted(rows) && encoding.rule ? encoding : null;
  const isMain = column.references !== null || column.sorts === 'value';
  // Standings colour what is held against something; other bars are plain.
  const isPaintedElse = request.look.paints !== undefined;
  const painted = isMain && !isPaintedElse && isPainted(rows) ? barPaint(encoding) : { fill: INK };
  const rule = isMain ? encoding.rule : null;
  if (lit && isMain && request.look.paints === 'column')
    marks.push(
      rectMark(
        'band',
        belongs,
        { x: x - 6, y: y + 1, width: width + 12, height: ROW - 2 },
        value,
        {
          fill: lit.ink,
          opacity: PAINTED,
        },
        rule,
      ),
    );
  let fill = INK;
  let told: string | null = null;
  switch (column.cell) {
    case 'number':
      break;
    case 'bar':
      // Scores have a whole: how much of it there is can be seen.
      if (column.ends) trackInCell(marks, belongs, box);
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
      const steps = sparkSteps(request, column, stepped!, row);
      (column.cell === 'spark columns' ? sparkColumns : sparkLine)(marks, box, steps, scale, belongs);
      break;
    }
    case 'delta': {
      const badge = deltaBadge(request, column, rows, row, value);
      fill = badge.ink;
      told = badge.rule;
      // What is new has a standing and no percentage.
      if (badge.badge && (!Number.isNaN(value) || text === gapPercentText(rows, row)))
        marks.push(
          badgeMark(badge.badge, x + width - textWidth(text, SIZE, 400) - 12, y + ROW / 2, fill, told, belongs),
        );
      break;
    }
    case 'dot': {
      const { low, high } = column.ends!;
      dotInCell(
        marks,
        belongs,
        { ...box, x: x + width - 24, width: 24 },
        value,
        inkBetween(value, low, high, column.measure?.aim),
      );
      return;
    }
    case 'face': {
      const { mood, ink } = moodOf(column, rows, row, value);
      faceInCell(marks, belongs, box, value, mood, ink);
      break;
    }
    case 'ramp': {
      const { low, high } = column.ends!;
      const ink = inkBetween(value, low, high, column.measure?.aim);
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
      rule: told,
      value: nullIfBlank(value),
    }),
  );
}

/** The steps of a row’s small columns or line, with what a highlight that the brief names paints them. */
export function sparkSteps(
  { cells, highlight }: FigureRequest,
  column: FigureNumbers,
  stepped: Cells,
  row: number,
): SparkStep[] {
  return (column.steps?.[row]?.rows ?? []).map((at) => {
    const found = cells.brief.lit === null ? null : encodeRow(highlight, stepped, at);
    return {
      of: rowKey(stepped, at),
      value: stepped.actual[at]!,
      runs: isRunning(stepped, at),
      lit: found?.rule ? found : null,
    };
  });
}

/** How a change is marked: a gap by its standing, another change by its sign and its measure's aim. */
function deltaBadge(
  request: FigureRequest,
  column: FigureNumbers,
  rows: Cells,
  row: number,
  value: number,
): { badge: 'up' | 'level' | 'down' | null; ink: string; rule: string | null } {
  if (column.sorts === 'gap percent') {
    const { badge, text, rule } = encodeGap(request, rows, row);
    return { badge: badge ?? null, ink: text, rule };
  }
  const own = (badge: 'up' | 'level' | 'down', ink: string) => ({ badge, ink, rule: null });
  if (value === 0) return own('level', LEVEL);
  const isGood = value > 0 === (column.measure?.aim !== 'cut');
  return own(value > 0 ? 'up' : 'down', column.measure?.aim === 'hold' ? LEVEL : isGood ? AHEAD : BEHIND);
}

/** Good, fair or poor: as it stands to its benchmark, or by the edges of its column. */
function moodOf(column: FigureNumbers, rows: Cells, row: number, value: number): { mood: Mood; ink: string } {
  const inks = { good: AHEAD, fair: LEVEL, poor: BEHIND };
  const { standing } = column.moods ? { standing: null } : judgementAt(rowSource(rows, row)[0], row);
  if (column.moods === null && standing === null) return { mood: 'fair', ink: LEVEL };
  const mood = column.moods
    ? moodAt(value, column.moods, column.measure)
    : ({ ahead: 'good', level: 'fair', behind: 'poor' } as const)[standing!];
  return { mood, ink: inks[mood] };
}
