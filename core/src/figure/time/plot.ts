import type { Day } from '../../calendar';
import type { Writing } from '../../format';
import { HAIRLINE } from '../../highlight';
import type { Cells } from '../../query';
import { place, type Fit, type LinearRuler } from '../../ruler';
import type { Box, Mark, SceneRuler } from '../../scene';
import type { FigureRequest } from '../form';
import { lineMark, NO_ROW } from '../shapes';
import { FINE, TICK_SIZE, ticksUpright, valueRuler, widest } from '../rows/parts';
import { timeAxis, TIME_ROOM } from './timeAxis';

/** A plot of values over steps: the value ruler upright at its left, the steps along its foot. */
export interface PlotArea {
  readonly ruler: LinearRuler;
  readonly strip: Box;
  /** Middle of the i-th step. */
  readonly x: (step: number) => number;
  /** Width of a step. */
  readonly band: number;
  readonly y: (value: number) => number;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  readonly marks: Mark[];
}

export interface PlotWish {
  readonly box: Box;
  readonly values: readonly number[];
  readonly steps: readonly Day[];
  readonly writing: Writing;
  /** How the figure's own ruler finds its ends; a shared one has its own way. */
  readonly fit: Fit;
  /** Width of the strip; what its labels need when left out. */
  readonly stripWidth?: number;
  /** The ruler's strip is drawn beside this plot; else it stands beside another that shares it. */
  readonly hasStrip: boolean;
  /** Labels of steps stand beneath this plot. */
  readonly hasTime: boolean;
}

/** Width of the strip a ruler's labels need. */
export function stripWidth(request: FigureRequest, wish: Pick<PlotWish, 'values' | 'writing' | 'fit'>): number {
  const { ruler, label } = valueRuler(request, wish.writing, wish.values, [1000, 0], 'y', wish.fit);
  return Math.max(44, widest(ruler.ticks.map(label), TICK_SIZE) + 20);
}

export function plotOf(request: FigureRequest, wish: PlotWish): PlotArea {
  const { box, values, steps, writing, fit, hasStrip, hasTime } = wish;
  const { cells } = request;
  const strip = hasStrip ? (wish.stripWidth ?? stripWidth(request, wish)) : 0;
  const left = box.x + strip + (hasStrip ? 8 : 0);
  const right = box.x + box.width;
  const top = box.y + 8;
  const bottom = Math.max(top + 20, box.y + box.height - (hasTime ? TIME_ROOM : 0));
  const { ruler: upward, label } = valueRuler(request, writing, values, [bottom, top], 'y', fit);
  const ruler = isOfRanks(cells) ? downward(upward, request, values) : upward;
  const band = (right - left) / Math.max(1, steps.length);
  const x = (i: number) => left + band * (i + 0.5);
  const marks: Mark[] = [];
  for (const tick of ruler.ticks) {
    const y = place(ruler, tick);
    marks.push(
      lineMark('tick', NO_ROW, { x1: left, y1: y, x2: right, y2: y }, tick, {
        stroke: HAIRLINE,
        strokeWidth: tick === 0 ? 0 : 0.5,
      }),
    );
  }
  if (hasStrip) ticksUpright(marks, ruler, label, box.x + strip);
  const [low, high] = ruler.domain;
  if (low <= 0 && high >= 0) {
    const y = place(ruler, 0);
    marks.push(lineMark('zero', NO_ROW, { x1: left, y1: y, x2: right, y2: y }, 0, FINE));
  }
  if (hasTime && cells.grain)
    marks.push(...timeAxis(cells.grain, steps, cells.calendar, x, [left - strip, right], bottom));
  const clamp = (value: number) => Math.min(high, Math.max(low, value));
  return {
    ruler,
    strip: { x: box.x, y: top - 10, width: strip, height: bottom - top + 20 },
    x,
    band,
    y: (value) => place(ruler, clamp(value)),
    left,
    right,
    top,
    bottom,
    marks,
  };
}

const isOfRanks = ({ view, actual, rank }: Cells): boolean => view.kind === 'rank' && actual === rank;

/** The most ranks that have a tick each. */
const MOST_RANKS = 12;

/** Ranks count downward: the first is on top, and none lies above it, unless the figure's ruler has ends of its own. */
function downward(upward: LinearRuler, { ruler }: FigureRequest, values: readonly number[]): LinearRuler {
  const [bottom, top] = upward.range;
  const range = [top, bottom] as const;
  if (ruler?.entry.domain) return { ...upward, range };
  const last = Math.max(1, ...[...values, ...(ruler?.values ?? [])].filter((value) => Number.isFinite(value)));
  const by = Math.ceil(last / MOST_RANKS);
  const ticks = Array.from({ length: last }, (_, i) => i + 1).filter((rank) => rank === 1 || rank % by === 0);
  return { ...upward, domain: [1, last], range, ticks };
}

/** A plot's value ruler, for the scene. */
export function sceneRuler({ ruler, strip }: Pick<PlotArea, 'ruler' | 'strip'>, id: string): SceneRuler {
  const { domain, range, ticks } = ruler;
  return { id, axis: 'y', kind: 'linear', domain, range, ticks, strip };
}

/** The cell of each row answers to the pointer: a box around a point of a plot, within it. */
export function around({ left, right, top, bottom, band }: PlotArea, x: number, y: number, high: number): Box {
  const wide = Math.max(band, 1);
  const from = Math.max(left, x - wide / 2);
  const start = Math.min(Math.max(top, y - high / 2), Math.max(top, bottom - high));
  return { x: from, y: start, width: Math.min(right, x + wide / 2) - from, height: Math.min(high, bottom - top) };
}
