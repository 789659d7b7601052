import {
  appendBezierCurve,
  appendQuadraticCurve,
  beginText,
  clip,
  closePath,
  concatTransformationMatrix,
  endMarkedContent,
  endPath,
  endText,
  fill,
  fillAndStroke,
  lineTo,
  moveTo,
  popGraphicsState,
  pushGraphicsState,
  setDashPattern,
  setFillingRgbColor,
  setFontAndSize,
  setGraphicsState,
  setLineWidth,
  setStrokingRgbColor,
  setTextMatrix,
  showText,
  stroke,
  type PDFHexString,
  type PDFOperator,
} from '@cantoo/pdf-lib';
import { PATTERN_GROUND, PATTERN_TILES, textWidth, type Mark, type Paint, type Scene } from '../scene';

type Box = readonly [x0: number, y0: number, x1: number, y1: number];

/** What a sheet lends to the marks on it: fonts by their names there, and opacities. */
export interface Inkwell {
  /** A text in pieces, each in a font that has its letters. */
  pieces(
    text: string,
    weight: 400 | 600,
  ): readonly { readonly font: string; readonly codes: PDFHexString; readonly width: number }[];
  opacity(of: number): string;
}

/** Space around a circle's quarter that makes a Bézier curve of it. */
const QUARTER = 0.5522847498;

/** Content that is told as a part of the page: what stands before it and behind it. */
export interface Telling {
  /** The part that tells a mark; null for what only adorns. */
  of(mark: Mark): object | null;
  begin(part: object | null): PDFOperator;
}

/**
 * The marks of a scene as operators, its left upper corner at (x, y), in CSS pixels with y downward; each stretch of marks that one part
 * tells as its content.
 */
export function penned(
  scene: Scene,
  { x, y, paper }: { readonly x: number; readonly y: number; readonly paper: string | null },
  inkwell: Inkwell,
  telling: Telling,
): PDFOperator[] {
  const operators = [pushGraphicsState(), concatTransformationMatrix(1, 0, 0, 1, x, y)];
  const marks = scene.marks.filter((mark) => mark.role !== 'cell' && !(mark.shape === 'text' && mark.text === ''));
  if (paper)
    operators.push(
      telling.begin(null),
      ink(paper),
      ...boxPath([0, 0, scene.width, scene.height]),
      fill(),
      END_OF_CONTENT,
    );
  for (let at = 0; at < marks.length;) {
    const part = telling.of(marks[at]!);
    operators.push(telling.begin(part));
    for (; at < marks.length && telling.of(marks[at]!) === part; at++) {
      const next = marks[at + 1];
      // Words of two lines of one part are two words.
      const goesOn = next !== undefined && part !== null && telling.of(next) === part;
      operators.push(...markOf(marks[at]!, inkwell, goesOn ? ' ' : ''));
    }
    operators.push(END_OF_CONTENT);
  }
  return [...operators, popGraphicsState()];
}

const END_OF_CONTENT = endMarkedContent();

function markOf(mark: Mark, inkwell: Inkwell, behind: string): PDFOperator[] {
  const { paint } = mark;
  const operators = [pushGraphicsState()];
  if (paint.opacity !== undefined) operators.push(setGraphicsState(inkwell.opacity(paint.opacity)));
  if (mark.shape === 'text') {
    if (paint.fill) operators.push(ink(paint.fill), ...textOf(mark, inkwell, behind));
    return [...operators, popGraphicsState()];
  }
  const path = pathOf(mark);
  if (paint.pattern && paint.fill) operators.push(...patterned(path, boxOf(mark), paint, inkwell));
  else if (paint.fill && mark.shape !== 'line') operators.push(ink(paint.fill));
  if (paint.stroke) {
    operators.push(setStrokingRgbColor(...channels(paint.stroke)), setLineWidth(paint.strokeWidth ?? 1));
    if (paint.dash) operators.push(setDashPattern([...paint.dash], 0));
  }
  const isFilled = paint.fill !== undefined && !paint.pattern && mark.shape !== 'line';
  if (isFilled || paint.stroke)
    operators.push(...path, isFilled && paint.stroke ? fillAndStroke() : isFilled ? fill() : stroke());
  return [...operators, popGraphicsState()];
}

