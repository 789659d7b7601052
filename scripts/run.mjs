// Runs a TypeScript file of the workspace: node scripts/run.mjs FILE [ARGUMENT …]
import { spawnSync } from 'node:child_process';

const { status } = spawnSync(process.execPath, ['--import', 'tsx', ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
