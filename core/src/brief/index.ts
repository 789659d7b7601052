export * from './brief';
export { readBrief, OPENINGS } from './read';
export { writeBrief, partsOfBrief, writeView, type BriefParts } from './write';
export { completeBrief, type Completion } from './complete';
