// npm run test:browser -- NAME …: the browser tests whose files have these names, over a build that is made when it is missing or old.
import { spawnSync } from 'node:child_process';
import { ready, root } from './ready.mjs';

await ready();
const { status } = spawnSync(
  'npx',
  ['vitest', 'run', '--config', 'web/vitest.e2e.config.ts', ...process.argv.slice(2)],
  {
    cwd: root,
    stdio: 'inherit',
  },
);
process.exit(status ?? 1);
