export { levelChecks } from './checked';
export { LEVEL_CHECKS } from './registry';
export { finding, graver } from './checked';
export { inFile } from './checks/ofFile';
export { decisionsOf, type Decision, type FoundIn } from './decisions';
export type { About, Amount, Finding, LevelCheck, Repair, Said, TableTab } from './level';
