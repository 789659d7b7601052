import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { at, command, folder, REPORT, run, SALES, spawned, writeFiles } from './command.fixture';
import { PAGE_WIDTH } from '@bold-ruler/core/page';
import { PAGE_WIDTH as WIDTH } from './endings';
import { main } from './main';
import { tries } from '../../core/src/proof/tries.fixture';

beforeAll(writeFiles);

test('help, the version, and how wide a page is, are told as they are', async () => {
  const help = await run('--help');
  for (const name of ['numbers', 'draw', 'reckon', 'check', 'page', 'bundle', 'fields'])
    expect(help.out).toContain(name);
  expect(spawned('--version').out).toMatch(/^\d+\.\d+\.\d+\n$/);
  expect(WIDTH).toBe(PAGE_WIDTH);
});

describe('numbers of a report of somebody else', () => {
  test('sums to the cent, and last year like for like', async () => {
    const { status, out } = await run('numbers', 'r.ruler.json', 'year');
    expect(status).toBe(0);
    const { asOf, benchmarkPeriod, rows, total } = JSON.parse(out);
    expect([asOf, benchmarkPeriod]).toEqual(['2025-02-14', { from: '2024-01-01', to: '2024-02-14' }]);
    expect(
      rows.map((r: { key: object; actual: number; benchmark: number; gap: number }) => [
        r.key,
        r.actual,
        r.benchmark,
        r.gap,
      ]),
    ).toEqual([
      [{ Filiale: 'Nord' }, 1240.45, 7.77, 1232.68],
      [{ Filiale: 'Süd' }, 0.3, 300, -299.7],
    ]);
    expect(total.actual).toBe(1240.75);
  });
  test('the target per member, whole and due by now', async () => {
    const { rows, period } = JSON.parse((await run('numbers', 'r.ruler.json', 'goal')).out);
    expect(period.partial).toBe(true);
    expect(rows[0]).toMatchObject({
      key: { Filiale: 'Nord' },
      actual: 10,
      benchmark: 280,
      due: 140,
      gap: -270,
      standing: 'behind',
      dueGap: -130,
    });
  });
  test('without a report: measures from columns, targets from a further table, settings', async () => {
    const words = ['--data', 'sales.csv', '--table', 'goals=goals.csv', '--set', 'calendar.fiscalYearStart=2'];
    const { rows } = JSON.parse(
      (await run('numbers', ...words, 'betrag by filiale during fiscal 2026 Q1 to date against goal')).out,
    );
    expect(rows[0]).toMatchObject({ actual: 10, benchmark: 140 });
    const csv = (await run('numbers', ...words, '--csv', 'Betrag by Filiale')).out.split('\r\n');
    expect(csv[0]).toBe('Filiale,actual,rank,share,state,rows');
    expect(csv[1]).toMatch(/^Nord,1348\.22,1,0\.8178\d+,actual,5$/);
    expect(csv[2]).toMatch(/^Süd,300\.3,2,0\.1821\d+,actual,3$/);
  });
});

test('an SVG carries its letters, or has their outlines', async () => {
  await run('draw', 'r.ruler.json', 'goal', '-o', 'letters.svg');
  await run('draw', 'r.ruler.json', 'goal', '-o', 'outlines.svg', '--outline');
  const [letters, outlines] = ['letters.svg', 'outlines.svg'].map((name) => readFileSync(at(name), 'utf8'));
  expect(letters!.match(/@font-face/g)).toHaveLength(2);
  expect(letters).toContain('<text');
  expect(outlines).not.toMatch(/@font-face|<text/);
  expect((await run('page', 'r.ruler.json', 'p', '-o', 'p.svg', '--outline')).status).toBe(0);
  expect(readFileSync(at('p.svg'), 'utf8')).not.toMatch(/@font-face|<text/);
  expect((await run('page', 'r.ruler.json', 'p', '-o', 'p.html', '--outline')).err).toContain(
    '--outline goes with an .svg',
  );
});