/** The outline of a mark. */
function pathOf(mark: Exclude<Mark, { shape: 'text' }>): PDFOperator[] {
  switch (mark.shape) {
    case 'rect':
      return boxPath([mark.x, mark.y, mark.x + mark.width, mark.y + mark.height]);
    case 'line':
      return [moveTo(mark.x1, mark.y1), lineTo(mark.x2, mark.y2)];
    case 'circle': {
      const { cx, cy, r } = mark;
      const k = QUARTER * r;
      return [
        moveTo(cx + r, cy),
        appendBezierCurve(cx + r, cy + k, cx + k, cy + r, cx, cy + r),
        appendBezierCurve(cx - k, cy + r, cx - r, cy + k, cx - r, cy),
        appendBezierCurve(cx - r, cy - k, cx - k, cy - r, cx, cy - r),
        appendBezierCurve(cx + k, cy - r, cx + r, cy - k, cx + r, cy),
        closePath(),
      ];
    }
    case 'arc': {
      const { cx, cy, r0, r1, a0, a1 } = mark;
      return [...bow(cx, cy, r1, a0, a1, moveTo), ...bow(cx, cy, r0, a1, a0, lineTo), closePath()];
    }
    case 'path':
      return commandsOf(mark.d);
  }
}

/** A part of a circle from angle to angle, in curves of at most a quarter; `enter` leads to where it begins. */
function bow(cx: number, cy: number, r: number, from: number, to: number, enter: typeof lineTo): PDFOperator[] {
  const parts = Math.max(1, Math.ceil(Math.abs(to - from) / (Math.PI / 2)));
  const step = (to - from) / parts;
  const reach = (4 / 3) * Math.tan(step / 4) * r;
  const operators = [enter(cx + r * Math.sin(from), cy - r * Math.cos(from))];
  for (let i = 0; i < parts; i++) {
    const [a, b] = [from + i * step, from + (i + 1) * step];
    operators.push(
      appendBezierCurve(
        cx + r * Math.sin(a) + reach * Math.cos(a),
        cy - r * Math.cos(a) + reach * Math.sin(a),
        cx + r * Math.sin(b) - reach * Math.cos(b),
        cy - r * Math.cos(b) - reach * Math.sin(b),
        cx + r * Math.sin(b),
        cy - r * Math.cos(b),
      ),
    );
  }
  return operators;
}

/** Path data as figures write it: absolute M, L, C and Q, lines on from where it is (l), and Z. */
function commandsOf(d: string): PDFOperator[] {
  let [x, y] = [0, 0];
  const operators: PDFOperator[] = [];
  for (const [, command, rest] of d.matchAll(/([a-zA-Z])([^a-zA-Z]*)/g)) {
    const n = (rest!.match(/-?[\d.]+/g) ?? []).map(Number);
    const size = { M: 2, L: 2, l: 2, Q: 4, C: 6 }[command!] ?? 0;
    for (let at = 0; at < Math.max(1, n.length); at += size || 1) {
      const c = n.slice(at, at + size) as [number, number, number, number, number, number];
      const from = command === 'l' ? [x, y] : [0, 0];
      if (size > 0) [x, y] = [from[0]! + c[size - 2]!, from[1]! + c[size - 1]!];
      if (command === 'M') operators.push(moveTo(x, y));
      else if (size === 2) operators.push(lineTo(x, y));
      else if (size === 4) operators.push(appendQuadraticCurve(c[0], c[1], x, y));
      else if (size === 6) operators.push(appendBezierCurve(c[0], c[1], c[2], c[3], x, y));
      else operators.push(closePath());
    }
  }
  return operators;
}

