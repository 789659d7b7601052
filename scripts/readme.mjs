// The two commands of the README, as they stand there: node scripts/readme.mjs start | test prints one.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** The command of the README that begins with “npm” and this word. Throws where there is none. */
export function readmeCommand(word) {
  const text = readFileSync(new URL('../README.md', import.meta.url), 'utf8');
  const found = new RegExp(`^ {4}(npm ${word})(?= *(?:#|$))`, 'm').exec(text);
  if (!found) throw new Error(`README.md has no command “npm ${word}”`);
  return found[1];
}

if (process.argv[1] === fileURLToPath(import.meta.url)) console.log(readmeCommand(process.argv[2]));
