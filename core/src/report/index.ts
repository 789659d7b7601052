export * from './report';
export { readReport, checkReport } from './file';
export { writeReport } from './write';
export * from './vocabulary';
export { reportFor, targetsFrom, withColumns, type KnownTable } from './fromTables';
export { firstBrief } from './firstBrief';
