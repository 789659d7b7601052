import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { globSync } from 'tinyglobby';
import { defineConfig } from 'vitest/config';
import { bundledTests } from './scripts/bundledTests.mjs';

/** They make a form known, or leave a storage behind, that all others would meet. */
const ALONE = ['core/src/figure/newForm.test.ts', 'web/src/storage/newer.test.ts'];

/** One thing in the code that is another: `npm run test:changes` looks whether a test notices. */
interface Change {
  readonly file: string;
  readonly from: number;
  readonly to: number;
  readonly was: string;
  readonly now: string;
}
const { BOLD_RULER_CHANGE: changed, BOLD_RULER_WORKERS: workers, BOLD_RULER_BUNDLED: bundled } = process.env;
const change = changed === undefined ? null : (JSON.parse(changed) as Change);
const changing = {
  name: 'change',
  enforce: 'pre' as const,
  transform(code: string, id: string) {
    if (!change || fileURLToPath(new URL(change.file, import.meta.url)) !== id) return null;
    if (code.slice(change.from, change.to) !== change.was) throw new Error(`${id} is not what was changed`);
    return `${code.slice(0, change.from)}${change.now}${code.slice(change.to)}`;
  },
};

const TESTS = [
  'core/**/*.test.ts',
  'cli/**/*.test.ts',
  'demo/**/*.test.ts',
  'bench/**/*.test.ts',
  'web/src/**/*.test.ts',
  'web/server/**/*.test.ts',
];

export default defineConfig({
  plugins: change ? [changing] : bundled ? [bundledTests(globSync(TESTS, { ignore: '**/node_modules/**' }))] : [],
  resolve: { alias: { '@': fileURLToPath(new URL('./web/src', import.meta.url)) } },
  test: {
    setupFiles: ['scripts/laws.setup.ts'],
    // Ends what hangs; no test depends on how long it takes.
    testTimeout: 900_000,
    hookTimeout: 900_000,
    maxWorkers: Number(workers ?? availableParallelism()),
    projects: [
      {
        extends: true,
        test: {
          name: 'together',
          include: TESTS,
          exclude: ALONE,
          // Files of one worker share the modules they load: loading them anew took a third of the time.
          isolate: false,
        },
      },
      { extends: true, test: { name: 'alone', include: ALONE } },
    ],
  },
});
