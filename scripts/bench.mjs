// npm run bench: builds the benchmarks and runs them without a loader in between.
import { ready, root, run } from './ready.mjs';

await ready(['install', 'demo', 'program']);
const { build } = await import('esbuild');
await build({
  entryPoints: [
    `${root}bench/src/main.ts`,
    `${root}bench/src/scanHelper.ts`,
    `${root}bench/src/inBrowser.ts`,
    `${root}bench/src/files.ts`,
    `${root}bench/src/commands.ts`,
    `${root}bench/src/server.ts`,
    `${root}bench/src/database.ts`,
  ],
  outdir: `${root}bench/dist`,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  mainFields: ['module', 'main'],
  external: ['pg', '@duckdb/node-api', 'selenium-webdriver', 'exceljs', '@cantoo/pdf-lib', 'fontkit'],
  logLevel: 'error',
  banner: {
    js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
  },
});
const commands = () =>
  run('node', ['bench/dist/commands.mjs', `${root}cli/bin/bold-ruler.mjs`, `${root}demo/files/pellwether.ruler.json`]);
const server = async () => {
  await ready();
  run('node', ['bench/dist/server.mjs', `${root}web`, `${root}demo/files/pellwether.ruler.json`]);
};
const database = (...times) => run('node', ['bench/dist/database.mjs', `${root}demo/files`, ...times]);
if (process.argv[2] === 'database') {
  database(...process.argv.slice(3));
  process.exit(0);
}
if (process.argv[2] === 'server' || process.argv[2] === 'commands') {
  if (process.argv[2] === 'server') await server();
  else commands();
  process.exit(0);
}
run('node', ['--max-old-space-size=12000', 'bench/dist/main.mjs', ...process.argv.slice(2)]);
run('node', ['bench/dist/files.mjs', `${root}demo/files/pellwether.ruler.json`, `${root}web/public/program/page.json`]);
commands();
database();
run('node', ['bench/dist/inBrowser.mjs', ...process.argv.slice(2)]);
await server();
