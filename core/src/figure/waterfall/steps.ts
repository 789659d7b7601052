import type { Brief } from '../../brief';
import { combine, difference } from '../../number';
import { EXCHANGE, waterfallFor, type Cells, type Waterfall, type WaterfallStep } from '../../query';
import type { Look } from '../../report';
import { NO_ROW, type Belonging } from '../shapes';
import { BLANK_MEMBER } from '../../table';
import { moreNames } from '../more';
import { rowKey } from '../names';

/** A step as it is drawn: what it belongs to, and whether it is a part of one that was opened. */
export interface DrawnStep extends WaterfallStep {
  readonly of: Belonging;
  readonly opened: boolean;
  readonly isRest: boolean;
}

/** The brief that breaks an opened step down; null where there is nothing to open. */
export function openedBrief(brief: Brief, { opened }: Look): Brief | null {
  if (!opened || brief.by.length !== 1 || brief.by[0] === opened.by) return null;
  const field = brief.by[0]!;
  const members = [opened.member === '' || opened.member === BLANK_MEMBER ? null : opened.member];
  return { ...brief, by: [opened.by], only: [...brief.only, { kind: 'is', field, members }], keep: null };
}

/** The steps of a waterfall, an opened one in its parts where they add up to it. */
export function stepsOf(
  cells: Cells,
  look: Look,
  parts: Cells | null,
): { steps: DrawnStep[]; decimals: Waterfall['decimals'] } {
  const { steps, decimals } = waterfallFor(cells);
  const drawn: DrawnStep[] = [];
  for (const step of steps) {
    const of = step.row === null ? NO_ROW : rowKey(cells, step.row);
    const { kind, name, value, start, end, mark, row } = step;
    const isRest = row !== null && cells.isRest[row] === 1;
    const plain: DrawnStep = { kind, name, value, start, end, mark, row, of, opened: false, isRest };
    const isOpened = kind === 'step' && look.opened !== undefined && name === look.opened.member;
    drawn.push(...((isOpened && parts && inParts(plain, parts)) || [plain]));
  }
  return { steps: drawn, decimals };
}

/** Whether a step is what exchange rates did, and no member that is called so. */
const isExchange = ({ kind, name, row }: WaterfallStep): boolean =>
  kind === 'step' && row === null && name === EXCHANGE;

/**
 * The first steps of a waterfall and one for all others, before the total with which it ends; where `most` are enough, all of them. What
 * exchange rates did stays by itself.
 * @param most steps and totals together, at least three
 */
export function gathered(steps: readonly DrawnStep[], most: number, decimals: Waterfall['decimals']): DrawnStep[] {
  if (steps.length <= most) return [...steps];
  const last = steps.at(-1)!;
  const begin = steps[0]!.kind === 'total' ? [steps[0]!] : [];
  const exchange = steps.filter(isExchange);
  const parts = steps.slice(begin.length, -1).filter((step) => step.kind === 'step' && !isExchange(step));
  const kept = parts.slice(0, Math.max(0, most - begin.length - exchange.length - 2));
  const others = parts.slice(kept.length);
  const start = kept.at(-1)?.end ?? begin[0]?.end ?? 0;
  const end = exchange[0]?.start ?? last.end;
  const whole: DrawnStep = {
    kind: 'step',
    name: moreNames(others.length, others.filter(({ isRest }) => isRest).length),
    value: difference(end, start, decimals),
    start,
    end,
    mark: null,
    row: null,
    of: NO_ROW,
    opened: false,
    isRest: true,
  };
  return [...begin, ...kept, ...(others.length > 0 ? [whole] : []), ...exchange, last];
}

function inParts(whole: DrawnStep, parts: Cells): DrawnStep[] | null {
  const inner = waterfallFor(parts);
  let at = whole.start;
  const steps = inner.steps
    // What exchange rates did is told for all members together.
    .filter((step) => step.kind === 'step' && !isExchange(step))
    .map((step): DrawnStep => {
      const start = at;
      at = combine(start, Number.isNaN(step.value) ? 0 : step.value, inner.decimals);
      const key = { ...whole.of.key, ...(step.row === null ? {} : rowKey(parts, step.row).key) };
      return {
        ...step,
        name: `${whole.name} · ${step.name}`,
        start,
        end: at,
        row: whole.row,
        of: { key, step: null },
        opened: true,
        isRest: false,
      };
    });
  // Spread targets differ in their last digits.
  const apart = Math.abs(at - whole.end);
  return steps.length > 0 && apart <= 1e-9 * Math.max(1, Math.abs(whole.end), Math.abs(whole.start)) ? steps : null;
}