test('fiscal months and holidays are taken from files that list them', async () => {
  const months = Array.from(
    { length: 13 },
    (_, i) => `2024-${String(i + 1).padStart(2, '0')},${i === 0 ? '2023-12' : `2024-${String(i).padStart(2, '0')}`}-26`,
  );
  writeFileSync(at('months.csv'), `month,first day\n${months.slice(0, 12).join('\n')}\nthe day after,2024-12-26\n`);
  const words = ['numbers', '--data', 'sales.csv', '--set'];
  const asked = async (setting: string) => run(...words, setting, 'betrag during 2024-02 to 2024-03');
  const { period } = JSON.parse((await asked('calendar.months=months.csv')).out);
  expect([period.from, period.to]).toEqual(['2024-01-26', '2024-03-25']);
  expect((await asked('calendar.months=nowhere.csv')).err).toMatch(/nowhere\.csv: there is no list of this name/);
  writeFileSync(at('odd.csv'), '2024-01,2024-01-01\nsoon\n');
  const odd = await asked('calendar.months=odd.csv');
  expect([odd.status, odd.err]).toEqual([1, expect.stringMatching(/odd\.csv line 2: “soon” names no day/)]);
  writeFileSync(at('free.csv'), 'Day,Name\n2024-01-01,New year\n');
  expect((await asked('calendar.holidays=free.csv')).status).toBe(0);
});

test('a figure is drawn as SVG and as a scene, whole or not at all', async () => {
  expect((await run('draw', 'r.ruler.json', 'goal', '-o', 'g.svg')).status).toBe(0);
  expect(readFileSync(at('g.svg'), 'utf8')).toMatch(
    /^<svg [^]*<title id="title">Net 10, 130 \(92\.9%\) behind the goal due by now<\/title>/,
  );
  expect((await run('draw', 'r.ruler.json', 'goal', '-o', 'g.json')).status).toBe(0);
  const scene = JSON.parse(readFileSync(at('g.json'), 'utf8'));
  expect(scene.marks.filter((m: { role: string }) => m.role === 'benchmark')).toHaveLength(1);
  expect((await run('draw', 'r.ruler.json', 'goal', '-o', 'g.png', '--scale', '2')).status).toBe(0);
  const png = readFileSync(at('g.png'));
  expect([png.subarray(1, 4).toString(), png.readUInt32BE(16)]).toEqual(['PNG', 2 * scene.width]);
  expect((await run('draw', 'r.ruler.json', 'typo', '-o', 'never.svg')).status).toBe(1);
  expect(readdirSync(folder).filter((name) => name.startsWith('never'))).toEqual([]);
});

test('fields: what a file holds, for scripts and for people', async () => {
  const fields = JSON.parse((await run('fields', 'sales.csv')).out);
  expect(fields).toMatchObject({
    file: 'sales.csv',
    rows: 8,
    date: 'Datum',
    grain: 'day',
    from: '2024-01-12',
    to: '2025-02-14',
  });
  expect(fields.columns[3]).toMatchObject({
    name: 'Betrag',
    type: 'number',
    sum: 1648.52,
    convention: 'decimal comma, as in 1.234,5',
  });
  expect((await run('fields', 'sales.csv', '--text')).out).toContain('dates as dd.MM.yyyy');
});

describe('every mistake is one line with its place and its remedy', () => {
  test.each<[string[], number, RegExp]>([
    [['numbers', 'wrong.ruler.json', 'year'], 1, /measure “net”.*no column “Betrga” — did you mean “Betrag”\?$/],
    [
      ['numbers', 'r.ruler.json', 'member'],
      1,
      /figure “member”, brief, at character 22: there is no member “Nrod” — did you mean “Nord”\?$/,
    ],
    [['numbers', 'r.ruler.json', 'typo'], 1, /at character 16: “agianst” .* did you mean “against”\?$/],
    [['numbers', 'r.ruler.json', 'yaer'], 1, /there is no figure “yaer” — did you mean “year”\?$/],
    [['numbers', 'lost.ruler.json', 'year'], 1, /gone\.csv: there is no table file of this name/],
    [['numbers', 'nowhere.json', 'year'], 1, /nowhere\.json: there is no report file/],
    [['numbers', 'broken.ruler.json', 'year'], 1, /broken\.ruler\.json line 2: the JSON is broken at character 14/],
    [['numbers', 'r.ruler.json', 'year', '--set', 'calendar.fiscalYearStart=13'], 1, /must be a month, 1–12/],
    [['draw', 'r.ruler.json', 'goal', '-o', 'no/such/folder.svg'], 1, /cannot be written/],
    [['draw', 'r.ruler.json', 'goal', '-o', 'g.bmp'], 2, /\.svg/],
    [['draw', 'r.ruler.json', 'goal', '-o', 'g.png', '--scale', '0'], 2, /no scale/],
    [['numbers', 'r.ruler.json'], 2, /figure’s id is missing/],
    [['paint'], 2, /unknown command/],
    [[], 2, /Usage/],
  ])('%s', async (words, status, message) => {
    const result = await run(...words);
    expect(result.status).toBe(status);
    expect(result.out).toBe('');
    expect(result.err.trim()).toMatch(message);
    if (words.length > 0) expect(result.err.trim().split('\n')).toHaveLength(1);
    expect(result.err).not.toContain('    at ');
  });
  test('and leaves nothing behind', () => expect(existsSync(at('g.bmp'))).toBe(false));
});

