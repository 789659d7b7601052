export * from './report';
export { readReport, checkReport, writeReport } from './file';
export * from './vocabulary';
export { reportFor, type KnownTable } from './fromTables';
