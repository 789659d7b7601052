// Bundles the program that a page as one HTML file carries: node scripts/program.mjs OUT …
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

/** Its text, made small. */
export async function programText() {
  const { outputFiles } = await build({
    entryPoints: [fileURLToPath(new URL('../web/src/handed/main.ts', import.meta.url))],
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    write: false,
    logLevel: 'error',
  });
  // Inside a page, an end of a script would end it.
  return outputFiles[0].text.replaceAll('</', '<\\/');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const text = await programText();
  for (const out of process.argv.slice(2)) {
    mkdirSync(dirname(out), { recursive: true });
    writeFileSync(out, text);
  }
}
