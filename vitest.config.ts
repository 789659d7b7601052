import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

/** They make a form known, or leave a storage behind, that all others would meet. */
const ALONE = ['core/src/figure/newForm.test.ts', 'web/src/storage/newer.test.ts'];

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./web/src', import.meta.url)) } },
  test: {
    setupFiles: ['scripts/laws.setup.ts'],
    // Ends what hangs; no test depends on how long it takes.
    testTimeout: 900_000,
    hookTimeout: 900_000,
    maxWorkers: availableParallelism(),
    projects: [
      {
        extends: true,
        test: {
          name: 'together',
          include: [
            'core/**/*.test.ts',
            'cli/**/*.test.ts',
            'demo/**/*.test.ts',
            'bench/**/*.test.ts',
            'web/src/**/*.test.ts',
            'web/server/**/*.test.ts',
          ],
          exclude: ALONE,
          // Files of one worker share the modules they load: loading them anew took a third of the time.
          isolate: false,
        },
      },
      { extends: true, test: { name: 'alone', include: ALONE } },
    ],
  },
});
