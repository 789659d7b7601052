import { place, type LinearRuler } from './linear';
import { multiple, niceEnds, stepSize, stepsFor, type TickStep } from './ticks';

/** Spans below this are none: their steps would leave the range of exact doubles. */
const TINIEST = 1e-290;
/** Beyond this nothing is measured: differences would leave the range of doubles. */
const LARGEST = 1e300;
/** So are those below this part of the values themselves: their steps could not be counted exactly. */
const NARROWEST = 1e-10;

function isSpan(low: number, high: number): boolean {
  return high - low > Math.max(TINIEST, NARROWEST * Math.max(Math.abs(low), Math.abs(high)));
}

/** How a ruler finds its ends. */
export type Fit =
  /** From 0, or to 0 for negatives; on both sides of 0 where there are both. For lengths. */
  | 'zero'
  /** As far below 0 as above. For gaps. */
  | 'symmetric'
  /** From the lowest to the highest value. For positions only. */
  | 'tight'
  | 'fixed';

export interface FitRequest {
  /** Everything the ruler must show; blanks are passed over. */
  readonly values: Iterable<number>;
  readonly range: readonly [number, number];
  readonly fit: Fit;
  /** The ends, for `fixed`. */
  readonly domain?: readonly [number, number];
  /** The room a tick's label takes along the ruler, in pixels. */
  extent(value: number, step: TickStep): number;
  /** The least room between two labels, in pixels. */
  readonly clearance: number;
}

/**
 * A ruler with as many ticks as fit without their labels touching, at steps of 1, 2, 2.5 or 5 · 10ⁿ, its ends on ticks
 * (unless they are fixed). Where not even its ends have room for their labels, it is as long as it must be and labels give way.
 * Without values it runs from 0 to 1.
 */
export function fitRuler(request: FitRequest): LinearRuler {
  const [low, high] = span(request);
  let coarsest: LinearRuler | null = null;
  for (const step of stepsFor(high - low)) {
    const size = stepSize(step);
    if (!(size > 0) || (high - low) / size > 2000) continue;
    const [from, to] = niceEnds(step, low, high);
    const fixed = request.fit === 'fixed';
    const first = fixed && multiple(step, from) < low ? from + 1 : from;
    const last = fixed && multiple(step, to) > high ? to - 1 : to;
    // Far too many are not even made.
    const room = Math.abs(request.range[1] - request.range[0]) / Math.max(1, last - first);
    if (room < request.clearance && last - first > 3) continue;
    const ticks: number[] = [];
    for (let k = first; k <= last; k++) ticks.push(multiple(step, k));
    const domain: readonly [number, number] = fixed ? [low, high] : [multiple(step, from), multiple(step, to)];
    const ruler: LinearRuler = { kind: 'linear', domain, range: request.range, ticks };
    if (fits(ruler, request, step)) return ruler;
    // With no tick but its ends and zero a coarser step would only make the ruler longer than what it shows.
    if (last - first <= (low < 0 && high > 0 ? 2 : 1)) return ruler;
    coarsest = ruler;
  }
  return coarsest ?? { kind: 'linear', domain: [low, high], range: request.range, ticks: [low, high] };
}

function span({ values, fit, domain }: FitRequest): readonly [number, number] {
  if (fit === 'fixed' && domain) {
    const [from, to] = [Math.min(...domain), Math.max(...domain)];
    if (isSpan(from, to) && -from <= LARGEST && to <= LARGEST) return [from, to];
  }
  let low = Infinity;
  let high = -Infinity;
  for (const value of values) {
    if (!Number.isFinite(value)) continue;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  [low, high] = [Math.max(low, -LARGEST), Math.min(high, LARGEST)];
  if (low === Infinity) [low, high] = [0, fit === 'symmetric' ? 0 : 1];
  if (fit === 'zero') [low, high] = [Math.min(0, low), Math.max(0, high)];
  if (fit === 'symmetric') {
    const widest = Math.max(Math.abs(low), Math.abs(high));
    const reach = widest > TINIEST ? widest : 1;
    return [-reach, reach];
  }
  if (isSpan(low, high)) return [low, high];
  // One value only: around it, or from 0 to 1 when it is 0.
  if (Math.abs(low) <= TINIEST) return [0, 1];
  const around = Math.abs(low) / 2;
  return [low - around, low + around];
}

function fits(ruler: LinearRuler, { extent, clearance }: FitRequest, step: TickStep): boolean {
  const { ticks } = ruler;
  for (let i = 1; i < ticks.length; i++) {
    const room = Math.abs(place(ruler, ticks[i]!) - place(ruler, ticks[i - 1]!));
    // A millionth of a pixel is binary dust.
    if (room + 1e-6 < (extent(ticks[i]!, step) + extent(ticks[i - 1]!, step)) / 2 + clearance) return false;
  }
  return true;
}
