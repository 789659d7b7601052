import type { Mark, Paint, Scene } from './scene';

/** A mark as an SVG element: its tag, its attributes in a fixed order, and the text it holds. */
export interface Element {
  readonly tag: 'rect' | 'line' | 'path' | 'circle' | 'text';
  readonly attributes: readonly (readonly [string, string])[];
  readonly text: string | null;
}

/** A number with at most two decimals, as drawings are written. */
export function rounded(value: number): string {
  const hundredths = Math.round(value * 100);
  if (!(Math.abs(hundredths) < 1e9)) return String(hundredths / 100);
  // Whole numbers are written far faster than fractions.
  const size = Math.abs(hundredths);
  const whole = Math.trunc(size / 100);
  const part = size - 100 * whole;
  const written = part === 0 ? `${whole}` : `${whole}.${part % 10 === 0 ? part / 10 : part < 10 ? `0${part}` : part}`;
  return hundredths < 0 ? `-${written}` : written;
}

/** Takes an attribute; `plain` ones hold nothing that must be escaped. */
export type Put = (name: string, value: string, plain: boolean) => void;

/** The element of a mark. The interface and the SVG writer draw the same. */
export function elementOf(mark: Mark): Element {
  const attributes: [string, string][] = [];
  eachAttribute(mark, (name, value) => attributes.push([name, value]));
  return { tag: tagOf(mark), attributes, text: mark.shape === 'text' ? mark.text : null };
}

export function tagOf({ shape }: Mark): Element['tag'] {
  return shape === 'arc' ? 'path' : shape;
}

/** Gives the attributes of a mark one after the other, in a fixed order. */
export function eachAttribute(mark: Mark, put: Put): void {
  const number = (name: string, value: number) => put(name, rounded(value), true);
  switch (mark.shape) {
    case 'rect':
      number('x', mark.x);
      number('y', mark.y);
      number('width', mark.width);
      number('height', mark.height);
      break;
    case 'line':
      number('x1', mark.x1);
      number('y1', mark.y1);
      number('x2', mark.x2);
      number('y2', mark.y2);
      break;
    case 'circle':
      number('cx', mark.cx);
      number('cy', mark.cy);
      number('r', mark.r);
      break;
    case 'path':
      put('d', mark.d, true);
      break;
    case 'arc':
      put('d', arcPath(mark), true);
      break;
    case 'text':
      number('x', mark.x);
      number('y', mark.y);
      number('font-size', mark.size);
      if (mark.anchor !== 'start') put('text-anchor', mark.anchor, true);
      if (mark.weight !== 400) put('font-weight', String(mark.weight), true);
  }
  const { paint, shape, role } = mark;
  eachPaint(paint, shape === 'line', put);
  if (role === 'cell' && paint.fill === undefined) put('pointer-events', 'all', true);
}

/** Gives the attributes of a paint. A line has nothing in it that could be filled. */
export function eachPaint(paint: Paint, isLine: boolean, put: Put): void {
  if (paint.fill !== undefined) put('fill', paint.pattern ? `url(#${patternId(paint)})` : paint.fill, false);
  else if (!isLine) put('fill', 'none', true);
  if (paint.stroke) {
    put('stroke', paint.stroke, false);
    put('stroke-width', rounded(paint.strokeWidth ?? 1), true);
  }
  if (paint.dash) put('stroke-dasharray', paint.dash.map(rounded).join(' '), true);
  if (paint.opacity !== undefined) put('opacity', rounded(paint.opacity), true);
}

/** A pattern's tile, in pixels: how wide it is, the part of it that is inked, how far it is turned, in degrees. */
export const PATTERN_TILES = {
  hatch: { size: 4, box: { x: 0, y: 0, width: 1.5, height: 4 }, turn: 45 },
  dots: { size: 4.5, box: { x: 1.25, y: 1.25, width: 2, height: 2 }, turn: 45 },
} as const;
/** Opacity of the ink behind a pattern. */
export const PATTERN_GROUND = 0.15;

const patternId = ({ pattern, fill }: Pick<Paint, 'pattern' | 'fill'>) => `${pattern}-${(fill ?? '').replace('#', '')}`;

export interface Pattern {
  readonly id: string;
  readonly kind: NonNullable<Paint['pattern']>;
  readonly ink: string;
}

/** The patterns a scene is painted with, each once. */
export function patternsOf({ marks }: Pick<Scene, 'marks'>): Pattern[] {
  const found = new Map<string, Pattern>();
  for (const { paint } of marks)
    if (paint.pattern && paint.fill) {
      const id = patternId(paint);
      if (!found.has(id)) found.set(id, { id, kind: paint.pattern, ink: paint.fill });
    }
  return [...found.values()];
}

/** A ring segment. */
function arcPath({ cx, cy, r0, r1, a0, a1 }: Mark & { shape: 'arc' }): string {
  const at = (r: number, a: number) => `${rounded(cx + r * Math.sin(a))} ${rounded(cy - r * Math.cos(a))}`;
  const large = a1 - a0 > Math.PI ? 1 : 0;
  return `M${at(r1, a0)}A${rounded(r1)} ${rounded(r1)} 0 ${large} 1 ${at(r1, a1)}L${at(r0, a1)}A${rounded(r0)} ${rounded(r0)} 0 ${large} 0 ${at(r0, a0)}Z`;
}
