/** Scans with a second thread that shares the columns, beside the same scans with one. */
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { scan, scanTogether, type ScanHelper, type VectorState } from '@bold-ruler/core/source';
import { sharedTable, type Table } from '@bold-ruler/core/table';
import { QUERIES, queryOf, SCHOOL } from './queries';
import { printMean, sideBySide } from './timing';

function helperThread(): { readonly helper: ScanHelper; end(): Promise<unknown> } {
  const worker = new Worker(fileURLToPath(new URL('./scanHelper.mjs', import.meta.url)));
  const waiting: ((state: VectorState | null) => void)[] = [];
  worker.on('message', (state: VectorState | null) => waiting.shift()!(state));
  const helper: ScanHelper = {
    run: (plan, rows) =>
      new Promise((resolve) => {
        waiting.push(resolve);
        worker.postMessage({ plan, rows });
      }),
  };
  return { helper, end: () => worker.terminate() };
}

export async function benchThreads(read: Table): Promise<void> {
  const table = sharedTable(read);
  const { helper, end } = helperThread();
  const ratios: number[] = [];
  // A thread that has not begun is not waited for: the first scans are this one's alone.
  for (let i = 0; i < 40; i++) await scanTogether(table, queryOf(table, QUERIES[0]!), SCHOOL, [helper]);
  for (const named of QUERIES) {
    const query = queryOf(table, named);
    const [two, one] = await sideBySide(
      () => scanTogether(table, query, SCHOOL, [helper]),
      () => scan(table, query, SCHOOL),
    );
    console.log(
      `ratio ${named.name}-two-threads-over-one ${two.toFixed(2)}/${one.toFixed(2)} ${(two / one).toFixed(3)}`,
    );
    ratios.push(two / one);
  }
  printMean('scan-with-2-threads-over-1', ratios, 0.6);
  await end();
}
