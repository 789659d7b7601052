#!/usr/bin/env node
// Runs the command line. The bundle is made when it is missing or older than its source.
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { fileURLToPath } from 'node:url';

const AN_HOUR = 3_600_000;
const dist = fileURLToPath(new URL('../dist', import.meta.url));
const bundle = `${dist}/main.mjs`;
const sources = ['.', '../src', '../../core/src', '../../web/src/handed'].map((path) =>
  fileURLToPath(new URL(path, import.meta.url)),
);

function newest(folder) {
  return readdirSync(folder, { withFileTypes: true }).reduce((latest, entry) => {
    const path = `${entry.parentPath ?? entry.path}/${entry.name}`;
    return Math.max(latest, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }, 0);
}

if (!existsSync(bundle) || statSync(bundle).mtimeMs < Math.max(...sources.map(newest))) {
  const [{ build }, { programText }] = await Promise.all([import('esbuild'), import('../../scripts/program.mjs')]);
  const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8'));
  const { outputFiles } = await build({
    entryPoints: [fileURLToPath(new URL('../src/main.ts', import.meta.url))],
    outdir: dist,
    write: false,
    bundle: true,
    // Each command loads its own part when it is asked for.
    splitting: true,
    outExtension: { '.js': '.mjs' },
    chunkNames: '[hash]',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    mainFields: ['module', 'main'],
    external: ['@resvg/resvg-js'],
    logLevel: 'error',
    define: {
      'process.env.BOLD_RULER_PROGRAM': JSON.stringify(await programText()),
      'process.env.BOLD_RULER_VERSION': JSON.stringify(version),
    },
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
  });
  mkdirSync(dist, { recursive: true });
  const before = new Set(readdirSync(dist));
  // The parts first, the way in last, and each whole or not at all: another command may be reading them.
  for (const { path, contents } of outputFiles.sort((a, b) => Number(a.path === bundle) - Number(b.path === bundle))) {
    before.delete(basename(path));
    const beside = `${path}.${process.pid}.part`;
    writeFileSync(beside, contents);
    renameSync(beside, path);
  }
  // Parts of earlier versions, which nobody reads any more.
  for (const name of before) {
    const path = `${dist}/${name}`;
    if (statSync(path).mtimeMs < Date.now() - AN_HOUR) rmSync(path, { force: true, recursive: true });
  }
}
// Whoever reads only the beginning of what is written has what they wanted.
process.stdout.on('error', ({ code }) => process.exit(code === 'EPIPE' ? 0 : 1));
const { main } = await import(bundle);
process.exitCode = await main(process.argv.slice(2));
