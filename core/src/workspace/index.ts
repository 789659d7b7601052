export * from './workspace';
export { bareReport, readBare } from './bare';
