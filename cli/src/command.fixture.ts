import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { vi } from 'vitest';
import { main } from './main';

// The command as others run it, in a folder with files of somebody else.

export const command = fileURLToPath(new URL('../bin/bold-ruler.mjs', import.meta.url));
export const folder = mkdtempSync(join(tmpdir(), 'bold-ruler-cli-'));
export const at = (name: string) => join(folder, name);

/** Runs the command in this process, as the bundle's way in does; what it writes is given back. */
export async function run(...words: string[]) {
  let out = '';
  let err = '';
  const before = process.cwd();
  const stdout = vi.spyOn(process.stdout, 'write').mockImplementation((text) => {
    out += typeof text === 'string' ? text : Buffer.from(text).toString();
    return true;
  });
  const stderr = vi.spyOn(process.stderr, 'write').mockImplementation((text) => {
    err += String(text);
    return true;
  });
  const told = vi.spyOn(console, 'error').mockImplementation((line: unknown) => {
    err += `${String(line)}\n`;
  });
  process.chdir(folder);
  try {
    const status = await main(words);
    return { status, out, err };
  } finally {
    process.chdir(before);
    for (const spy of [stdout, stderr, told]) spy.mockRestore();
  }
}

/** The same as others run it: as a process of its own. */
export function spawned(...words: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [command, ...words], {
    cwd: folder,
    encoding: 'utf8',
  });
  return { status, out: stdout, err: stderr };
}

// Files as somebody else would write them: semicolons, decimal commas, day first, a target sheet by month.
export const SALES = `Datum;Filiale;Ware;Betrag
03.01.2025;Nord;Tee;1.234,50
05.01.2025;Süd;Tee;0,10
05.01.2025;Süd;Kaffee;0,20
31.01.2025;Nord;Kaffee;-4,05
29.02.2024;Nord;Tee;100,00
12.01.2024;Süd;Tee;300,00
14.02.2025;Nord;Tee;10,00
10.02.2024;Nord;Tee;7,77
`;
const GOALS = `month,Filiale,goal
2025-01,Nord,1000
2025-01,Süd,310
2025-02,Nord,280
`;
export const REPORT = {
  boldRuler: 1,
  name: 'Tee',
  tables: [
    { id: 'sales', source: { file: 'sales.csv' }, date: 'Datum' },
    { id: 'goals', source: { file: 'goals.csv' }, date: 'month' },
  ],
  measures: [{ name: 'net', table: 'sales', expression: 'sum(Betrag)' }],
  benchmarks: [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' }],
  figures: [
    { id: 'year', brief: 'net by Filiale during year to date against last year' },
    { id: 'goal', brief: 'net by Filiale during 2025-02 against goal as bullet' },
    { id: 'typo', brief: 'net by Filiale agianst goal' },
    { id: 'member', brief: 'net, only Filiale is Nrod' },
  ],
  pages: [
    {
      id: 'p',
      title: 'Tee',
      rows: [
        {
          blocks: [
            { figure: 'year', share: 8 },
            { text: 'Net is {actual}.', about: 'year', share: 4 },
          ],
        },
      ],
    },
  ],
};

/** Writes the files, and has the command made. */
export function writeFiles(): void {
  writeFileSync(at('sales.csv'), SALES);
  writeFileSync(at('goals.csv'), GOALS);
  writeFileSync(at('r.ruler.json'), JSON.stringify(REPORT));
  writeFileSync(
    at('wrong.ruler.json'),
    JSON.stringify({ ...REPORT, measures: [{ name: 'net', table: 'sales', expression: 'sum(Betrga)' }] }),
  );
  writeFileSync(
    at('lost.ruler.json'),
    JSON.stringify({ ...REPORT, tables: [{ id: 'sales', source: { file: 'gone.csv' } }] }),
  );
  writeFileSync(at('broken.ruler.json'), '{ "boldRuler": 1,\n "name": "x",, }');
  spawned('--help');
}

/** The same, through a shell and with something at standard input. */
export function shell(line: string, input = '') {
  const { status, stdout, stderr } = spawnSync(
    'sh',
    ['-c', line.replaceAll(/\bRULER\b/g, `"${process.execPath}" "${command}"`)],
    {
      cwd: folder,
      input,
      encoding: 'utf8',
    },
  );
  return { status, out: stdout, err: stderr };
}
