export * from './workspace';
export { bareReport, joinedRows, readBare, together, type Together } from './bare';
