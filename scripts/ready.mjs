// What every command needs before it can run: installed packages, the demo's files, the built application.
import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readFileSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { newest as newestOf } from './newest.mjs';

export const root = fileURLToPath(new URL('..', import.meta.url));

/** Runs a command in the workspace; ends this process with its code when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
    ...options,
  });
  if (error) throw error;
  if (status !== 0) process.exit(status ?? 1);
}

const newest = (paths) => newestOf(paths.map((path) => `${root}${path}`));

const installed = () =>
  existsSync(`${root}node_modules/.package-lock.json`) ? statSync(`${root}node_modules/.package-lock.json`).mtimeMs : 0;

export function install() {
  if (installed() >= newest(['package-lock.json', 'patches'])) return;
  console.log('Installing packages …');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  // Patches make packages stand up to damaged files; see docs/dependencies.md.
  run('npx', ['patch-package', '--error-on-fail']);
}

export function demo() {
  const made = newest(['demo/files/pellwether.ruler.json']);
  if (made > newest(['demo/src', 'core/src']) && existsSync(`${root}web/public/demo/orders.csv`)) return;
  run('node', ['scripts/run.mjs', 'demo/src/generate.ts']);
}

/** The notices of what is shipped, which the application hands out. A copy that is as it should be stays, so that nothing is built anew. */
export function notices() {
  const [from, to] = ['THIRD-PARTY-NOTICES.txt', 'web/public/notices.txt'].map((path) => `${root}${path}`);
  if (existsSync(to) && readFileSync(to, 'utf8') === readFileSync(from, 'utf8')) return;
  mkdirSync(`${root}web/public`, { recursive: true });
  copyFileSync(from, to);
}

/** The program that pages as files carry; the application hands it out. */
export function program() {
  run('node', ['scripts/program.mjs']);
}

/** The bundle of the command line, and the program in it. */
export function commandLine() {
  run('node', ['cli/bin/bold-ruler.mjs', '--version'], { stdio: ['ignore', 'ignore', 'inherit'] });
}

export function build() {
  program();
  notices();
  const built = newest(['web/.next/BUILD_ID']);
  if (
    built > newest(['core/src', 'web/src', 'web/public', 'web/next.config.ts', 'web/package.json', 'package-lock.json'])
  )
    return;
  console.log('Building the application …');
  run('npm', ['run', 'build', '-w', 'web']);
}
