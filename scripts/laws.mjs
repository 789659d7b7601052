// npm run test:laws -- [MINUTES] [NAME …]: tries the laws on other examples, as long as is wished, and stops at the first that fails.
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './ready.mjs';

/** How many times as many examples as `npm test`. */
const TIMES = 8;

const [first, ...more] = process.argv.slice(2);
const minutes = Number(first ?? 10);
const names = Number.isNaN(minutes) ? [first, ...more] : more;
const end = Date.now() + (Number.isNaN(minutes) ? 10 : minutes) * 60_000;

const files = ['core/src', 'cli/src', 'web/src']
  .flatMap((folder) => readdirSync(join(root, folder), { recursive: true }).map((name) => join(folder, String(name))))
  .filter((path) => path.endsWith('.test.ts') && names.every((name) => path.includes(name)))
  .filter((path) => /fast-check|\btries\(/.test(readFileSync(join(root, path), 'utf8')));
if (files.length === 0) {
  console.error(`no law is called ${names.join(' ')}`);
  process.exit(2);
}

let rounds = 0;
do {
  const seed = Math.floor(Math.random() * 2 ** 31);
  const { status } = spawnSync('npx', ['vitest', 'run', '--reporter=dot', ...files], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, LAW_SEED: String(seed), LAW_TIMES: String(TIMES) },
  });
  if (status !== 0) {
    console.error(`A law failed: LAW_SEED=${seed} LAW_TIMES=${TIMES} npx vitest run NAME tries it again.`);
    process.exit(1);
  }
  rounds++;
} while (Date.now() < end);
console.log(`${files.length} files of laws held, ${rounds} ${rounds === 1 ? 'round' : 'rounds'}`);
