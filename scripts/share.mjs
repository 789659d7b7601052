// Says how much of the code is tests: lines that hold code, without blanks and comments, and without files that are generated.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { root } from './ready.mjs';

/** Tests are at least so much of all code. */
export const LEAST = 0.25;

const GENERATED = /core\/src\/measure\/grammar\.js$|core\/src\/scene\/widths\.ts$|next-env\.d\.ts$/;
const TEST = /\.(?:test|fixture|setup)\.ts$|^web\/e2e\//;

/** @returns the lines of tests, of all code, and the share of the one in the other */
export function shareOfTests() {
  const { stdout } = spawnSync('git', ['ls-files', '-z', '*.ts', '*.tsx', '*.mjs', '*.cjs', '*.js'], {
    cwd: root,
    encoding: 'utf8',
  });
  let tests = 0;
  let all = 0;
  for (const file of stdout.split('\0')) {
    if (file === '' || GENERATED.test(file)) continue;
    const lines = readFileSync(`${root}${file}`, 'utf8')
      .split('\n')
      .filter((line) => line.trim() !== '' && !/^\s*(?:\/\/|\/\*|\*)/.test(line)).length;
    all += lines;
    if (TEST.test(file)) tests += lines;
  }
  return { tests, all, share: tests / all };
}
