import { boxOf, overlap, type Box } from './box';
import { eachPaint, rounded, type Put } from './elements';
import { legsOf, PathText } from './pathText';
import type { Mark } from './scene';

/** A compound path: shapes that are painted alike, as one outline. */
export interface Compound {
  readonly shape: 'compound';
  readonly outline: PathText;
  /** The mark that says how all of them are painted. */
  readonly first: Mark;
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
    const look = lookOf(mark, box);
    let at = painted.length;
    if (look === null) painted.push(mark);
    else {
      const piece = pieces.get(look);
      const isFree =
        piece !== undefined &&
        boxes.length - piece.since < LOOK_BACK &&
        (isOneInk(mark) || !piece.boxes.some((other) => overlap(other, box))) &&
        !touches(box, piece.since, piece.at);
      const into = isFree ? piece : begun(mark, at, boxes.length);
      if (!isFree) {
        pieces.set(look, into);
        painted.push(into.whole);
      }
      into.boxes.push(box);
      draw(mark, into.whole);
      at = into.at;
    }
    boxes.push(box);
    places.push(at);
  }
  return painted;
}

function begun(first: Mark, at: number, since: number): Piece {
  return { whole: { shape: 'compound', outline: new PathText(), first }, at, since, boxes: [] };
}

/** What tells looks apart; null for what stays by itself: words, rings, what has its own words, or no size. */
function lookOf(mark: Mark, box: Box): string | null {
  const { shape, paint } = mark;
  if (shape === 'text' || shape === 'arc' || mark.words !== undefined) return null;
  if (box === ANYWHERE) return null;
  if (shape === 'rect' && !(mark.width > 0 && mark.height > 0)) return null;
  const isFilled = shape !== 'line' && paint.fill !== undefined;
  return `${isFilled ? paint.fill : ''} ${paint.pattern ?? ''} ${paint.stroke ?? ''} ${paint.strokeWidth ?? ''} ${paint.dash?.join() ?? ''} ${paint.opacity ?? ''} ${isDot(mark) ? mark.r : ''}`;
}

/** Lines and dots of one ink cross each other as one; what is filled or seen through does not. */
const isOneInk = (mark: Mark): boolean =>
  mark.paint.opacity === undefined && (mark.shape === 'line' || mark.paint.fill === undefined || isDot(mark));

/** A round end of a stroke looks like it, and is written far shorter. */
const isDot = (mark: Mark): mark is Mark & { shape: 'circle' } =>
  mark.shape === 'circle' && mark.paint.stroke === undefined && mark.paint.fill !== undefined && !mark.paint.pattern;

function draw(mark: Mark, { outline }: Compound): void {
  if (mark.shape === 'rect') outline.rect(mark.x, mark.y, mark.width, mark.height);
  else if (mark.shape === 'line') outline.move(mark.x1, mark.y1).line(mark.x2, mark.y2);
  else if (mark.shape === 'path') outline.legs(legsOf(mark.d));
  else if (isDot(mark)) outline.dot(mark.cx, mark.cy);
  else if (mark.shape === 'circle') outline.circle(mark.cx, mark.cy, mark.r);
}

/** Where a mark may lie whose points are not told. */
const ANYWHERE: Box = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 };

/** What a mark paints at most: letters reach a little above and below their lines, corners of strokes out of theirs. */
function paintedBox(mark: Mark): Box {
  const box = boxOf(mark);
  if (!Number.isFinite(box.x)) return ANYWHERE;
  const { stroke, strokeWidth = 1 } = mark.paint;
  const more = mark.shape === 'text' ? mark.size * 0.2 : stroke === undefined ? 0 : strokeWidth;
  return { x: box.x - more, y: box.y - more, width: box.width + 2 * more, height: box.height + 2 * more };
}

/** Gives the attributes of shapes that were joined, one after the other. */
export function eachCompoundAttribute({ outline, first }: Compound, put: Put): void {
  put('d', outline.d, true);
  const { fill, ...stroke } = first.paint;
  if (isDot(first)) {
    put('stroke', fill!, false);
    put('stroke-width', rounded(2 * first.r), true);
    put('stroke-linecap', 'round', true);
    if (first.paint.opacity !== undefined) put('opacity', rounded(first.paint.opacity), true);
  } else eachPaint(first.shape === 'line' ? stroke : first.paint, false, put);
}
