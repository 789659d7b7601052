import {
  civilOf,
  fiscalQuarter,
  fiscalYear,
  MONTH_NAMES,
  monthOf,
  type Day,
  type FiscalCalendar,
  type Grain,
} from '../../calendar';
import { textWidth, type Mark } from '../../scene';
import { lineMark, NO_ROW, textMark } from '../shapes';
import { QUIET } from '../../highlight';
import { FINE, TICK_SIZE } from '../rows/parts';

/** A label under a step, by its place in the order of steps. */
interface StepLabel {
  readonly at: number;
  readonly text: string;
}

/** Room the labels of steps take beneath a plot. */
export const TIME_ROOM = 24;
const LEAST_GAP = 8;

/** Ever sparser ways to label the steps: the first that fits is taken. */
function* ways(grain: Grain, steps: readonly Day[], calendar: FiscalCalendar): Generator<StepLabel[]> {
  const civil = steps.map((day) => ({ ...civilOf(day), ...(grain === 'month' ? monthOf(day, calendar) : {}) }));
  const month = (i: number) => MONTH_NAMES[civil[i]!.month - 1]!.slice(0, 3);
  const every = (n: number, text: (i: number) => string): StepLabel[] =>
    steps.flatMap((_, i) => (i % n === 0 ? [{ at: i, text: text(i) }] : []));
  switch (grain) {
    case 'year':
      for (let n = 1; n <= steps.length; n++) yield every(n, (i) => String(fiscalYear(steps[i]!, calendar)));
      break;
    case 'quarter':
      for (const n of [1, 2, 4, 8, 16, 32])
        yield every(n, (i) => {
          const quarter = fiscalQuarter(steps[i]!, calendar);
          return i === 0 || quarter === 1 ? `Q${quarter} ${fiscalYear(steps[i]!, calendar)}` : `Q${quarter}`;
        });
      break;
    case 'month': {
      const long = (i: number) => `${month(i)}${i === 0 || civil[i]!.month === 1 ? ` ${civil[i]!.year}` : ''}`;
      for (const n of [1, 2, 3, 6, 12, 24, 60, 120])
        yield every(n, n < 12 ? long : (i) => `${month(i)} ${civil[i]!.year}`);
      break;
    }
    default: {
      if (grain === 'day' && steps.length <= 62)
        for (const n of [1, 2, 7, 14]) yield every(n, (i) => `${civil[i]!.day} ${month(i)}`);
      // The first step of each month bears its name.
      const firsts = steps.flatMap((_, i) => (i === 0 || civil[i]!.month !== civil[i - 1]!.month ? [i] : []));
      for (const n of [1, 2, 3, 6, 12, 24])
        yield firsts.flatMap((i, at) =>
          at % n === 0
            ? [{ at: i, text: `${month(i)}${at === 0 || civil[i]!.month === 1 ? ` ${civil[i]!.year}` : ''}` }]
            : [],
        );
    }
  }
}

/** The steps along the foot of a plot: a fine tick at each that is labelled, and as many labels as do not touch. */
export function timeAxis(
  grain: Grain,
  steps: readonly Day[],
  calendar: FiscalCalendar,
  x: (step: number) => number,
  [from, to]: readonly [number, number],
  y: number,
): Mark[] {
  const fits = (labels: readonly StepLabel[]) => {
    let end = -Infinity;
    return labels.every(({ at, text }) => {
      const half = textWidth(text, TICK_SIZE) / 2;
      const left = Math.min(Math.max(x(at) - half, from), to - 2 * half);
      const clear = left >= end + LEAST_GAP;
      end = left + 2 * half;
      return clear;
    });
  };
  let chosen: StepLabel[] = [];
  for (const labels of ways(grain, steps, calendar)) {
    chosen = labels;
    if (fits(labels)) break;
  }
  if (!fits(chosen)) chosen = chosen.slice(0, 1);
  return chosen.flatMap(({ at, text }) => {
    const half = textWidth(text, TICK_SIZE) / 2;
    if (2 * half > to - from) return [];
    const middle = Math.min(Math.max(x(at), from + half), to - half);
    return [
      lineMark('tick', NO_ROW, { x1: x(at), y1: y, x2: x(at), y2: y + 4 }, null, FINE),
      textMark('ticklabel', text, middle, y + 16, TICK_SIZE, { anchor: 'middle', paint: { fill: QUIET } }),
    ];
  });
}
