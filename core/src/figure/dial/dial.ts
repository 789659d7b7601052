import { writeNumber } from '../../format';
import { encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import type { Look } from '../../report';
import { fitRuler, place, type LinearRuler } from '../../ruler';
import { rounded, shortenAll, textWidth, type Mark, type Paint, type Scene, type SceneRuler } from '../../scene';
import { bandEdgesAt, bandsAt, bandsOf, rowBands, tinted, type ResolvedBands } from '../bullet/bands';
import { dialForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { barPaint, badgeMark, footOf, headOf, heightOf, PAD, textMark, type Belonging } from '../frame';
import { rowKey, rowName, spoken } from '../names';
import { bandEntries, benchmarkEntries, highlightEntries } from '../rows/legend';
import { cellMark, comparedAt, nullIfBlank, onScale } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { textsOf } from '../texts';

/** A value on an arc between two stops, its target a rule across it; one dial a member, all on one ruler. */
export const dial: FormDefinition = {
  ...dialForm,
  rulerValues,
  draw,
};

/** Where the arc begins and ends: clockwise from twelve o'clock, in radians. */
const STOPS = [(-2 * Math.PI) / 3, (2 * Math.PI) / 3] as const;
/** Below the centre the arc reaches half a radius. */
const BELOW = 0.5;
const NAME_SIZE = 13;
const STOP_SIZE = 11;
/** Room for the name and the gap beneath a dial. */
const UNDER = 44;
const LARGEST = 128;

function rulerValues(cells: Cells, look: Look): number[] {
  const bands = bandsOf(cells, look);
  return onScale(cells, 'value', (row) => [...comparedAt(cells, row), ...bandEdgesAt(bands, cells, row)]);
}

function draw(request: FigureRequest): Scene {
  const { cells, look, ruler: shared } = request;
  const texts = textsOf(cells);
  const { writing } = texts;
  const width = look.width ?? DEFAULT_WIDTH;
  const bands = bandsOf(cells, look);
  const legend = [
    ...highlightEntries(request, writing),
    ...benchmarkEntries({ ...request, look: { ...look, orientation: 'horizontal' } }),
    ...(bands ? bandEntries(request, bands, writing) : []),
  ];
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, legend);
  const inner = width - 2 * PAD;
  const count = Math.max(1, cells.count);
  const most = Math.max(1, Math.floor(inner / 132));
  const lines = Math.ceil(count / most);
  const columns = Math.ceil(count / lines);
  const cellWidth = inner / columns;
  // On a paper too low for all dials those that are seen are whole.
  const asked = look.height && heightOf(look.height, 0, head, foot, 14 * (1 + BELOW) + UNDER + 14);
  const given = asked === undefined ? Infinity : (asked - head.bottom - foot.height) / lines;
  const radius = Math.max(14, Math.min(LARGEST, cellWidth / 2 - 14, (given - UNDER - 14) / (1 + BELOW)));
  // A paper that is too low shows as many dials as it holds.
  const cellHeight = radius * (1 + BELOW) + UNDER + 14;
  const height = asked ?? head.bottom + lines * cellHeight + foot.height;

  const fit = shared?.entry.fit ?? 'zero';
  const common = fitRuler({
    values: [...(fit === 'tight' ? [0] : []), ...rulerValues(cells, look), ...(shared?.values ?? [])],
    range: STOPS,
    fit: fit === 'tight' ? 'zero' : fit,
    ...(shared?.entry.domain ? { domain: shared.entry.domain } : {}),
    // Ticks of a dial are few: an eighth of the arc lies between two of them.
    extent: () => 0,
    clearance: (STOPS[1] - STOPS[0]) / 8,
  });
  // Zero is zero in every unit.
  const stopTexts = ({ domain }: LinearRuler) => domain.map((stop) => (stop === 0 ? '0' : writeNumber(stop, writing)));
  const commonStops = stopTexts(common);
  const names = shortenAll(
    Array.from({ length: cells.count }, (_, row) => rowName(cells, row)),
    cellWidth - 8,
    NAME_SIZE,
    600,
  );
  const marks: Mark[] = [...head.marks];
  const rulers: SceneRuler[] = [];
  let dropped = 0;
  for (let row = 0; row < cells.count; row++) {
    const of = rowKey(cells, row);
    const left = PAD + (row % columns) * cellWidth;
    const top = head.bottom + Math.floor(row / columns) * cellHeight;
    if (top + cellHeight > height - foot.height + 0.5) {
      dropped++;
      continue;
    }
    const ruler = stoppedAt(common, cells.extras.stops.low?.[row] ?? NaN, cells.extras.stops.high?.[row] ?? NaN);
    const id = `${shared?.entry.id ?? 'own'}${ruler === common ? '' : ` ${row + 1}`}`;
    if (ruler !== common || rulers.length === 0)
      rulers.push({
        id,
        axis: 'angle',
        kind: 'linear',
        domain: ruler.domain,
        range: STOPS,
        ticks: ruler.ticks,
        strip: { x: left, y: top, width: 0, height: 0 },
      });
    const centre = { x: left + cellWidth / 2, y: top + 8 + radius };
    dropped += dialMarks(marks, request, {
      ruler,
      centre,
      radius,
      room: cellWidth - 8,
      name: names[row]!,
      value: texts.actual[row]!,
      gap: texts.gapPercent[row]!,
      stops: ruler === common ? commonStops : stopTexts(ruler),
      bands,
      row,
      of,
    });
    marks.push(cellMark(cells, row, of, { x: left, y: top, width: cellWidth, height: cellHeight }));
  }
  marks.push(...foot.marks(height - foot.height));
  return {
    width,
    height,
    title: head.title,
    description: spoken('Dials', cells),
    rulers,
    marks,
    dropped,
  };
}

/** The common ruler with stops of its own, where a row has them. */
function stoppedAt(common: LinearRuler, low: number, high: number): LinearRuler {
  const from = Number.isNaN(low) ? common.domain[0] : low;
  const to = Number.isNaN(high) ? common.domain[1] : high;
  if (!(from < to) || (from === common.domain[0] && to === common.domain[1])) return common;
  return {
    ...common,
    domain: [from, to],
    ticks: [from, ...common.ticks.filter((tick) => tick > from && tick < to), to],
  };
}

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

function dialMarks(marks: Mark[], { cells, highlight }: FigureRequest, made: Dial): number {
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
  const { ink, badge, rule } = encoding;
  let dropped = 0;

  const here = bands && bandsAt(bands, cells, row);
  const stretches = here ? rowBands(here, benchmark, cells.measure.aim, ruler.domain) : [];
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
  const wide = textWidth(gap, 12) + (badge ? 15 : 0);
  if (wide > room) return dropped + 1;
  if (badge) marks.push(badgeMark(badge, centre.x - wide / 2 + 5, foot + 28, ink, rule, of));
  marks.push(
    textMark('gap', gap, centre.x + wide / 2, foot + 32, 12, {
      anchor: 'end',
      paint: { fill: ink },
      rule,
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
