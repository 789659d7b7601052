export * from './workspace';
export { bareReport, readBare, together, type Together } from './bare';
export { carriedWorkspace } from './carried';
