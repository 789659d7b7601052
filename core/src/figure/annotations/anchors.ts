import { periodFrom } from '../../brief';
import { readIsoDay, resolvePeriod, step, type FiscalCalendar, type Span } from '../../calendar';
import { isProblem } from '../../problem';
import type { Cells } from '../../query';
import type { LookNote } from '../../report';
import { keyText } from '../../scene';
import { rowKey, rowName } from '../names';

/** A note and the row it hangs on. */
export interface Anchored {
  readonly text: string;
  readonly row: number;
  /** What the row is called. */
  readonly name: string;
}

/** A note or a period that the figure does not show, and why. */
export interface Adrift {
  readonly text: string;
  readonly why: string;
}

const PERIOD = /^\d{4}(?:-(?:\d{2}|Q[1-4]))?$/;

/** The days that a file's word for a period or a day stands for: `2026-03-18`, `2026-03`, `2026-Q3`, `2026`. Null where it is none. */
export function daysOf(word: string, { calendar, asOf }: Pick<Cells, 'calendar' | 'asOf'>): Span | null {
  const day = readIsoDay(word);
  if (day !== null) return { from: day, to: day };
  if (!PERIOD.test(word)) return null;
  try {
    const { from, to } = resolvePeriod(periodFrom(/^\d{4}$/.test(word) ? `fiscal ${word}` : word), calendar, asOf, {
      from: asOf,
      to: asOf,
    });
    return { from, to };
  } catch (error) {
    if (!isProblem(error)) throw error;
    return null;
  }
}

/** Where the rows of a figure stand that notes hang on; a step of another grain is found by its first day. */
export function anchorsOf(
  cells: Cells,
  notes: readonly LookNote[],
): { readonly anchored: readonly Anchored[]; readonly adrift: readonly Adrift[] } {
  const anchored: Anchored[] = [];
  const adrift: Adrift[] = [];
  const rows = new Map<string, number[]>();
  for (let row = 0; row < cells.count; row++) {
    const at = keyText({ key: inOrder(rowKey(cells, row).key), step: null });
    if (cells.isRest[row] === 0) rows.set(at, [...(rows.get(at) ?? []), row]);
  }
  for (const { text, at = {} } of notes) {
    const found = rows.get(keyText({ key: inOrder(at.key ?? {}), step: null })) ?? [];
    const row = rowAt(cells, found, at.step);
    if (row === null) adrift.push({ text, why: `it hangs on ${whereWords(at)}, which the figure does not show` });
    else anchored.push({ text, row, name: rowName(cells, row) });
  }
  return { anchored, adrift };
}

/** Fields may be named in any order. */
const inOrder = (key: Readonly<Record<string, string | null>>) =>
  Object.fromEntries(Object.entries(key).sort(([a], [b]) => (a < b ? -1 : 1)));

function rowAt(cells: Cells, rows: readonly number[], word: string | undefined): number | null {
  const { steps, grain, calendar } = cells;
  if (word === undefined) return rows.length === 1 && !steps ? rows[0]! : null;
  const days = steps && grain ? daysOf(word, cells) : null;
  if (!days) return null;
  return rows.find((row) => isWithin(days.from, steps![row]!, grain!, calendar)) ?? null;
}

const isWithin = (day: number, start: number, grain: NonNullable<Cells['grain']>, calendar: FiscalCalendar): boolean =>
  start <= day && day < step(grain, start, 1, calendar);

/** `Larkmoor, 2026-03`. */
function whereWords({ key = {}, step }: NonNullable<LookNote['at']>): string {
  const parts = [...Object.values(key).map((member) => member ?? '(blank)'), ...(step === undefined ? [] : [step])];
  return parts.length === 0 ? 'the whole' : parts.join(', ');
}
