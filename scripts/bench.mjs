// npm run bench: builds the benchmarks and runs them without a loader in between.
import { install, root, run } from './ready.mjs';

install();
const { build } = await import('esbuild');
await build({
  entryPoints: [`${root}bench/src/main.ts`, `${root}bench/src/inBrowser.ts`],
  outdir: `${root}bench/dist`,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  mainFields: ['module', 'main'],
  external: ['@duckdb/node-api', 'selenium-webdriver'],
  logLevel: 'error',
  banner: {
    js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
  },
});
run('node', ['--max-old-space-size=12000', 'bench/dist/main.mjs', ...process.argv.slice(2)]);
run('node', ['bench/dist/inBrowser.mjs', ...process.argv.slice(2)]);
