export * from './report';
export { readReport, checkReport } from './file';
export { writeReport } from './write';
export { wholeBundle } from './wholeBundle';
export { BUNDLE_LIMITS, isBundle, readBundle, writeBundle, type Bundle } from './bundle';
export * from './vocabulary';
export { reportFor, targetsFrom, withColumns, type ColumnsChanged, type KnownTable } from './fromTables';
export { firstBrief, firstBriefOver } from './firstBrief';
export { accepting } from './accepting';
