// npm test: everything from a fresh clone to one line with the tests that passed and failed.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { commandLine, ready, root, run } from './ready.mjs';
import { LEAST, shareOfTests } from './share.mjs';

/** Lines of what a test says that are repeated. */
const LINES = 30;
const reports = mkdtempSync(join(tmpdir(), 'bold-ruler-'));
let passed = 0;
let failed = 0;
let skipped = 0;
/** What failed, said once more before the last line: whoever sees only the end of the output sees it. */
const faults = [];
let since = Date.now();

/** How long a part has taken: it is told, not judged. */
function told(part) {
  console.log(`— ${part}: ${Math.round((Date.now() - since) / 1000)} s`);
  since = Date.now();
}

/** Runs a suite and adds up what it says of itself; a suite that says nothing has failed. */
function suite(name, args) {
  const file = join(reports, `${name}.json`);
  const before = failed;
  const { status } = spawnSync(
    'npx',
    ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${file}`, ...args],
    {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, BOLD_RULER_BUNDLED: '1' },
    },
  );
  told(`${name} tests`);
  if (!existsSync(file)) {
    fail(`${name} tests`, 'they ended without a result');
    return;
  }
  const { numPassedTests, numPendingTests, testResults } = JSON.parse(readFileSync(file, 'utf8'));
  passed += numPassedTests;
  skipped += numPendingTests;
  for (const { name: path, status, message, assertionResults } of testResults) {
    for (const { fullName, status, failureMessages } of assertionResults)
      if (status === 'failed') fail(`${relative(root, path)} › ${fullName}`, failureMessages.join('\n'));
    if (status === 'failed' && assertionResults.length === 0) fail(relative(root, path), message);
  }
  if (status !== 0 && failed === before) fail(`${name} tests`, 'something failed outside of a test: see above');
}

function fail(what, why) {
  failed += 1;
  faults.push(`✗ ${what}\n${why.split('\n').slice(0, LINES).join('\n')}`);
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
          child.on('error', ({ message }) => resolve({ name, said: message, isWell: false }));
          child.on('close', (status) => {
            const isWell = status === 0;
            console.log(`— ${name}${isWell ? '' : ': failed'}\n${said}`);
            resolve({ name, said, isWell });
          });
        }),
    ),
  );
  for (const { name, said, isWell } of results)
    if (isWell) passed += 1;
    else fail(name, said);
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
  fail('share of tests', `it is to be at least ${LEAST * 100}%`);
} else passed += 1;
for (const fault of faults) console.log(`\n${fault}`);
console.log(`${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`);
process.exit(failed === 0 ? 0 : 1);
