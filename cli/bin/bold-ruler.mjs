#!/usr/bin/env node
// Runs the command line. The bundle is made when it is missing or older than its source.
import { existsSync, readdirSync, renameSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const bundle = fileURLToPath(new URL('../dist/main.mjs', import.meta.url));
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
  const beside = `${bundle}.${process.pid}.part`;
  await build({
    entryPoints: [fileURLToPath(new URL('../src/main.ts', import.meta.url))],
    // Whole or not at all: another command may be reading it.
    outfile: beside,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    mainFields: ['module', 'main'],
    external: ['@resvg/resvg-js', '@cantoo/pdf-lib', 'fontkit'],
    logLevel: 'error',
    define: { 'process.env.BOLD_RULER_PROGRAM': JSON.stringify(await programText()) },
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
  });
  renameSync(beside, bundle);
}
const { main } = await import(bundle);
process.exitCode = await main(process.argv.slice(2));
