#!/usr/bin/env node
// Runs the command line. Its bundle is made when it is missing or older than its source. What the engine has compiled of it for a
// command is kept beside it, so that the next such command begins sooner; where it cannot be kept, nothing else is different.
import { closeSync, existsSync, fstatSync, openSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import { constants, Script } from 'node:vm';
import { newest } from '../../scripts/newest.mjs';

const dist = fileURLToPath(new URL('../dist', import.meta.url));
const bundle = `${dist}/main.cjs`;
const sources = ['.', '../src', '../../core/src', '../../web/src/handed', '../../scripts/program.mjs'].map((path) =>
  fileURLToPath(new URL(path, import.meta.url)),
);

if (newest([bundle]) <= newest(sources)) await (await import('./make.mjs')).make(bundle);

/** The bundle's text, and what tells it from every other one. */
function read() {
  const file = openSync(bundle);
  try {
    // All its letters are ASCII.
    return { text: readFileSync(file, 'latin1'), version: Math.round(fstatSync(file).mtimeMs) };
  } finally {
    closeSync(file);
  }
}

const words = process.argv.slice(2);
const { text, version } = read();
// A command that writes another kind of file runs other parts.
const [command = ''] = /^[a-z]+$/.exec(words[0] ?? '') ?? [];
const [ending = ''] = words.flatMap((word) => /\.(?:html|json|pdf|png|pptx|svg|xlsx)$/.exec(word) ?? []).slice(-1);
const compiled = `${dist}/${command}${ending}.${version}.compiled`;
const cachedData = existsSync(compiled) ? readFileSync(compiled) : undefined;
const script = new Script(`(function (exports, require, module, __filename) {${text}\n})`, {
  filename: bundle,
  importModuleDynamically: constants.USE_MAIN_CONTEXT_DEFAULT_LOADER,
  ...(cachedData ? { cachedData } : {}),
});
const module = { exports: {} };
script.runInThisContext()(module.exports, createRequire(bundle), module, bundle);

// Whoever reads only the beginning of what is written has what they wanted.
process.stdout.on('error', ({ code }) => {
  if (code === 'EPIPE') process.exit(0);
  console.error(
    `bold-ruler: standard output takes nothing more (${code}) — make room there, or write into a file with -o.`,
  );
  process.exit(1);
});
process.exitCode = await module.exports.main(words);

if (process.exitCode === 0 && (!cachedData || script.cachedDataRejected)) {
  const beside = `${compiled}.${process.pid}.part`;
  try {
    writeFileSync(beside, script.createCachedData());
    renameSync(beside, compiled);
  } catch {
    // A folder that may not be written: it is compiled anew each time.
  }
}
