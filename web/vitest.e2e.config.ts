import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    root: fileURLToPath(new URL('.', import.meta.url)),
    include: ['e2e/**/*.test.ts'],
    globalSetup: 'e2e/shared.setup.ts',
    // Ends what hangs; no test depends on how long it takes.
    testTimeout: 900_000,
    hookTimeout: 900_000,
    expect: { poll: { timeout: 240_000 } },
    maxWorkers: Math.max(1, Math.min(4, availableParallelism())),
  },
});
