import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { create, type Font } from 'fontkit';
import { expect, test } from 'vitest';
import { drawPage } from '../page';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { BASIC_LETTERS, readFontFiles } from '../scene';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { carriedBy, hasBasicLetters } from '.';

async function isBasic({ shop = 'Larkmoor', city = 'Fenwick', measure = 'net', title = 'Shops' }): Promise<boolean> {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: measure, table: 't', expression: 'sum(net)' }],
    figures: [{ id: 'f', brief: `"${measure}" by shop as bars`, look: {} }],
    pages: [
      { id: 'p', title, filters: [{ field: 'city', choice: 'one' }], rows: [{ blocks: [{ figure: 'f', share: 12 }] }] },
    ],
  });
  const table = makeTable(await readCsv('t', `shop,city,net\n"${shop}","${city}",5\nNorth,Tarn,-7`), { id: 't' });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  const desk = { source, report, vocabulary };
  return hasBasicLetters(await drawPage(desk, report.pages[0]!), (await carriedBy(desk, report.pages[0]!))!);
}

test('a page of basic letters is told from one with others, also where those can only be chosen', async () => {
  expect(await isBasic({})).toBe(true);
  expect(await isBasic({ shop: 'Süd' })).toBe(false);
  expect(await isBasic({ city: 'Ærø' })).toBe(false);
  expect(await isBasic({ measure: 'größe' })).toBe(false);
  expect(await isBasic({ title: 'Läden' })).toBe(false);
});

test('whatever the core itself says is written in basic letters, as far as the font has them', () => {
  const core = fileURLToPath(new URL('..', import.meta.url));
  const sources = readdirSync(core, { recursive: true, encoding: 'utf8' }).filter(
    // What is read, and what is told while editing, does not stand on a page.
    (path) => path.endsWith('.ts') && !/test|fixture|^(?:reading|edit|level|table)[/\\]|inks\.ts$/.test(path),
  );
  expect(sources.length).toBeGreaterThan(300);
  const require = createRequire(import.meta.url);
  const font = create(readFontFiles((path) => readFileSync(require.resolve(path)))[400][0]! as Buffer) as Font;
  const found = new Set<string>();
  for (const path of sources) {
    const code = readFileSync(join(core, path), 'utf8').replace(/\/\*[^]*?\*\/|^\s*\/\/.*$/gm, '');
    for (const letter of code) if (letter > '~' && font.hasGlyphForCodePoint(letter.codePointAt(0)!)) found.add(letter);
  }
  expect(found.size).toBeGreaterThan(10);
  expect([...found].filter((letter) => !BASIC_LETTERS.includes(letter))).toEqual([]);
});
