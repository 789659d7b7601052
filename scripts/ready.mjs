// What every command needs before it can run: installed packages, the demo's files, the page's program, the built application.
import { spawn, spawnSync } from 'node:child_process';
import { createWriteStream, existsSync, mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { newest as newestOf } from './newest.mjs';

export const root = fileURLToPath(new URL('..', import.meta.url));

const environment = () => ({ ...process.env, NEXT_TELEMETRY_DISABLED: '1' });

/** Runs a command in the workspace; ends this process with its code when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: environment(), ...options });
  if (error) throw error;
  if (status !== 0) process.exit(status ?? 1);
}

const newest = (paths) => newestOf(paths.map((path) => `${root}${path}`));

const installed = () =>
  existsSync(`${root}node_modules/.package-lock.json`) ? statSync(`${root}node_modules/.package-lock.json`).mtimeMs : 0;

/** The notices of what is shipped, and the copy that the application hands out. */
const [NOTICES, COPY] = ['THIRD-PARTY-NOTICES.txt', 'web/public/notices.txt'].map((path) => `${root}${path}`);

/** The steps in their order: what each is called while it runs, whether there is anything to do, and the commands that do it. */
export const STEPS = {
  install: {
    name: 'Installing packages',
    isDone: () => installed() >= newest(['package-lock.json', 'patches']),
    commands: [
      ['npm', 'ci', '--no-audit', '--no-fund'],
      // Patches make packages stand up to damaged files; see docs/dependencies.md.
      ['npx', 'patch-package', '--error-on-fail'],
    ],
  },
  demo: {
    name: 'Writing the demo’s files',
    isDone: () =>
      newest(['demo/files/pellwether.ruler.json']) > newest(['demo/src', 'core/src']) &&
      existsSync(`${root}web/public/demo/orders.csv`),
    commands: [['node', 'scripts/run.mjs', 'demo/src/generate.ts']],
  },
  program: {
    name: 'Packing the program that pages as files carry',
    isDone: () =>
      newest(['web/public/program/page.json']) > newest(['core/src', 'web/src/handed', 'scripts/program.mjs']),
    commands: [['node', 'scripts/program.mjs']],
  },
  notices: {
    name: 'Copying the notices of packages',
    // A copy that is as it should be stays, so that nothing is built anew.
    isDone: () => existsSync(COPY) && readFileSync(COPY, 'utf8') === readFileSync(NOTICES, 'utf8'),
    commands: [['node', '-e', 'fs.cpSync(process.argv[1], process.argv[2])', NOTICES, COPY]],
  },
  build: {
    name: 'Building the application',
    isDone: () =>
      newest(['web/.next/BUILD_ID']) >
      newest(['core/src', 'web/src', 'web/next.config.ts', 'web/package.json', 'package-lock.json']),
    // Types are checked by “npm run types” and “npm test”.
    commands: [['npm', 'run', 'build', '-w', 'web']],
  },
};

/**
 * Does the steps that have not been done: packages first, then everything else side by side. On a terminal one line says what runs and
 * for how long; elsewhere each step is a line of its own. A step that fails ends this process: with a sentence, the last lines it
 * printed, and the file that has all of them.
 */
export async function ready(names = Object.keys(STEPS)) {
  await doAll(names.filter((name) => name === 'install'));
  await doAll(names.filter((name) => name !== 'install'));
}

async function doAll(names) {
  const steps = names.map((name) => STEPS[name]).filter((step) => !step.isDone());
  if (steps.length === 0) return;
  const began = Date.now();
  const seconds = () => `${Math.round((Date.now() - began) / 1000)} s`;
  const running = new Set(steps);
  const onTerminal = process.stdout.isTTY && !process.env.CI;
  const said = () => [...running].map(({ name }, i) => (i === 0 ? name : name.toLowerCase())).join(', ');
  const show = () => {
    const width = (process.stdout.columns ?? 80) - 10;
    const words = said();
    process.stdout.write(
      `\r\x1b[K${words.length > width ? `${words.slice(0, width - 1)}…` : `${words} …`} ${seconds()}`,
    );
  };
  const moving = onTerminal ? setInterval(show, 250) : null;
  if (onTerminal) show();
  else for (const { name } of steps) console.log(`${name} …`);
  const clear = () => onTerminal && process.stdout.write('\r\x1b[K');
  await Promise.all(
    steps.map(async (step) => {
      const failure = await failureOf(step);
      if (failure !== null) {
        clear();
        console.error(failure);
        process.exit(1);
      }
      running.delete(step);
      clear();
      console.log(`${step.name}: done after ${seconds()}`);
    }),
  );
  if (moving) clearInterval(moving);
  clear();
}

/** Runs a step's commands. @returns what to say where one fails; null where none does */
async function failureOf({ name, commands }) {
  const log = join(mkdtempSync(join(tmpdir(), 'bold-ruler-')), 'output.txt');
  for (const [command, ...args] of commands) {
    const why = await loggedRun(command, args, log);
    if (why === null) continue;
    const last = readFileSync(log, 'utf8').trimEnd().split('\n').slice(-15).join('\n');
    return `${name} failed: ${why}.\n\n${last}\n\nThe whole output is in ${log}`;
  }
  return null;
}

/** Runs a command with its output in a file. @returns why it failed, in words; null when it did not */
function loggedRun(command, args, log) {
  return new Promise((resolve) => {
    const output = createWriteStream(log, { flags: 'a' });
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], env: environment() });
    const end = () => child.kill();
    process.once('exit', end);
    child.stdout.pipe(output, { end: false });
    child.stderr.pipe(output, { end: false });
    const finish = (why) => {
      process.removeListener('exit', end);
      output.end(() => resolve(why));
    };
    const words = [command, ...args].join(' ');
    child.on('error', ({ code }) =>
      finish(code === 'ENOENT' ? `${command} is not on this machine` : `${words}: ${code}`),
    );
    child.on('close', (status, signal) =>
      finish(status === 0 ? null : `“${words}” ended with ${signal ?? `exit code ${status}`}`),
    );
  });
}

/** Ends this process, and the step that it runs, with what started it: npm's shell may be ended without telling. */
export function endWithNpm() {
  const parent = process.ppid;
  setInterval(() => process.ppid === parent || process.exit(0), 500).unref();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, () => process.exit(130));
}

/** The bundle of the command line, and the program in it. */
export function commandLine() {
  run('node', ['cli/bin/bold-ruler.mjs', '--version'], { stdio: ['ignore', 'ignore', 'inherit'] });
}
