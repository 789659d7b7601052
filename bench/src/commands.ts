/** The command line beside a program that does nothing: what it costs to ask for help, and for a figure over the demo's rows. */
import { spawnSync } from 'node:child_process';
import { printRatio, sideBySide } from './timing';

const [command, reportFile] = process.argv.slice(2) as [string, string];
const ours = (...words: string[]) => void spawnSync(process.execPath, [command, ...words], { stdio: 'ignore' });
const nothing = () => void spawnSync(process.execPath, ['-e', '0'], { stdio: 'ignore' });

// The first call makes the bundle where it is old.
ours('--version');
printRatio('help-over-node-alone', ...(await sideBySide(() => ours('--help'), nothing, 9)), 2);
printRatio(
  'numbers-of-a-figure-over-node-alone',
  ...(await sideBySide(() => ours('numbers', reportFile, 'territories'), nothing, 9)),
);
