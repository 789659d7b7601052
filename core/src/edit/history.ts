import { apply, type Patches } from 'mutative';
import type { Report } from '../report';
import type { Edited } from './edited';

/** The rows of a table before and after an edit, by the versions that are kept of them; null where it was not there. */
export interface RowsChange {
  readonly table: string;
  readonly before: number | null;
  readonly after: number | null;
}

/** An edit that can be taken back. */
export interface Command {
  readonly name: string;
  readonly forward: Patches;
  readonly back: Patches;
  /** Where a text is written: what follows in the same place is one command with it. */
  readonly place?: string;
  /** Tables that have other rows since. */
  readonly rows?: readonly RowsChange[];
}

/** What can be taken back, the last one last, and what was taken back, the next one first. */
export interface History {
  readonly past: readonly Command[];
  readonly future: readonly Command[];
}

export const NO_HISTORY: History = { past: [], future: [] };

const MOST_COMMANDS = 200;

/**
 * The history after an edit. What was taken back before cannot be done again then.
 * @param place where a text is written: what follows in the same place is one command with it
 * @param rows tables that have other rows since
 */
export function remembered(
  history: History,
  { name, forward, back }: Edited,
  place?: string,
  rows?: readonly RowsChange[],
): History {
  const { past } = history;
  const last = past.at(-1);
  const isSame = place !== undefined && last?.place === place;
  const command: Command = isSame
    ? { ...last, forward: [...last.forward, ...forward] as Patches, back: [...back, ...last.back] as Patches }
    : { name, forward, back, ...(place === undefined ? {} : { place }), ...(rows ? { rows } : {}) };
  return { past: [...(isSame ? past.slice(0, -1) : past.slice(1 - MOST_COMMANDS)), command], future: [] };
}

/** A report with what can be taken back in it. */
export interface Remembering extends History {
  readonly report: Report;
}

/** A report a step back or on, and the tables that have other rows there. */
export interface Stepped extends Remembering {
  readonly rows: readonly RowsChange[];
}

/** Takes the last command back; null where there is none. */
export function undone({ report, past, future }: Remembering): Stepped | null {
  const command = past.at(-1);
  if (!command) return null;
  const rows = (command.rows ?? []).map(({ table, before, after }) => ({ table, before: after, after: before }));
  return { report: apply(report, command.back), past: past.slice(0, -1), future: [command, ...future], rows };
}

/** Does again what was taken back last; null where there is nothing. */
export function redone({ report, past, future }: Remembering): Stepped | null {
  const [command, ...rest] = future;
  if (!command) return null;
  return { report: apply(report, command.forward), past: [...past, command], future: rest, rows: command.rows ?? [] };
}

/** A history as it is kept: what is written after a reload is a step of its own. */
export function ended({ past, future }: History): History {
  return { past: past.map(({ place: _, ...command }) => command), future };
}

/** The versions of rows that a history may still ask for, as `table version`. */
export function rowsNeeded({ past, future }: Pick<History, 'past' | 'future'>): ReadonlySet<string> {
  return new Set(
    [...past, ...future].flatMap(({ rows = [] }) =>
      rows.flatMap(({ table, before, after }) =>
        [before, after].filter((version) => version !== null).map((version) => `${table} ${version}`),
      ),
    ),
  );
}
