export * from './column';
export { inOrder, compareNames } from './members';
export * from './table';
export * from './profile';
export * from './suspects';
export { writeCsv } from './writeCsv';
