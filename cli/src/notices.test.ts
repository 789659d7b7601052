import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';

const read = (path: string) => readFileSync(fileURLToPath(new URL(`../../${path}`, import.meta.url)), 'utf8');

interface Locked {
  readonly version: string;
  readonly license?: string;
  readonly dev?: true;
  readonly devOptional?: true;
  readonly optional?: true;
  readonly link?: true;
}

test('every package that is shipped stands in the notices with its version; “npm run notices” makes them', () => {
  const { packages } = JSON.parse(read('package-lock.json')) as { packages: Record<string, Locked> };
  const notices = read('THIRD-PARTY-NOTICES.txt');
  const shipped = Object.entries(packages).filter(
    ([path, { dev, devOptional, optional, link }]) =>
      path.includes('node_modules/') && !(dev ?? devOptional ?? optional ?? link),
  );
  expect(shipped.length).toBeGreaterThan(30);
  for (const [path, { version, license }] of shipped)
    expect(notices).toContain(`${path.split('node_modules/').at(-1)!} ${version} (${license})`);
  expect(read('LICENSE')).toMatch(/^MIT License\n/);
  expect(read('README.md')).toContain('[notices](THIRD-PARTY-NOTICES.txt)');
});

test('the program that a page carries names whose parts it has', async () => {
  const { programText } = (await import('../../scripts/program.mjs' as string)) as { programText(): Promise<string> };
  const text = await programText();
  expect(text.slice(0, 4000)).toMatch(/fastest-levenshtein [\d.]+, MIT: Copyright/);
  // What was left out of it again is no part of it.
  expect(text.slice(0, 4000)).not.toMatch(/\b(?:pako|fflate|yup) \d/);
  expect(text.slice(0, 4000)).toContain('Permission is hereby granted');
  expect(text).not.toContain('</');
});
