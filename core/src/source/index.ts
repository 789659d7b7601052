export { columnarSource, type ColumnarSource } from './columnarSource';
export { withLookups } from './joined';
export { columnTypes, withDerived } from './derived';
export { rowsBehind } from './rows';
export * from './sql';
export { readWritten, written } from './wire';
export { togetherSource } from './together';
export { scan, scanTogether } from './scan';
export {
  takePart,
  vectorEngine,
  WORTH_SHARING,
  type ScanHelper,
  type SharedRows,
  type VectorPlan,
  type VectorState,
} from './vector';
