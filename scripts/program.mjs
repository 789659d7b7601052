// The program that a page as one HTML file carries. Beside the application it lies packed: node scripts/program.mjs
import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { MIT, shippedPackages, shortNotices } from './licenses.mjs';
import { newest } from './newest.mjs';

const path = (from) => fileURLToPath(new URL(`../${from}`, import.meta.url));
const PACKED = path('web/public/program/page.json');

/**
 * Pages that are files may not run WebAssembly, and have few rows: they go without the engine of scans. Nor do they ask what is to be
 * known of a file that has been read.
 */
const leaner = {
  name: 'leaner',
  setup(program) {
    program.onLoad({ filter: /core\/src\/table\/profile\.ts$/ }, () => ({
      contents: 'export const profileTable = () => null;',
    }));
    program.onLoad({ filter: /core\/src\/table\/duplicates\.ts$/ }, () => ({
      contents: 'export const duplicatesIn = () => null;',
    }));
    program.onLoad({ filter: /core\/src\/table\/suspects\.ts$/ }, () => ({
      contents: 'export const suspectRows = () => ({ totals: [], notes: [] });',
    }));
    program.onLoad({ filter: /core\/src\/source\/vector\/index\.ts$/ }, () => ({
      contents:
        'export const vectorEngine = () => null; export const vectorPlan = () => null; export const runTogether = () => null; export const takePart = () => null; export const WORTH_SHARING = Infinity;',
    }));
  },
};

/** A module and what it needs, as one text. */
async function bundled(entry, more) {
  const { outputFiles, metafile } = await build({
    entryPoints: [path(entry)],
    bundle: true,
    target: 'es2022',
    write: false,
    metafile: true,
    legalComments: 'none',
    logLevel: 'error',
    ...more,
  });
  // What was read and left out again is no part of it.
  const [{ inputs }] = Object.values(metafile.outputs);
  const kept = Object.keys(inputs).filter((from) => inputs[from].bytesInOutput > 0);
  return { text: outputFiles[0].text, inputs: kept };
}

/** Its text, as it was written or made small. */
export async function programText({ small = false } = {}) {
  const { text, inputs } = await bundled('web/src/handed/main.ts', {
    format: 'iife',
    minify: true,
    plugins: [leaner],
  });
  const used = new Set(inputs.flatMap((from) => /.*node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(from)?.[1] ?? []));
  const notices = shortNotices(shippedPackages().filter(({ name }) => used.has(name)));
  const head = `/*!\nBold Ruler, © 2026 its founders; it may be passed on as a part of this page. With parts of:\n${notices}\n\n${MIT}\n*/\n`;
  const body = small ? await smaller(text) : text;
  // Inside a page, an end of a script would end it.
  return `${head}${body}`.replaceAll('</', '<\\/');
}

async function smaller(text) {
  const { minify } = await import('terser');
  const { code } = await minify(text, {
    ecma: 2022,
    compress: { passes: 2, ecma: 2022, toplevel: true, keep_fargs: false, pure_getters: true },
    mangle: { toplevel: true },
    format: { ecma: 2022, comments: false },
  });
  return code;
}

/** The figure's font with the letters that most pages have, as base64 WOFF2 by weight. Digits of one width are all it does. */
async function smallerFonts() {
  const { default: subsetFont } = await import('subset-font');
  const { BASIC_LETTERS, FONT_IN_FILES } = await bundledModule('core/src/scene/fontFiles.ts');
  const { resolve } = createRequire(path('cli/package.json'));
  const made = Object.entries(FONT_IN_FILES).map(async ([weight, file]) => {
    const font = await subsetFont(readFileSync(resolve(file)), BASIC_LETTERS, {
      targetFormat: 'woff2',
      keepFeatures: ['tnum'],
      dropTables: ['GDEF', 'GPOS', 'STAT', 'gasp'],
    });
    return [weight, font.toString('base64')];
  });
  return Object.fromEntries(await Promise.all(made));
}

/** A module of the core's, as this script can use it. */
async function bundledModule(entry) {
  const { text } = await bundled(entry, { format: 'esm' });
  return import(`data:text/javascript,${encodeURIComponent(text)}`);
}

/** The program as pages carry it, with what lets them run it; it is made where what lies there is older than its parts. */
export async function packedProgram() {
  if (newest([PACKED]) <= newest(['core/src', 'web/src/handed', 'scripts/program.mjs'].map(path))) {
    const { deflateAsync } = await import('@gfx/zopfli');
    const { toBase91 } = await bundledModule('core/src/handover/base91.ts');
    const { framed } = await bundledModule('core/src/handover/streams.ts');
    const bytes = Buffer.from(await programText({ small: true }));
    const packed = toBase91(framed([await deflateAsync(bytes, { numiterations: 10 })]));
    const fonts = await smallerFonts();
    const hash = createHash('sha256').update(bytes).digest('base64');
    mkdirSync(dirname(PACKED), { recursive: true });
    const beside = `${PACKED}.${process.pid}.part`;
    writeFileSync(beside, JSON.stringify({ packed, hash, fonts }));
    renameSync(beside, PACKED);
  }
  return JSON.parse(readFileSync(PACKED, 'utf8'));
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await packedProgram();
