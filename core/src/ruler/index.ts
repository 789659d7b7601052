export * from './linear';
export * from './fit';
export * from './bands';
export { niceEnds, stepsFor, multiple, type TickStep } from './ticks';
