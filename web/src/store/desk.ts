import { wrap, type Remote } from 'comlink';
import type { DeskApi } from '@/worker/desk.worker';

let remote: Remote<DeskApi> | null = null;

/** The worker that holds the open report's tables and computes its figures. */
export function desk(): Remote<DeskApi> {
  remote ??= wrap<DeskApi>(new Worker(new URL('../worker/desk.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
