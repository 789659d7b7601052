import { answers } from './checks/answers';
import { dwarfed, oneSided, percentOfNothing } from './checks/base';
import { cannotBeDrawn } from './checks/cannotBeDrawn';
import { doubleTargets } from './checks/doubleTargets';
import { inks } from './checks/inks';
import { namesAlike } from './checks/namesAlike';
import { notFromZero } from './checks/notFromZero';
import {
  damagedCells,
  daysFarOff,
  daysUnlisted,
  keysNotFound,
  keysTwice,
  rowsTwice,
  strayQuotes,
} from './checks/ofFile';
import { ruleGaps, ruleOverlaps, rulesUnreached } from './checks/ruleCoverage';
import { staticBenchmark } from './checks/staticBenchmark';
import { droppedLabels, rowsLeftOut, shareOfSome } from './checks/whole';
import { ratesAdded } from './checks/ratesAdded';
import { staleFinding } from './checks/staleFinding';
import { textOrder } from './checks/textOrder';
import { unmatchedTargets } from './checks/unmatchedTargets';
import { zoomed } from './checks/zoomed';
import type { LevelCheck } from './level';

/** All checks, in the order in which their findings of one severity are told. */
export const LEVEL_CHECKS: readonly LevelCheck[] = [
  cannotBeDrawn,
  notFromZero,
  staticBenchmark,
  ...answers,
  oneSided,
  ratesAdded,
  textOrder,
  percentOfNothing,
  doubleTargets,
  unmatchedTargets,
  namesAlike,
  rowsTwice,
  keysTwice,
  keysNotFound,
  daysFarOff,
  daysUnlisted,
  strayQuotes,
  damagedCells,
  rowsLeftOut,
  shareOfSome,
  ruleGaps,
  ruleOverlaps,
  rulesUnreached,
  inks,
  zoomed,
  dwarfed,
  droppedLabels,
  staleFinding,
];
