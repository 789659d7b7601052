import { encodeGap, encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { judgedBy, judgementAt } from '../../query';
import { place, type LinearRuler } from '../../ruler';
import { rounded, textWidth, type Mark, type Paint } from '../../scene';
import { bandsAt, rowBands, tinted, type ResolvedBands } from '../bullet/bands';
import { type FigureRequest } from '../form';
import { nullIfBlank } from '../rows/parts';
import { barPaint, badgeMark, textMark, type Belonging } from '../shapes';

/** Where the arc begins and ends: clockwise from twelve o'clock, in radians. */
export const STOPS = [(-2 * Math.PI) / 3, (2 * Math.PI) / 3] as const;
/** Below the centre the arc reaches half a radius. */
export const BELOW = 0.5;
export const NAME_SIZE = 13;
const STOP_SIZE = 11;

/** What one dial is drawn from. */
interface Dial {
  readonly ruler: LinearRuler;
  readonly centre: { readonly x: number; readonly y: number };
  readonly radius: number;
  /** Pixels a text beneath may take. */
  readonly room: number;
  readonly name: string;
  readonly value: string;
  readonly gap: string;
  /** What stands at the arc's two ends. */
  readonly stops: readonly string[];
  readonly bands: ResolvedBands | null;
  readonly row: number;
  readonly of: Belonging;
}

const EMPTY: Paint = { fill: HAIRLINE };
const QUIETLY: Paint = { fill: QUIET };
const RULE: Paint = { stroke: INK, strokeWidth: 3 };
const DUE_RULE: Paint = { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] };

/** The marks of one dial; gives how many texts found no room. */
export function dialMarks(marks: Mark[], request: FigureRequest, made: Dial): number {
  const { cells, highlight } = request;
  const { ruler, centre, radius, room, name, value: middle, gap, stops, bands, row, of } = made;
  const [low, high] = ruler.domain;
  const within = (value: number) => Math.min(high, Math.max(low, value));
  const angle = (value: number) => place(ruler, within(value));
  const at = (r: number, a: number) => ({ x: centre.x + r * Math.sin(a), y: centre.y - r * Math.cos(a) });
  const arc = (
    role: Mark['role'],
    v0: number,
    v1: number,
    r0: number,
    r1: number,
    value: number | null,
    paint: Paint,
    rule: string | null = null,
  ): Mark => {
    const [a0, a1] = [Math.min(angle(v0), angle(v1)), Math.max(angle(v0), angle(v1))];
    return {
      shape: 'arc',
      role,
      key: of.key,
      step: of.step,
      value,
      cx: centre.x,
      cy: centre.y,
      r0,
      r1,
      a0,
      a1,
      paint,
      rule,
    };
  };
  const actual = cells.actual[row]!;
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  const judged = judgementAt(cells, row);
  const encoding = encodeRow(highlight, cells, row);
  const { ink, rule } = encoding;
  let dropped = 0;

  const here = bands && bandsAt(bands, cells, row);
  const stretches = here ? rowBands(here, judgedBy(cells, row), cells.measure.aim, ruler.domain) : [];
  for (const band of stretches)
    marks.push(arc('band', band.from, band.to, radius * 0.9, radius, band.to, tinted(band.tint)));
  if (stretches.length === 0) marks.push(arc('band', low, high, radius * 0.9, radius, null, EMPTY));
  const zero = within(0);
  const [r0, r1] = [radius * 0.66, radius * 0.86];
  if (!Number.isNaN(actual)) {
    marks.push(arc(cells.isRest[row] ? 'rest' : 'actual', zero, actual, r0, r1, actual, barPaint(encoding), rule));
    if (actual < low || actual > high)
      marks.push(
        beyond(at, radius, actual > high ? STOPS[1] : STOPS[0], actual > high ? 1 : -1, actual, ink, rule, of),
      );
  }
  const across = (role: Mark['role'], value: number, paint: Paint): void => {
    const [p, q] = [at(radius * 0.62, angle(value)), at(radius, angle(value))];
    marks.push({
      shape: 'line',
      role,
      key: of.key,
      step: of.step,
      value,
      x1: p.x,
      y1: p.y,
      x2: q.x,
      y2: q.y,
      paint,
      rule: null,
    });
  };
  const due = cells.due?.[row] ?? NaN;
  if (!Number.isNaN(due) && due >= low && due <= high) across('due', due, DUE_RULE);
  if (!Number.isNaN(benchmark) && benchmark >= low && benchmark <= high) across('benchmark', benchmark, RULE);

  const size = fitting(middle, radius * 1.1, Math.min(30, radius * 0.3));
  if (size === null) dropped++;
  else
    marks.push(
      textMark('value', middle, centre.x, centre.y + size * 0.34, size, {
        anchor: 'middle',
        weight: 600,
        row: of,
        value: nullIfBlank(actual),
      }),
    );
  // The stops, just beneath the arc's ends.
  const foot = centre.y + radius * BELOW + 13;
  const spread = radius * Math.sin(STOPS[1]) * 0.84;
  const fitsBoth =
    radius >= 34 && stops.every((text) => textWidth(text, STOP_SIZE) <= 2 * Math.min(spread - 4, room / 2 - spread));
  if (fitsBoth)
    stops.forEach((text, side) =>
      marks.push(
        textMark('ticklabel', text, centre.x + (side === 0 ? -spread : spread), foot, STOP_SIZE, {
          anchor: 'middle',
          paint: QUIETLY,
          row: of,
          value: side === 0 ? low : high,
        }),
      ),
    );
  else dropped += 2;
  if (name === '') dropped++;
  else marks.push(textMark('label', name, centre.x, foot + 16, NAME_SIZE, { anchor: 'middle', weight: 600, row: of }));
  if (gap === '') return dropped;
  const ofGap = encodeGap(request, cells, row);
  const wide = textWidth(gap, 12) + (ofGap.badge ? 15 : 0);
  if (wide > room) return dropped + 1;
  if (ofGap.badge) marks.push(badgeMark(ofGap.badge, centre.x - wide / 2 + 5, foot + 28, ofGap.ink, ofGap.rule, of));
  marks.push(
    textMark('gap', gap, centre.x + wide / 2, foot + 32, 12, {
      anchor: 'end',
      paint: { fill: ofGap.ink },
      rule: ofGap.rule,
      row: of,
      value: judged.gapPercent,
    }),
  );
  return dropped;
}

/** The greatest size, down to 11, at which a text is no wider than that; null when even that is too wide. */
function fitting(text: string, width: number, largest: number): number | null {
  const natural = (width / Math.max(1, textWidth(text, 100, 600))) * 100;
  const size = Math.min(largest, natural);
  return size >= 11 ? size : null;
}

/** An arrowhead behind a stop, for a value that lies beyond it. */
function beyond(
  at: (r: number, a: number) => { x: number; y: number },
  radius: number,
  stop: number,
  side: 1 | -1,
  value: number,
  ink: string,
  rule: string | null,
  of: Belonging,
): Mark {
  const reach = (side * 9) / radius;
  const corners = [at(radius * 0.64, stop), at(radius * 0.88, stop), at(radius * 0.76, stop + reach)];
  const points = corners.map(({ x, y }) => [x, y] as const);
  const d = `${points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${rounded(x)} ${rounded(y)}`).join('')}Z`;
  return { shape: 'path', role: 'break', key: of.key, step: of.step, value, d, points, paint: { fill: ink }, rule };
}
