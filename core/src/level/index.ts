export { levelChecks } from './checked';
export { LEVEL_CHECKS } from './registry';
export type { About, Finding, LevelCheck, Repair } from './level';
