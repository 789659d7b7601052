import { vectorEngine, type VectorPlan, type VectorState } from '@bold-ruler/core/source';

/** A part of a scan that a thread is asked for, and its answer; null where it could not be done. */
export interface ScanAsked {
  readonly number: number;
  readonly plan: VectorPlan;
  readonly from: number;
  readonly to: number;
}
export interface ScanAnswered {
  readonly number: number;
  readonly state: VectorState | null;
}

self.addEventListener('message', ({ data }: MessageEvent<ScanAsked>) => {
  const { number, plan, from, to } = data;
  const state = vectorEngine()?.run(plan, from, to) ?? null;
  const answer: ScanAnswered = { number, state };
  self.postMessage(answer);
});
