import {
  chmodSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, test } from 'vitest';
import { at, folder, REPORT, run, SALES, shell, writeFiles } from './command.fixture';

beforeAll(writeFiles);

describe('what is written never costs what is there', () => {
  test.each([
    ['draw', 'r.ruler.json', 'year', '-o', 'r.ruler.json'],
    ['draw', 'r.ruler.json', 'year', '-o', 'link.json'],
    ['draw', '--data', 'sales.svg', 'Betrag by Filiale', '-o', './sales.svg'],
    ['bundle', 'copy.ruler.json', '-o', 'data.ruler.zip'],
  ])('%s %s %s %s %s is refused, and the input stays', async (...words) => {
    if (!existsSync(at('link.json'))) symlinkSync('r.ruler.json', at('link.json'));
    writeFileSync(at('sales.svg'), SALES);
    writeFileSync(at('data.ruler.zip'), SALES);
    writeFileSync(
      at('copy.ruler.json'),
      JSON.stringify({ ...REPORT, tables: [{ id: 'sales', source: { file: 'data.ruler.zip' } }], benchmarks: [] }),
    );
    const before = ['r.ruler.json', 'sales.svg', 'data.ruler.zip'].map((name) => readFileSync(at(name), 'utf8'));
    const { status, err } = await run(...words);
    expect([status, err]).toEqual([1, expect.stringContaining('this file was read from')]);
    expect(['r.ruler.json', 'sales.svg', 'data.ruler.zip'].map((name) => readFileSync(at(name), 'utf8'))).toEqual(
      before,
    );
  });

  test('a link stays a link, permissions stay, and what an ended run left is cleared away', async () => {
    mkdirSync(at('kept'));
    writeFileSync(at('kept/real.svg'), 'old');
    chmodSync(at('kept/real.svg'), 0o640);
    symlinkSync('kept/real.svg', at('out.svg'));
    writeFileSync(at('kept/.real.svg.bold-ruler-999999.part'), 'half');
    const others = ['.other.svg.bold-ruler-999999.part', 'real.svg.999999.part'];
    for (const name of others) writeFileSync(at(`kept/${name}`), 'not ours');
    expect((await run('draw', 'r.ruler.json', 'year', '-o', 'out.svg')).status).toBe(0);
    expect(lstatSync(at('out.svg')).isSymbolicLink()).toBe(true);
    expect(readFileSync(at('kept/real.svg'), 'utf8')).toContain('<svg');
    expect(statSync(at('kept/real.svg')).mode & 0o777).toBe(0o640);
    expect(readdirSync(at('kept')).sort()).toEqual([...others, 'real.svg'].sort());
  });
});

test('a link that leads nowhere yet stays a link, and the file stands where it leads', async () => {
  mkdirSync(at('ahead'));
  symlinkSync('next.svg', at('ahead/first.svg'));
  symlinkSync('ahead/first.svg', at('dangling.svg'));
  expect((await run('draw', 'r.ruler.json', 'year', '-o', 'dangling.svg')).status).toBe(0);
  expect([lstatSync(at('dangling.svg')), lstatSync(at('ahead/first.svg'))].every((one) => one.isSymbolicLink())).toBe(
    true,
  );
  expect(readFileSync(at('ahead/next.svg'), 'utf8')).toContain('<svg');
});

test('what does not end, and a device that cannot be read, are told in a sentence', () => {
  const endless = shell('RULER fields /dev/zero');
  expect([endless.status, endless.err]).toEqual([1, expect.stringContaining('it goes on beyond 1000 MB')]);
  for (const line of ['RULER fields /proc/self/mem', 'RULER draw /proc/self/mem f -o f.svg']) {
    const { status, err } = shell(line);
    expect([status, err], line).toEqual([1, expect.stringMatching(/\/proc\/self\/mem.*: it cannot be read \(EIO\)/)]);
  }
});

test('a full disk behind standard output is told in a sentence', () => {
  const { status, err } = shell('RULER numbers r.ruler.json year > /dev/full');
  expect([status, err]).toEqual([1, expect.stringContaining('standard output takes nothing more (ENOSPC)')]);
});

