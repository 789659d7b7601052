import type { Look } from '../../report';
import type { Cells } from '../../query';
import type { Box } from '../../scene';
import { BLANK_MEMBER } from '../../table';
import type { Series } from './series';

/** Lines that share a plot, under their panel's name. */
export interface Panel {
  readonly name: string | null;
  readonly series: readonly Series[];
}

/** The field whose members have panels of their own; null where they share one plot. */
export function panelFieldOf(cells: Cells, look: Look): string | null {
  return look.panels !== undefined && cells.fields.includes(look.panels) ? look.panels : null;
}

/** The series of each panel, in the order in which the panels' members come up. */
export function panelsOf(field: string | null, series: readonly Series[]): Panel[] {
  if (field === null) return [{ name: null, series }];
  const panels = new Map<string, Series[]>();
  for (const one of series) {
    const name = one.key[field] ?? BLANK_MEMBER;
    panels.set(name, [...(panels.get(name) ?? []), one]);
  }
  return [...panels].map(([name, list]) => ({ name, series: list }));
}

export const PANEL = { least: 230, across: 20, down: 12, name: 20 } as const;

/** A place in the grid of panels. */
export interface Slot {
  readonly box: Box;
  readonly first: boolean;
  readonly last: boolean;
}

/** Boxes for as many panels, as many beside one another as have room; `first` stands at the left, `last` has none beneath it. What a paper that is too low does not hold is null. */
export function slotsFor(
  count: number,
  { x, y, width, height }: Box,
  leadWidth: number,
  leastHigh: number,
): (Slot | null)[] {
  const across = acrossOf(count, width, leadWidth);
  const most = Math.max(1, Math.floor((height + PANEL.down) / (leastHigh + PANEL.down)));
  const lines = Math.min(most, Math.ceil(count / across));
  const shown = Math.min(count, lines * across);
  const wide = (width - leadWidth - (across - 1) * PANEL.across) / across;
  const high = (height - (lines - 1) * PANEL.down) / lines;
  return Array.from({ length: count }, (_, i): Slot | null => {
    if (i >= shown) return null;
    const column = i % across;
    const line = Math.floor(i / across);
    // The first column has the ruler's strip beside it.
    const from = column === 0 ? x : x + leadWidth + column * (wide + PANEL.across);
    return {
      box: { x: from, y: y + line * (high + PANEL.down), width: column === 0 ? wide + leadWidth : wide, height: high },
      first: column === 0,
      last: i + across >= shown,
    };
  });
}

function acrossOf(count: number, width: number, leadWidth: number): number {
  return Math.max(1, Math.min(count, Math.floor((width - leadWidth + PANEL.across) / (PANEL.least + PANEL.across))));
}

/** How many lines of panels there are on a paper of that width. */
export function panelLines(count: number, width: number, leadWidth: number): number {
  return Math.ceil(count / acrossOf(count, width, leadWidth));
}
