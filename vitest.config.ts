import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'cli/**/*.test.ts',
      'demo/**/*.test.ts',
      'bench/**/*.test.ts',
      'web/src/**/*.test.ts',
    ],
    testTimeout: 60_000,
  },
});
