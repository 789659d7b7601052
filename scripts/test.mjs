// npm test: everything from a fresh clone to one line with the tests that passed and failed.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { commandLine, ready, root, run } from './ready.mjs';
import { LEAST, shareOfTests } from './share.mjs';

const reports = mkdtempSync(join(tmpdir(), 'bold-ruler-'));
let passed = 0;
let failed = 0;
let skipped = 0;
let since = Date.now();

/** How long a part has taken: it is told, not judged. */
function told(part) {
  console.log(`— ${part}: ${Math.round((Date.now() - since) / 1000)} s`);
  since = Date.now();
}

/** Runs a suite and adds up what it says of itself; a suite that says nothing has failed. */
function suite(name, args) {
  const file = join(reports, `${name}.json`);
  spawnSync('npx', ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${file}`, ...args], {
    cwd: root,
    stdio: 'inherit',
  });
  told(`${name} tests`);
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

await ready(['install', 'demo']);
told('packages and demo');
run('npx', ['next', 'typegen', 'web'], { stdio: 'ignore' });
// What Debian has is fetched while everything is checked: the one waits for the network, the other for the processor.
const debian = spawn('node', ['scripts/debian.mjs'], { cwd: root, stdio: 'inherit' });
const installed = new Promise((resolve) => debian.on('close', resolve));
await check({ format: 'format:check', lint: 'lint', types: 'types', 'import rules': 'imports', exports: 'exports' });
if ((await installed) !== 0) process.exit(1);
told('checks, programs of the tests');
// Tests that run it side by side find it made.
commandLine();
await ready();
told('command line and application');
suite('unit', []);
suite('browser', ['--config', 'web/vitest.e2e.config.ts']);
const { tests, all, share } = shareOfTests();
console.log(`tests are ${(share * 100).toFixed(1)}% of the code: ${tests} of ${all} lines`);
if (share < LEAST) {
  console.log(`— they are to be at least ${LEAST * 100}%`);
  failed += 1;
} else passed += 1;
console.log(`${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`);
process.exit(failed === 0 ? 0 : 1);
