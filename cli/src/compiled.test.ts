import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';
import { spawned } from './command.fixture';

const dist = fileURLToPath(new URL('../dist/', import.meta.url));
const kept = () =>
  readdirSync(dist)
    .filter((name) => /^fields\.\d+\.compiled$/.test(name))
    .sort((a, b) => statSync(dist + b).mtimeMs - statSync(dist + a).mtimeMs);

test('what is kept of a command for the next time changes nothing, and is made anew where it is of no use', () => {
  const ask = () => spawned('fields', '--help');
  const first = ask();
  expect(first.status).toBe(0);
  expect(first.out).toMatch(/^Usage: bold-ruler fields/);
  const [name] = kept();
  const whole = readFileSync(dist + name!);
  expect(whole.length).toBeGreaterThan(10_000);
  expect(ask()).toEqual(first);
  // Of another engine, of nothing at all, and cut off in the middle.
  for (const spoilt of [Buffer.from(whole).fill(7, 0, 16), Buffer.alloc(0), whole.subarray(0, 5000)]) {
    writeFileSync(dist + name!, spoilt);
    expect(ask()).toEqual(first);
    expect(statSync(dist + name!).size).toBeGreaterThan(10_000);
  }
});
