import { boxOf, overlap, type Box } from './box';
import { eachPaint, type Put } from './elements';
import { legsOf } from './legs';
import { PathText } from './pathText';
import type { Mark, Paint } from './scene';

/** A compound path: shapes that are painted alike, as one outline. */
export interface Compound {
  readonly shape: 'compound';
  readonly outline: PathText;
  readonly paint: Paint;
  readonly isRound: boolean;
}

/** Marks before a mark among which a joined one may stand: beyond them it begins anew, so that the work grows evenly. */
const LOOK_BACK = 400;

interface Piece {
  readonly whole: Compound;
  /** Its place among what is painted. */
  readonly at: number;
  /** The number of its first mark. */
  readonly since: number;
  readonly boxes: Box[];
}

/**
 * Marks in the order in which they are painted, shapes painted alike joined where no eye can tell: what would move before something it
 * touches, or touches what it would be joined with, stays by itself. A program draws one path with many parts far faster than many
 * shapes.
 */
export function compounded(marks: readonly Mark[]): (Mark | Compound)[] {
  const painted: (Mark | Compound)[] = [];
  const pieces = new Map<string, Piece>();
  /** The box of each mark, as wide as it is painted, and its place among what is painted. */
  const boxes: Box[] = [];
  const places: number[] = [];
  const touches = (box: Box, from: number, after: number): boolean => {
    for (let k = boxes.length - 1; k >= from; k--) if (places[k]! > after && overlap(boxes[k]!, box)) return true;
    return false;
  };
  for (const mark of marks) {
    const box = paintedBox(mark);
    const pen = box === ANYWHERE ? null : penOf(mark);
    let at = painted.length;
    if (!pen) painted.push(mark);
    else {
      const look = lookOf(pen);
      const piece = pieces.get(look);
      const isFree =
        piece !== undefined &&
        boxes.length - piece.since < LOOK_BACK &&
        (isOneInk(pen) || !piece.boxes.some((other) => overlap(other, box))) &&
        !touches(box, piece.since, piece.at);
      const into = isFree ? piece : begun(pen, at, boxes.length);
      if (!isFree) {
        pieces.set(look, into);
        painted.push(into.whole);
      }
      into.boxes.push(box);
      pen.draw(into.whole.outline);
      at = into.at;
    }
    boxes.push(box);
    places.push(at);
  }
  return painted;
}

function begun({ paint, isRound }: Pen, at: number, since: number): Piece {
  return { whole: { shape: 'compound', outline: new PathText(), paint, isRound }, at, since, boxes: [] };
}

/** How a shape is drawn where it may be joined with others. */
interface Pen {
  readonly paint: Paint;
  /** Strokes have round ends. */
  readonly isRound: boolean;
  /** It is a rectangle: those of one ink may lie on one another. */
  readonly isBox: boolean;
  draw(outline: PathText): void;
}

/**
 * What a mark is drawn with; null for what stays by itself: words, rings, what has its own words, or no size. Dots are
 * round ends of strokes: those look like them, and are written far shorter.
 */
function penOf(mark: Mark): Pen | null {
  const { shape, paint } = mark;
  if (shape === 'text' || shape === 'arc' || mark.words !== undefined) return null;
  const { fill, opacity } = paint;
  if (shape === 'path') return { paint, isRound: false, isBox: false, draw: (outline) => outline.legs(legsOf(mark.d)) };
  if (shape === 'line') {
    const { x1, y1, x2, y2 } = mark;
    const { fill: _, ...stroke } = paint;
    return {
      paint: fill === undefined ? paint : stroke,
      isRound: false,
      isBox: false,
      draw: (outline) => outline.move(x1, y1).line(x2, y2),
    };
  }
  if (shape === 'circle') {
    const { cx, cy, r } = mark;
    if (fill === undefined || paint.stroke !== undefined || paint.pattern)
      return { paint, isRound: false, isBox: false, draw: (outline) => outline.circle(cx, cy, r) };
    const dot: Paint = { stroke: fill, strokeWidth: 2 * r, ...(opacity === undefined ? {} : { opacity }) };
    return { paint: dot, isRound: true, isBox: false, draw: (outline) => outline.dot(cx, cy) };
  }
  const { x, y, width, height } = mark;
  if (!(width > 0 && height > 0)) return null;
  return { paint, isRound: false, isBox: true, draw: (outline) => outline.rect(x, y, width, height) };
}

/** What tells pens apart. */
const lookOf = ({ paint: { fill, pattern, stroke, strokeWidth = 1, dash, opacity }, isRound, isBox }: Pen) =>
  `${fill} ${pattern} ${stroke} ${Math.round(100 * strokeWidth)} ${dash} ${opacity} ${isRound} ${isBox}`;

/** Strokes of one ink cross each other as one, and so do boxes; other shapes, and what is seen through, do not. */
const isOneInk = ({ paint: { fill, pattern, stroke, opacity }, isBox }: Pen): boolean =>
  opacity === undefined && (fill === undefined || (isBox && stroke === undefined && pattern === undefined));

/** Where a mark may lie whose points are not told. */
const ANYWHERE: Box = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 };

/** Shapes that share an edge may overlap by what numbers cannot tell. */
const SEAM = 0.004;

/** What a mark paints at most: letters reach a little above and below their lines, corners of strokes out of theirs. */
function paintedBox(mark: Mark): Box {
  const box = boxOf(mark);
  if (!Number.isFinite(box.x)) return ANYWHERE;
  const { stroke, strokeWidth = 1 } = mark.paint;
  const more = mark.shape === 'text' ? mark.size * 0.2 : stroke === undefined ? -SEAM : strokeWidth;
  return { x: box.x - more, y: box.y - more, width: box.width + 2 * more, height: box.height + 2 * more };
}

/** Gives the attributes of shapes that were joined, one after the other. */
export function eachCompoundAttribute({ outline, paint, isRound }: Compound, put: Put): void {
  put('d', outline.d, true);
  eachPaint(paint, false, put);
  if (isRound) put('stroke-linecap', 'round', true);
}
