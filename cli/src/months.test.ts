import { mkdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { beforeAll, describe, expect, test } from 'vitest';
import { checkReport } from '@bold-ruler/core/report';
import { at, run } from './command.fixture';
import { applySettings } from './settings';

// Months that arrive one by one: a folder of files as one table, and what a newer file changes.

const JANUARY = ['day,shop,net', '2026-01-05,Alder,10', '2026-01-20,Birch,20'];
const FEBRUARY = ['day,shop,net', '2026-02-03,Alder,5', '2026-02-04,Cedar,2.5'];
const report = (source: object) => ({
  boldRuler: 1,
  name: 'r',
  tables: [{ id: 'sales', source }],
  measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  figures: [
    { id: 'shops', brief: 'net by shop as bars' },
    { id: 'months', brief: 'net each month as trend' },
    { id: 'january', brief: 'net during 2026-01 as headline' },
  ],
});
const write = (name: string, lines: readonly string[] | object) =>
  writeFileSync(at(name), Array.isArray(lines) ? `${lines.join('\n')}\n` : JSON.stringify(lines));

beforeAll(() => {
  mkdirSync(at('months'), { recursive: true });
  write('months/2026-01.csv', JANUARY);
  write('months/2026-02.csv', FEBRUARY);
  write('months/.hidden.csv', ['x', '1']);
  write('months/notes.md', ['nothing']);
  write('whole.csv', [...JANUARY, ...FEBRUARY.slice(1)]);
  write('january.csv', JANUARY);
  write('restated.csv', [...JANUARY.map((line) => line.replace('Alder,10', 'Alder,12')), ...FEBRUARY.slice(1)]);
  write('several.ruler.json', report({ files: 'months/*.csv' }));
  write('one.ruler.json', report({ file: 'whole.csv' }));
  write('old.ruler.json', report({ file: 'january.csv' }));
});

const numbers = async (...words: string[]) => JSON.parse((await run('numbers', ...words)).out) as { rows: unknown[] };

describe('files of one layout', () => {
  test('are one table, whether a pattern, a folder or one file holds the rows', async () => {
    const whole = await numbers('one.ruler.json', 'months');
    expect((await numbers('several.ruler.json', 'months')).rows).toEqual(whole.rows);
    for (const data of ['months', 'months/*.csv', 'months/'])
      expect((await numbers('--data', data, 'net each month as trend')).rows).toEqual(whole.rows);
  });

  test('may be listed, and keep to their report whatever is set in it, as rows in a database do', async () => {
    const source = { files: ['months/2026-02.csv', 'months/2026-01.csv'] };
    write('listed.ruler.json', report(source));
    const whole = await numbers('one.ruler.json', 'months');
    expect((await numbers('listed.ruler.json', 'months')).rows).toEqual(whole.rows);
    const set = await numbers('listed.ruler.json', 'months', '--set', 'measures.net.aim=cut');
    expect(set.rows).toHaveLength(whole.rows.length);
    expect((await run('bundle', 'listed.ruler.json', '--out', 'listed.ruler.zip')).status).toBe(0);
    expect((await numbers('listed.ruler.zip', 'months')).rows).toEqual(whole.rows);

    for (const own of [source, { database: 'shop', table: 'public.sales' }]) {
      const changed = applySettings(checkReport(report(own)), ['measures.net.aim=cut'], 'r');
      expect([changed.measures[0]!.aim, changed.tables]).toEqual(['cut', checkReport(report(own)).tables]);
    }
    write('lacking.ruler.json', report({ files: ['months/2026-01.csv', 'months/2026-03.csv'] }));
    expect((await run('numbers', 'lacking.ruler.json', 'months')).err).toContain('2026-03.csv');
  });

  test('are one file in a bundle, which gives the same numbers', async () => {
    const { status } = await run('bundle', 'several.ruler.json', '--out', 'several.ruler.zip');
    expect(status).toBe(0);
    const whole = await numbers('several.ruler.json', 'months');
    expect((await numbers('several.ruler.zip', 'months')).rows).toEqual(whole.rows);
  });

  test('a pattern leads no further than one file does, and says so where nothing fits', async () => {
    mkdirSync(at('inner'), { recursive: true });
    write('inner/r.ruler.json', report({ files: '../months/*.csv' }));
    expect((await run('numbers', 'inner/r.ruler.json', 'months')).err).toContain('not in its folder');
    expect((await run('numbers', 'inner/r.ruler.json', 'months', '--allow', 'months')).status).toBe(0);
    mkdirSync(at('inner/links'), { recursive: true });
    symlinkSync(at('months/2026-01.csv'), at('inner/links/a.csv'));
    write('inner/l.ruler.json', report({ files: 'links/*.csv' }));
    expect((await run('numbers', 'inner/l.ruler.json', 'months')).err).toContain('not in its folder');
    write('none.ruler.json', report({ files: 'months/*.xlsx' }));
    expect((await run('numbers', 'none.ruler.json', 'months')).err).toMatch(/no file fits this name/);
  });

  test('of which one has another layout are refused with its name', async () => {
    mkdirSync(at('mixed'), { recursive: true });
    write('mixed/a.csv', JANUARY);
    write('mixed/b.csv', ['color,weight', 'red,5']);
    const { status, err } = await run('numbers', '--data', 'mixed', 'net as headline');
    expect([status, err]).toEqual([1, expect.stringMatching(/b\.csv: it has none of the columns/)]);
  });
});

describe('a report over newer files', () => {
  interface Told {
    readonly asOf: string[];
    readonly figures: { readonly id: string; readonly total: object; readonly rows: object[] }[];
    readonly restated: object[];
  }

  test('is told figure by figure, the most changed first, what changed of the past apart from what is new', async () => {
    const { out } = await run('compare', 'old.ruler.json', '--table', 'sales=restated.csv', '--json');
    const told = JSON.parse(out) as Told;
    expect(told.asOf).toEqual(['2026-01-20', '2026-02-04']);
    expect(told.figures.map(({ id, total }) => [id, total])).toEqual([
      ['shops', { before: 30, restated: 32, after: 39.5 }],
      ['months', { before: 30, restated: 32, after: 39.5 }],
      ['january', { before: 30, restated: 32, after: 32 }],
    ]);
    expect(told.figures[0]!.rows).toEqual([
      { key: { shop: 'Cedar' }, step: null, before: null, restated: null, after: 2.5, benchmark: null },
      { key: { shop: 'Alder' }, step: null, before: 10, restated: 12, after: 17, benchmark: null },
    ]);
    expect(told.restated).toEqual([{ measure: 'net', month: '2026-01', before: 30, after: 32 }]);
  });

  test('reads as sentences, also that nothing changed, and what is there to compare is asked for', async () => {
    const { out } = await run('compare', 'old.ruler.json', '--table', 'sales=whole.csv');
    expect(out).toContain('Complete up to 2026-01-20, then 2026-02-04.');
    expect(out).toContain('whole: 30 → 37.5 (of the past +0, new +7.5)');
    expect(out).toContain('1 figure says what it said before.');
    expect(out).not.toContain('Told otherwise');
    expect((await run('compare', 'one.ruler.json', 'several.ruler.json')).out).toContain(
      '3 figures say what they said before.',
    );
    expect((await run('compare', 'old.ruler.json')).status).toBe(2);
    expect((await run('compare', 'old.ruler.json', '--table', 'plan=whole.csv')).err).toContain('no table “plan”');
  });
});