describe('proof and pages', () => {
  test('a reckoning names its rows, and gives them', async () => {
    const { status, out } = await run('reckon', 'r.ruler.json', 'year', '--at', 'Filiale=Nord');
    expect(status).toBe(0);
    expect(out).toContain('3 rows of sales.csv from 1 Jan 2025 to 14 Feb 2025 where Filiale is Nord.');
    expect(out).toContain('1240.45 - 7.77 = 1232.68');
    const rows = (await run('reckon', 'r.ruler.json', 'year', '--at', 'Filiale=Nord', '--rows')).out
      .trimEnd()
      .split('\r\n');
    expect(rows).toHaveLength(4);
    expect(rows[0]).toBe('Datum,Filiale,Ware,Betrag');
    expect(JSON.parse((await run('reckon', 'r.ruler.json', 'year', '--at', 'Filiale=Süd', '--json')).out).rows).toBe(2);
    const lost = await run('reckon', 'r.ruler.json', 'year', '--at', 'Filiale=Nrod');
    expect([lost.status, lost.err]).toEqual([1, expect.stringContaining('did you mean “Nord”')]);
  });

  test('a check ends with 1 where a figure cannot be drawn, and with 0 where it is well', async () => {
    const { status, out, err } = await run('check', 'r.ruler.json');
    expect(status).toBe(1);
    expect(out).toContain('error  figure typo:');
    expect(out).toContain('[part-period-against-whole]');
    expect(err).toContain('2 findings are errors');
    writeFileSync(at('well.ruler.json'), JSON.stringify({ ...REPORT, figures: REPORT.figures.slice(0, 1) }));
    expect((await run('check', 'well.ruler.json')).status).toBe(0);
  });

  test('a page is one picture, with its texts alive', async () => {
    expect((await run('page', 'r.ruler.json', 'p', '-o', 'p.svg')).status).toBe(0);
    const svg = readFileSync(at('p.svg'), 'utf8');
    expect(svg).toContain('>Net is 1,241.<');
    expect(svg).toContain('>Nord<');
    expect(spawned('page', 'r.ruler.json', 'p', '-o', 'p.html').status).toBe(0);
    expect(readFileSync(at('p.html'), 'utf8')).toContain('id="program"');
    expect((await run('page', 'r.ruler.json', 'q', '-o', 'q.svg')).status).toBe(1);
    expect((await run('page', 'r.ruler.json', 'p', '-o', 'p.doc')).status).toBe(2);
    expect((await run('page', 'r.ruler.json', 'p', '-o', 'p.svg', '--paper', 'a4')).status).toBe(2);
  });

  test('as a PDF it holds its words, numbers and fonts, the same bytes each time', async () => {
    expect((await run('page', 'r.ruler.json', 'p', '-o', 'p.pdf')).status).toBe(0);
    expect((await run('page', 'r.ruler.json', 'p', '-o', 'again.pdf')).status).toBe(0);
    expect(readFileSync(at('again.pdf'))).toEqual(readFileSync(at('p.pdf')));
    const text = spawnSync('pdftotext', ['-layout', at('p.pdf'), '-'], { encoding: 'utf8' }).stdout;
    for (const words of ['Tee', 'Nord', 'Süd', 'Net is 1,241.']) expect(text).toContain(words);
    // Who hears it is told its title as a heading, and each figure with its description.
    const heard = spawnSync('pdfinfo', ['-struct-text', at('p.pdf')], { encoding: 'utf8' }).stdout;
    expect(heard).toMatch(/^Document\n {2}H1 \(block\)\n {4}"Tee"\n/);
    expect(heard).toMatch(/\n {2}Figure\n/);
    expect(spawnSync('pdfinfo', [at('p.pdf')], { encoding: 'utf8' }).stdout).toMatch(/Tagged: +yes/);
    const fonts = spawnSync('pdffonts', [at('p.pdf')], { encoding: 'utf8' }).stdout;
    expect(fonts.match(/yes no {2}yes/g)).toHaveLength(2);
    expect((await run('page', 'r.ruler.json', 'p', '-o', 'a4.pdf', '--paper', 'A4')).status).toBe(0);
    expect(spawnSync('pdfinfo', [at('a4.pdf')], { encoding: 'utf8' }).stdout).toContain('841.89 x 595.28 pts (A4)');
  });

  test('a bundle stands for the report and its tables, in every command', async () => {
    expect((await run('bundle', 'r.ruler.json', '-o', 'r.ruler.zip')).status).toBe(0);
    for (const words of [['numbers'], ['reckon', '--at', 'Filiale=Nord']]) {
      const [name, ...rest] = words as [string, ...string[]];
      expect(await run(name, 'r.ruler.zip', 'year', ...rest)).toEqual(await run(name, 'r.ruler.json', 'year', ...rest));
    }
    expect((await run('bundle', 'r.ruler.json', '-o', 'r.zip')).status).toBe(2);
    writeFileSync(at('cut.ruler.zip'), readFileSync(at('r.ruler.zip')).subarray(0, 300));
    expect(await run('check', 'cut.ruler.zip')).toMatchObject({
      status: 1,
      err: expect.stringContaining('damaged') as string,
    });
  });

  test('slides and a workbook are written whole', async () => {
    for (const ending of ['pptx', 'xlsx']) {
      expect((await run('page', 'r.ruler.json', 'p', '-o', `p.${ending}`)).status).toBe(0);
      expect(
        readFileSync(at(`p.${ending}`))
          .subarray(0, 2)
          .toString(),
      ).toBe('PK');
    }
  });

  test('watching, it is written again when a table changes, and a fault is waited out', async () => {
    writeFileSync(at('watched.csv'), SALES);
    const tables = [{ ...REPORT.tables[0]!, source: { file: 'watched.csv' } }, REPORT.tables[1]!];
    writeFileSync(at('watched.ruler.json'), JSON.stringify({ ...REPORT, tables }));
    const words = ['page', 'watched.ruler.json', 'p', '-o', 'watched.svg', '--watch'];
    const child = spawn(process.execPath, [command, ...words], { cwd: folder });
    let said = '';
    child.stderr.on('data', (text) => (said += text));
    const until = async (test: () => boolean) => {
      for (let tries = 0; !test(); tries++) {
        if (tries > 6000) throw new Error(`waited in vain; it said: ${said}`);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    };
    try {
      await until(() => said.includes('watching'));
      writeFileSync(at('watched.csv'), 'Datum;Filiale\n');
      await until(() => said.includes('does not hold dates'));
      writeFileSync(at('watched.csv'), SALES.replace('1.234,50', '9.234,50'));
      await until(() => readFileSync(at('watched.svg'), 'utf8').includes('Net is 9,241.'));
    } finally {
      child.kill();
    }
  });
});

test('whatever a report file holds, a command ends with words, and no other file is touched', async () => {
  const said: string[] = [];
  const quiet = [
    vi.spyOn(process.stdout, 'write').mockReturnValue(true),
    vi.spyOn(console, 'error').mockImplementation((words: string) => void said.push(words)),
  ];
  const whole = JSON.stringify(REPORT, null, 1);
  const before = readFileSync(at('r.ruler.json'));
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.tuple(fc.nat(), fc.constantFrom('', '"', '1', '-', 'null', '{}', '[', ' by ', 'Filiale', 'as pace')),
        {
          minLength: 1,
          maxLength: 3,
        },
      ),
      fc.constantFrom(['check'], ['numbers', 'year'], ['draw', 'goal', '-o', 'f.svg'], ['page', 'p', '-o', 'f.svg']),
      async (changes, [name, ...rest]) => {
        let text = whole;
        for (const [where, put] of changes) {
          const i = where % text.length;
          text = text.slice(0, i) + put + text.slice(i + put.length);
        }
        writeFileSync(at('fuzzed.ruler.json'), text);
        const words = rest.map((word) => (word === 'f.svg' ? at(word) : word));
        expect([0, 1]).toContain(await main([name!, at('fuzzed.ruler.json'), ...words]));
      },
    ),
    { numRuns: tries(100) },
  );
  for (const spy of quiet) spy.mockRestore();
  expect(said.filter((words) => words.includes('unforeseen'))).toEqual([]);
  expect(said.length).toBeGreaterThan(tries(60));
  expect(readFileSync(at('r.ruler.json'))).toEqual(before);
});
