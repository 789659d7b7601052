import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': new URL('./web/src', import.meta.url).pathname } },
  test: {
    include: [
      'core/**/*.test.ts',
      'cli/**/*.test.ts',
      'demo/**/*.test.ts',
      'bench/**/*.test.ts',
      'web/src/**/*.test.ts',
      'web/server/**/*.test.ts',
    ],
    setupFiles: ['scripts/laws.setup.ts'],
    // Ends what hangs; no test depends on how long it takes.
    testTimeout: 900_000,
    hookTimeout: 900_000,
    maxWorkers: availableParallelism(),
  },
});
