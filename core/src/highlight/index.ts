export * from './palette';
export * from './standing';
export * from './encode';
export * from './coverage';
export * from './colour';
export * from './inks';
export * from './ramp';
export { DARK_PAPER, inDark, marksInDark } from './dark';
