export { vectorEngine, type VectorEngine } from './engine';
export { merged, vectorPlan, type VectorPlan, type VectorState } from './plan';
export { runTogether, WORTH_SHARING, type ScanHelper } from './together';
