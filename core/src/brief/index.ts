export * from './brief';
export { periodFrom, readBrief, OPENINGS } from './read';
export { briefOrNull } from './readable';
export { writeBrief, partsOfBrief, type BriefParts } from './write';
export { writeView } from './writeView';
export { completeBrief, type Completion } from './complete';
export * from './mistakes';
export * from './levels';
export { inQuotes, typedName } from './quoting';
