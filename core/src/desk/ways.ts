import { pathOf, restOpened, wayDown, wentBack, wentInto, writeBrief, type Brief } from '../brief';
import { rowKey } from '../figure';
import { belowOf, type Cells } from '../query';
import { BLANK_MEMBER } from '../table';
import type { OpenReport } from '../workspace';

/** A row that is gone into: the brief that shows what is below it. */
export interface WayInto {
  readonly text: string;
  /** The brief to which its way back leads. */
  readonly back: string;
}

/** What lies below the rows of a figure. */
export interface LevelBelow {
  readonly field: string;
  /** A benchmark that is not known there. */
  readonly loses: string | null;
}

/** A step of the way a figure has been gone into, and the brief that goes back before it. */
export interface PathStep {
  readonly field: string;
  readonly member: string;
  readonly text: string;
}

type Desk = Pick<OpenReport, 'report' | 'source' | 'vocabulary'>;

/** The level below the rows of a figure, by the report's hierarchies; null where there is none. */
export function levelUnder(desk: Desk, brief: Brief): LevelBelow | null {
  const ways = belowOf(desk, brief);
  const way = wayDown(brief, desk.report.hierarchies ?? [], ways);
  if (!way) return null;
  const { against } = brief;
  return { field: way.below, loses: against !== null && !ways.holds(against, way.below) ? against : null };
}

/** Where a row of a figure leads: a level down, or a selection's rest member by member; null where it leads nowhere. */
export function wayInto(desk: Desk, cells: Cells, row: number): WayInto | null {
  const { brief } = cells;
  const { report, vocabulary } = desk;
  const hierarchies = report.hierarchies ?? [];
  if (cells.isRest[row]) {
    const kept = new Set(
      Array.from({ length: cells.count }, (_, at) => at).flatMap((at) =>
        cells.isRest[at] ? [] : [cells.members[0]?.[at] || null],
      ),
    );
    const opened = restOpened(brief, [...kept]);
    return opened && { text: writeBrief(opened, vocabulary), back: writeBrief(brief, vocabulary) };
  }
  const into = wentInto(brief, hierarchies, rowKey(cells, row).key, belowOf(desk, brief));
  if (!into) return null;
  const back = wentBack(into, hierarchies, pathOf(into, hierarchies).length - 1);
  return { text: writeBrief(into, vocabulary), back: writeBrief(back, vocabulary) };
}

/** The way a brief has been gone into by the report's hierarchies, the widest level first. */
export function pathTo({ report, vocabulary }: Desk, brief: Brief): PathStep[] {
  const hierarchies = report.hierarchies ?? [];
  return pathOf(brief, hierarchies).map(({ field, member }, i) => ({
    field,
    member: member ?? BLANK_MEMBER,
    text: writeBrief(wentBack(brief, hierarchies, i), vocabulary),
  }));
}
