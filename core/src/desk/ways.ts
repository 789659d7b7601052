import { pathOf, restOpened, wayDown, wentBack, wentInto, writeBrief, type Brief } from '../brief';
import { rowKey } from '../figure';
import { belowOf, type Cells } from '../query';
import { keyText } from '../scene';
import { BLANK_MEMBER } from '../table';
import type { OpenReport } from '../workspace';

/** A row that can be gone into: what is below it, and the brief that shows that. */
export interface WayInto {
  /** The field one level down; null opens the rest of a selection member by member. */
  readonly below: string | null;
  readonly text: string;
  /** The brief to which its way back leads. */
  readonly back: string;
  /** A benchmark that is not known down there. */
  readonly loses: string | null;
}

/** A step of the way a figure has been gone into, and the brief that goes back before it. */
export interface PathStep {
  readonly field: string;
  readonly member: string;
  readonly text: string;
}

type Desk = Pick<OpenReport, 'report' | 'source' | 'vocabulary'>;

/** The field below the rows of a figure, by the report's hierarchies; null where there is none. */
export function levelUnder(desk: Desk, brief: Brief): string | null {
  return wayDown(brief, desk.report.hierarchies ?? [], belowOf(desk, brief))?.below ?? null;
}

/** For each row of a figure where pressing it leads; null for a row that leads nowhere. */
export function waysInto(desk: Desk, cells: Cells): (row: number) => WayInto | null {
  const { brief } = cells;
  const hierarchies = desk.report.hierarchies ?? [];
  const ways = belowOf(desk, brief);
  const keyOf = (row: number) => rowKey(cells, row).key;
  return (row) => {
    if (cells.isRest[row]) {
      const [field] = brief.by;
      const kept = new Map(
        Array.from({ length: cells.count }, (_, i) => i)
          .filter((i) => !cells.isRest[i])
          .map((i) => [keyText({ key: keyOf(i), step: null }), keyOf(i)[field!] ?? null]),
      );
      const opened = restOpened(brief, [...kept.values()]);
      return opened && { below: null, text: writeBrief(opened, desk.vocabulary), back: '', loses: null };
    }
    const into = wentInto(brief, hierarchies, keyOf(row), ways);
    if (!into) return null;
    const back = wentBack(into, hierarchies, pathOf(into, hierarchies).length - 1);
    return {
      below: into.by[0]!,
      text: writeBrief(into, desk.vocabulary),
      back: writeBrief(back, desk.vocabulary),
      loses: brief.against !== into.against ? brief.against : null,
    };
  };
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
