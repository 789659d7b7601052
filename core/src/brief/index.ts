export * from './brief';
export { readBrief, OPENINGS } from './read';
export { inQuotes, writeBrief, partsOfBrief, writeView, type BriefParts } from './write';
export { completeBrief, type Completion } from './complete';
export * from './mistakes';
export { typedName } from './quoting';
