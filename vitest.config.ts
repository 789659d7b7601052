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
    testTimeout: 60_000,
  },
});
