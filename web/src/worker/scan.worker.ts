import { takePart, vectorEngine, type SharedRows, type VectorPlan, type VectorState } from '@bold-ruler/core/source';

/** A scan in which a thread is asked to take part, as which of those that are asked. */
export interface ScanAsked {
  readonly number: number;
  readonly plan: VectorPlan;
  readonly rows: SharedRows;
  readonly place: number;
}
/** What it gives; null where others had ended before. */
export interface ScanAnswered {
  readonly number: number;
  readonly can: boolean;
  readonly state: VectorState | null;
}

self.addEventListener('message', ({ data }: MessageEvent<ScanAsked>) => {
  const { number, plan, rows, place } = data;
  const engine = vectorEngine();
  const answer: ScanAnswered = {
    number,
    can: engine !== null,
    state: engine && takePart(engine, plan, rows, place),
  };
  self.postMessage(answer);
});
