export * from './workspace';
export { bareReport, readBare, together, type Together } from './bare';
