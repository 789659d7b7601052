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

/** The element of a mark. The interface and the SVG writer draw the same. */
export function elementOf(mark: Mark): Element {
  const paint = paintOf(mark);
  switch (mark.shape) {
    case 'rect':
      return element(
        'rect',
        [
          ['x', mark.x],
          ['y', mark.y],
          ['width', mark.width],
          ['height', mark.height],
        ],
        paint,
      );
    case 'line':
      return element(
        'line',
        [
          ['x1', mark.x1],
          ['y1', mark.y1],
          ['x2', mark.x2],
          ['y2', mark.y2],
        ],
        paint,
      );
    case 'circle':
      return element(
        'circle',
        [
          ['cx', mark.cx],
          ['cy', mark.cy],
          ['r', mark.r],
        ],
        paint,
      );
    case 'path':
      return { tag: 'path', attributes: [['d', mark.d], ...paint], text: null };
    case 'arc':
      return { tag: 'path', attributes: [['d', arcPath(mark)], ...paint], text: null };
    case 'text': {
      const anchor: [string, string][] = mark.anchor === 'start' ? [] : [['text-anchor', mark.anchor]];
      const weight: [string, string][] = mark.weight === 400 ? [] : [['font-weight', String(mark.weight)]];
      const place: [string, string][] = [
        ['x', rounded(mark.x)],
        ['y', rounded(mark.y)],
        ['font-size', rounded(mark.size)],
      ];
      return { tag: 'text', attributes: [...place, ...anchor, ...weight, ...paint], text: mark.text };
    }
  }
}

function element(
  tag: Element['tag'],
  numbers: readonly (readonly [string, number])[],
  paint: readonly (readonly [string, string])[],
): Element {
  return {
    tag,
    attributes: [...numbers.map(([name, value]) => [name, rounded(value)] as const), ...paint],
    text: null,
  };
}

function paintOf({ paint, shape, role }: Mark): (readonly [string, string])[] {
  const attributes: [string, string][] = [];
  const unfilled = paint.fill === undefined;
  if (!unfilled) attributes.push(['fill', paint.pattern ? `url(#${patternId(paint)})` : paint.fill!]);
  else if (shape !== 'line') attributes.push(['fill', 'none']);
  if (paint.stroke) attributes.push(['stroke', paint.stroke], ['stroke-width', rounded(paint.strokeWidth ?? 1)]);
  if (paint.dash) attributes.push(['stroke-dasharray', paint.dash.map(rounded).join(' ')]);
  if (paint.opacity !== undefined) attributes.push(['opacity', rounded(paint.opacity)]);
  if (role === 'cell' && unfilled) attributes.push(['pointer-events', 'all']);
  return attributes;
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
