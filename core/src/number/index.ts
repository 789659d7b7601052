export * from './exact';
export { percentile } from './percentile';
