export * from './report';
export { readReport, checkReport } from './file';
export { writeReport } from './write';
export { BUNDLE_LIMITS, isBundle, readBundle, writeBundle, type Bundle } from './bundle';
export * from './vocabulary';
export { reportFor, targetsFrom, withColumns, type KnownTable } from './fromTables';
export { firstBrief, firstBriefOver } from './firstBrief';
export { renamed, usageOf, withoutNamed, type Named, type Usage } from './usage';
export { accepting } from './accepting';
