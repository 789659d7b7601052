// Makes the bundle of the command line.
import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { packedProgram } from '../../scripts/program.mjs';

const AN_HOUR = 3_600_000;

/** What a font library unpacks with a program of its own when it is loaded: here the engine does it. */
const unpacking = {
  name: 'unpacking',
  setup(bundle) {
    bundle.onLoad({ filter: /tiny-inflate\/index\.js$/ }, () => ({
      contents: `const { inflateRawSync } = require('node:zlib');
        module.exports = (packed, into) => { const all = inflateRawSync(packed); into.set(all); return into.subarray(0, all.length); };`,
    }));
  },
};

const packing = {
  name: 'packing',
  setup(bundle) {
    const path = fileURLToPath(new URL('../src/packing.ts', import.meta.url));
    bundle.onResolve({ filter: /^fflate$/ }, ({ importer }) => (importer === path ? undefined : { path }));
  },
};

/** @param path of the bundle, which is whole or not there at all: another command may be reading it */
export async function make(path) {
  const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8'));
  const { outputFiles } = await build({
    entryPoints: [fileURLToPath(new URL('../src/main.ts', import.meta.url))],
    outfile: path,
    write: false,
    bundle: true,
    minifyWhitespace: true,
    minifySyntax: true,
    lineLimit: 160,
    charset: 'ascii',
    absWorkingDir: fileURLToPath(new URL('..', import.meta.url)),
    platform: 'node',
    format: 'cjs',
    target: 'node20',
    mainFields: ['module', 'main'],
    external: ['@resvg/resvg-js'],
    logLevel: 'error',
    plugins: [unpacking, packing],
    define: {
      'process.env.BOLD_RULER_PROGRAM': JSON.stringify(await packedProgram()),
      'process.env.BOLD_RULER_VERSION': JSON.stringify(version),
      'import.meta.url': 'BESIDE',
    },
    banner: { js: "const BESIDE = require('node:url').pathToFileURL(__filename).href;" },
  });
  const folder = dirname(path);
  mkdirSync(folder, { recursive: true });
  const beside = `${path}.${process.pid}.part`;
  writeFileSync(beside, outputFiles[0].contents);
  renameSync(beside, path);
  // What earlier versions left, which nobody reads any more.
  for (const name of readdirSync(folder)) {
    const old = `${folder}/${name}`;
    if (old !== path && statSync(old).mtimeMs < Date.now() - AN_HOUR) rmSync(old, { force: true, recursive: true });
  }
}