describe('standard input, output and pipes', () => {
  test('rows, reports and bundles are read from them', async () => {
    expect(JSON.parse(shell('RULER fields -', SALES).out)).toMatchObject({ file: 'standard input', rows: 8 });
    const plain = (await run('numbers', 'r.ruler.json', 'year')).out;
    expect(shell('RULER numbers - year', JSON.stringify(REPORT)).out).toBe(plain);
    expect(shell('RULER bundle r.ruler.json -o - | RULER numbers - year').out).toBe(plain);
    expect(shell('cat sales.csv | RULER numbers --data /dev/stdin "Betrag"').status).toBe(0);
  });

  test('pictures are written to them', async () => {
    const { out } = shell('RULER draw r.ruler.json year -o -');
    await run('draw', 'r.ruler.json', 'year', '-o', 'same.svg');
    expect(out).toBe(readFileSync(at('same.svg'), 'utf8'));
    expect(JSON.parse(shell('RULER draw r.ruler.json year -o - --as json').out)).toHaveProperty('marks');
    expect(shell('RULER draw r.ruler.json year -o x.svg --as json').status).toBe(2);
    expect(shell('RULER page r.ruler.json p -o -').out).toMatch(/^<svg|^<\?xml/);
  });
});

describe('a report from somebody else reads only what lies beside it', () => {
  const outside = mkdtempSync(join(tmpdir(), 'bold-ruler-outside-'));
  const reading = (file: string) => {
    writeFileSync(join(outside, 'secret.csv'), SALES);
    mkdirSync(at('theirs'), { recursive: true });
    writeFileSync(
      at('theirs/r.ruler.json'),
      JSON.stringify({
        ...REPORT,
        tables: [{ id: 'sales', source: { file } }],
        benchmarks: [],
        figures: [REPORT.figures[0]],
      }),
    );
  };

  test.each([
    ['a path upwards', '../sales.csv'],
    ['a whole path', join(outside, 'secret.csv')],
    ['a link that leads away', 'link.csv'],
  ])('%s has to be allowed', async (_, file) => {
    reading(file);
    if (!existsSync(at('theirs/link.csv'))) symlinkSync(join(outside, 'secret.csv'), at('theirs/link.csv'));
    for (const words of [
      ['numbers', 'theirs/r.ruler.json', 'year'],
      ['bundle', 'theirs/r.ruler.json', '-o', 'theirs.ruler.zip'],
    ]) {
      const { status, err } = await run(...words);
      expect([status, err]).toEqual([1, expect.stringContaining('which is not in its folder')]);
      expect(existsSync(at('theirs.ruler.zip'))).toBe(false);
      expect((await run(...words, '--allow', 'elsewhere')).status).toBe(1);
    }
    for (const top of [folder, outside])
      if (top === (file === '../sales.csv' ? folder : outside))
        expect((await run('numbers', 'theirs/r.ruler.json', 'year', '--allow', top)).status).toBe(0);
  });
});

test('control characters of a file never reach a terminal', async () => {
  writeFileSync(
    at('bell.csv'),
    'day,shop\u001b[31m,net\n2025-01-01,A\u0007\u009b2J\u202e,x\u001b]0;y\u0007\n2025-01-02,B,5\n2025-01-03,B,6\n',
  );
  const told =
    (await run('fields', 'bell.csv', '--text')).out +
    (await run('numbers', '--data', 'bell.csv', 'net by nix\u001b[2J')).err;
  expect(told).toContain('\ufffd');
  // oxlint-disable-next-line no-control-regex
  expect(told).not.toMatch(/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202e]/);
});

test('a command that takes too long is ended with words', () => {
  // A pipe into which nobody writes is waited for without end.
  const ended = shell('mkfifo silent; BOLD_RULER_TIME=0.5 RULER fields silent');
  expect(ended.status).not.toBe(0);
  expect(ended.err).toContain('it was ended after 0.5 seconds');
  expect(shell('BOLD_RULER_TIME=soon RULER fields long.csv').err).toContain('BOLD_RULER_TIME is “soon”');
  expect(shell('BOLD_RULER_TIME=0 RULER fields sales.csv').status).toBe(0);
});
