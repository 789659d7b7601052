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
import {
  boxOf,
  legsOf,
  PATTERN_GROUND,
  PATTERN_TILES,
  textWidth,
  type Box,
  type Mark,
  type Paint,
  type Scene,
} from '../scene';

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
      ...boxPath({ x: 0, y: 0, width: scene.width, height: scene.height }),
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
      return boxPath(mark);
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

function commandsOf(d: string): PDFOperator[] {
  return legsOf(d).map(({ command, to }) => {
    const [a, b, c, e, x, y] = to as [number, number, number, number, number, number];
    switch (command) {
      case 'M':
        return moveTo(a, b);
      case 'L':
        return lineTo(a, b);
      case 'Q':
        return appendQuadraticCurve(a, b, c, e);
      case 'C':
        return appendBezierCurve(a, b, c, e, x, y);
      case 'Z':
        return closePath();
    }
  });
}

function boxPath({ x, y, width, height }: Box): PDFOperator[] {
  return [moveTo(x, y), lineTo(x + width, y), lineTo(x + width, y + height), lineTo(x, y + height), closePath()];
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
  const { x, y, width, height } = box;
  const corners = [
    [x, y],
    [x + width, y],
    [x, y + height],
    [x + width, y + height],
  ] as const;
  const across = corners.map(([cx, cy]) => cx * cos + cy * sin);
  const down = corners.map(([cx, cy]) => cy * cos - cx * sin);
  const range = (values: readonly number[]) => [
    Math.floor(Math.min(...values) / tile.size),
    Math.ceil(Math.max(...values) / tile.size),
  ];
  const [left, right] = range(across) as [number, number];
  const [top, bottom] = range(down) as [number, number];
  for (let i = left; i <= right; i++) {
    const x = i * tile.size + tile.box.x;
    if (tile.box.height === tile.size)
      operators.push(
        ...boxPath({ x, y: top * tile.size, width: tile.box.width, height: (bottom + 1 - top) * tile.size }),
      );
    else
      for (let j = top; j <= bottom; j++) {
        const y = j * tile.size + tile.box.y;
        operators.push(...boxPath({ x, y, width: tile.box.width, height: tile.box.height }));
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
