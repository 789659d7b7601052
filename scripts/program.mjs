// Bundles the program that a page as one HTML file carries: node scripts/program.mjs OUT …
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { MIT, shippedPackages, shortNotices } from './licenses.mjs';

/** Pages that are files may not run WebAssembly, and have few rows: they go without the engine of scans. */
const withoutVectors = {
  name: 'without-vectors',
  setup(program) {
    program.onLoad({ filter: /core\/src\/source\/vector\/index\.ts$/ }, () => ({
      contents:
        'export const vectorEngine = () => null; export const vectorPlan = () => null; export const runTogether = () => null; export const WORTH_SHARING = Infinity;',
    }));
  },
};

/** Its text, made small. */
export async function programText() {
  const { outputFiles, metafile } = await build({
    entryPoints: [fileURLToPath(new URL('../web/src/handed/main.ts', import.meta.url))],
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    write: false,
    metafile: true,
    legalComments: 'none',
    plugins: [withoutVectors],
    logLevel: 'error',
  });
  const used = new Set(
    Object.keys(metafile.inputs).flatMap((path) => /.*node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(path)?.[1] ?? []),
  );
  const notices = shortNotices(shippedPackages().filter(({ name }) => used.has(name)));
  const head = `/*!\nBold Ruler, © 2026 its founders; it may be passed on as a part of this page. With parts of:\n${notices}\n\n${MIT}\n*/\n`;
  // Inside a page, an end of a script would end it.
  return `${head}${outputFiles[0].text}`.replaceAll('</', '<\\/');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const text = await programText();
  for (const out of process.argv.slice(2)) {
    mkdirSync(dirname(out), { recursive: true });
    writeFileSync(out, text);
  }
}