function boxPath([x0, y0, x1, y1]: Box): PDFOperator[] {
  return [moveTo(x0, y0), lineTo(x1, y0), lineTo(x1, y1), lineTo(x0, y1), closePath()];
}

/** Where a mark lies at most. */
function boxOf(mark: Exclude<Mark, { shape: 'text' }>): Box {
  switch (mark.shape) {
    case 'rect':
      return [mark.x, mark.y, mark.x + mark.width, mark.y + mark.height];
    case 'line':
      return [mark.x1, mark.y1, mark.x2, mark.y2];
    case 'circle':
      return [mark.cx - mark.r, mark.cy - mark.r, mark.cx + mark.r, mark.cy + mark.r];
    case 'arc':
      return [mark.cx - mark.r1, mark.cy - mark.r1, mark.cx + mark.r1, mark.cy + mark.r1];
    case 'path': {
      let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
      for (const [x, y] of mark.points) {
        [x0, x1] = [Math.min(x0, x), Math.max(x1, x)];
        [y0, y1] = [Math.min(y0, y), Math.max(y1, y)];
      }
      return [x0, y0, x1, y1];
    }
  }
}

/** A shape laid in hatching or dots: the same tiles as in SVG, cut by the outline. */
function patterned(path: readonly PDFOperator[], box: Box, { pattern, fill: color }: Paint, inkwell: Inkwell) {
  const tile = PATTERN_TILES[pattern!];
  const operators = [
    pushGraphicsState(),
    ink(color!),
    pushGraphicsState(),
    setGraphicsState(inkwell.opacity(PATTERN_GROUND)),
    ...path,
    fill(),
    popGraphicsState(),
    ...path,
    clip(),
    endPath(),
  ];
  const angle = (tile.turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  operators.push(concatTransformationMatrix(cos, sin, -sin, cos, 0, 0));
  // The box, seen from the turned tiles.
  const [x0, y0, x1, y1] = box;
  const corners = [
    [x0, y0],
    [x1, y0],
    [x0, y1],
    [x1, y1],
  ] as const;
  const across = corners.map(([x, y]) => x * cos + y * sin);
  const down = corners.map(([x, y]) => y * cos - x * sin);
  const range = (values: readonly number[]) => [
    Math.floor(Math.min(...values) / tile.size),
    Math.ceil(Math.max(...values) / tile.size),
  ];
  const [left, right] = range(across) as [number, number];
  const [top, bottom] = range(down) as [number, number];
  for (let i = left; i <= right; i++) {
    const x = i * tile.size + tile.box.x;
    if (tile.box.height === tile.size)
      operators.push(...boxPath([x, top * tile.size, x + tile.box.width, (bottom + 1) * tile.size]));
    else
      for (let j = top; j <= bottom; j++) {
        const y = j * tile.size + tile.box.y;
        operators.push(...boxPath([x, y, x + tile.box.width, y + tile.box.height]));
      }
  }
  return [...operators, fill(), popGraphicsState()];
}

/** A text where it was measured to stand; letters are turned upright, as y goes downward here. */
function textOf(mark: Mark & { shape: 'text' }, inkwell: Inkwell, behind: string): PDFOperator[] {
  const width = mark.anchor === 'start' ? 0 : textWidth(mark.text, mark.size, mark.weight);
  let x = mark.x - { start: 0, middle: width / 2, end: width }[mark.anchor];
  const operators = [beginText()];
  for (const { font, codes, width } of inkwell.pieces(`${mark.text}${behind}`, mark.weight)) {
    operators.push(setFontAndSize(font, mark.size), setTextMatrix(1, 0, 0, -1, x, mark.y), showText(codes));
    x += width * mark.size;
  }
  return [...operators, endText()];
}

const ink = (color: string) => setFillingRgbColor(...channels(color));

function channels(color: string): [number, number, number] {
  const value = Number.parseInt(color.slice(1), 16);
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
}
