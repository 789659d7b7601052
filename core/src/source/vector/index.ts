export { vectorEngine, type VectorEngine } from './engine';
export { merged, vectorPlan, type VectorPlan, type VectorState } from './plan';
