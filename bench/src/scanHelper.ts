/** A thread that runs a part of a scan, see `threads.ts`. */
import { parentPort } from 'node:worker_threads';
import { takePart, vectorEngine, type SharedRows, type VectorPlan } from '@bold-ruler/core/source';

parentPort!.on('message', ({ plan, rows }: { plan: VectorPlan; rows: SharedRows }) =>
  parentPort!.postMessage(takePart(vectorEngine()!, plan, rows, 0)),
);
