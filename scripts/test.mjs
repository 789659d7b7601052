// npm test: everything from a fresh clone to one line with the tests that passed and failed.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, commandLine, demo, install, root, run } from './ready.mjs';
import { LEAST, shareOfTests } from './share.mjs';

/** Debian’s packages that the tests need, by the programs in them. */
const PACKAGES = {
  chromium: 'chromium',
  chromedriver: 'chromium-driver',
  pdftotext: 'poppler-utils',
  'rsvg-convert': 'librsvg2-bin',
};

function programs() {
  const missing = Object.keys(PACKAGES).filter((name) => !existsSync(`/usr/bin/${name}`));
  if (missing.length === 0) return;
  const packages = missing.map((name) => PACKAGES[name]);
  const words = `the tests need of Debian’s packages ${packages.join(', ')}`;
  if (process.getuid?.() !== 0 || spawnSync('apt-get', ['--version']).status !== 0) {
    console.error(`${words}: install them (apt-get install ${packages.join(' ')}) and run npm test again`);
    process.exit(1);
  }
  console.log(`Installing: ${words}`);
  run('apt-get', ['update', '-qq']);
  run('apt-get', ['install', '-y', '-qq', ...packages], { stdio: ['ignore', 'ignore', 'inherit'] });
}

const reports = mkdtempSync(join(tmpdir(), 'bold-ruler-'));
let passed = 0;
let failed = 0;
let skipped = 0;

/** A database that is tested where it can be had: without it its tests are skipped, and said to be. */
function databases() {
  const missing = [
    ['postgresql', '/usr/lib/postgresql'],
    ['clickhouse-server', '/usr/sbin/clickhouse-server'],
  ].flatMap(([name, place]) => (existsSync(place) ? [] : [name]));
  if (missing.length === 0) return;
  if (process.getuid?.() === 0) {
    // No server of its own is wanted: tests start theirs and end it.
    mkdirSync('/etc/postgresql-common', { recursive: true });
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n', { flag: 'a' });
    console.log(`Installing: for the tests of databases Debian’s packages ${missing.join(', ')}`);
    spawnSync('apt-get', ['update', '-qq'], { stdio: 'ignore' });
  }
  // Nothing is asked, and no service begins.
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive', RUNLEVEL: '1' };
  const installs = (name) =>
    spawnSync('apt-get', ['install', '-y', '-qq', name], { stdio: 'ignore', env }).status === 0;
  for (const name of missing)
    if (process.getuid?.() !== 0 || !installs(name))
      console.log(`The tests that need it are skipped: install Debian’s package ${name} for them.`);
}

/** Runs a suite and adds up what it says of itself; a suite that says nothing has failed. */
function suite(name, args) {
  const file = join(reports, `${name}.json`);
  spawnSync('npx', ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${file}`, ...args], {
    cwd: root,
    stdio: 'inherit',
  });
  if (!existsSync(file)) {
    failed += 1;
    return;
  }
  const { numPassedTests, numFailedTests, numPendingTests, testResults } = JSON.parse(readFileSync(file, 'utf8'));
  passed += numPassedTests;
  skipped += numPendingTests;
  failed +=
    numFailedTests +
    testResults.filter(({ status, assertionResults }) => status === 'failed' && assertionResults.length === 0).length;
}

/** Checks that pass or fail as a whole, side by side; what each says is shown together when it is done. */
async function check(checks) {
  const results = await Promise.all(
    Object.entries(checks).map(
      ([name, script]) =>
        new Promise((resolve) => {
          const child = spawn('npm', ['run', '--silent', script], { cwd: root });
          let said = '';
          child.stdout.on('data', (text) => (said += text));
          child.stderr.on('data', (text) => (said += text));
          child.on('error', () => resolve(false));
          child.on('close', (status) => {
            console.log(`— ${name}${status === 0 ? '' : ': failed'}\n${said}`);
            resolve(status === 0);
          });
        }),
    ),
  );
  passed += results.filter((isWell) => isWell).length;
  failed += results.filter((isWell) => !isWell).length;
}

install();
demo();
run('npx', ['next', 'typegen', 'web'], { stdio: 'ignore' });
await check({ format: 'format:check', lint: 'lint', types: 'types', 'import rules': 'imports', exports: 'exports' });
programs();
databases();
// Tests that run it side by side find it made.
commandLine();
suite('unit', []);
process.env.BOLD_RULER_TYPES = 'checked';
build();
suite('browser', ['--config', 'web/vitest.e2e.config.ts']);
const { tests, all, share } = shareOfTests();
console.log(`tests are ${(share * 100).toFixed(1)}% of the code: ${tests} of ${all} lines`);
if (share < LEAST) {
  console.log(`— they are to be at least ${LEAST * 100}%`);
  failed += 1;
} else passed += 1;
console.log(`${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`);
process.exit(failed === 0 ? 0 : 1);
