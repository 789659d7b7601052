export { vectorEngine, type VectorEngine } from './engine';
export { merged, vectorPlan, type VectorPlan, type VectorState } from './plan';
export {
  runsOf,
  runTogether,
  takePart,
  WORTH_SHARING,
  type ScanHelper,
  type SharedRows,
  type Sharing,
} from './together';
