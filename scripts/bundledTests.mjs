// A plugin for Vitest: files of tests are read as esbuild bundles them, with the modules they share in pieces of their own. Node runs
// these as they are; Vitest would rewrite each import of each module, and loops across modules would take a third longer.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join, relative, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { root } from './ready.mjs';

const FOLDER = join(root, 'node_modules/.cache/bundled-tests');

/** What a module knows of its own place stays true: the bundle lies elsewhere. */
const ownPlace = {
  name: 'own-place',
  setup(bundle) {
    bundle.onLoad({ filter: /\.tsx?$/ }, async ({ path }) => {
      const text = await readFile(path, 'utf8');
      if (!text.includes('import.meta.url')) return null;
      const place = JSON.stringify(pathToFileURL(path).href);
      return { contents: text.replaceAll('import.meta.url', place), loader: path.endsWith('x') ? 'tsx' : 'ts' };
    });
  },
};

/** Packages and scripts are not bundled: there is one of each, whoever loads it. */
const onlyOwn = {
  name: 'only-own',
  setup(bundle) {
    bundle.onResolve({ filter: /^[^./]/ }, ({ path }) =>
      /^(@bold-ruler\/|bold-ruler\/|@\/)/.test(path) ? null : { path, external: true },
    );
    bundle.onResolve({ filter: /^\..*\.mjs$/ }, ({ path, resolveDir }) => ({
      path: resolve(resolveDir, path),
      external: true,
    }));
  },
};

/** Files of tests, bundled when the run begins; those that put something in another's place before it is loaded are left as they are. */
export function bundledTests(files) {
  const bundled = files
    .map((file) => resolve(root, file))
    .filter((file) => !/\bvi\.mock\(|^import '/m.test(readFileSync(file, 'utf8')));
  const places = new Map(bundled.map((file) => [file, join(FOLDER, relative(root, file).replace(/\.ts$/, '.js'))]));
  return {
    name: 'bundled-tests',
    enforce: 'pre',
    async buildStart() {
      rmSync(FOLDER, { recursive: true, force: true });
      mkdirSync(FOLDER, { recursive: true });
      await build({
        entryPoints: bundled,
        outdir: FOLDER,
        outbase: root,
        bundle: true,
        splitting: true,
        format: 'esm',
        platform: 'node',
        target: 'node20',
        sourcemap: 'inline',
        tsconfig: join(root, 'tsconfig.imports.json'),
        logLevel: 'error',
        plugins: [ownPlace, onlyOwn],
      });
    },
    load(id) {
      const place = places.get(id.split('?')[0]);
      if (place === undefined) return null;
      const text = readFileSync(place, 'utf8');
      // Pieces lie where the bundle does.
      return text.replace(/(\bfrom |\bimport\(|\bimport )"(\.\.?\/[^"]+)"/g, (_, before, to) => {
        return `${before}${JSON.stringify(resolve(place, '..', to))}`;
      });
    },
  };
}
