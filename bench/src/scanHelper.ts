/** A thread that runs a part of a scan, see `threads.ts`. */
import { parentPort } from 'node:worker_threads';
import { vectorEngine, type VectorPlan } from '@bold-ruler/core/source';

parentPort!.on('message', ({ plan, from, to }: { plan: VectorPlan; from: number; to: number }) =>
  parentPort!.postMessage(vectorEngine()!.run(plan, from, to)),
);
