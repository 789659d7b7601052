import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { beforeAll, describe, expect, test } from 'vitest';
import { at, REPORT, run, writeFiles } from './command.fixture';

// Each command line of docs/formats.md, run as it stands there: without its options, with each of them, and with all.

const doc = readFileSync(new URL('../../docs/formats.md', import.meta.url), 'utf8');
const section = /## Command line\n((?: {4}.*\n)+)/.exec(doc)![1]!;
const LINES = section
  .split('\n')
  .map((line) => line.trim().replace(/\s+/g, ' '))
  .filter((line) => line !== '');

const WORDS: Readonly<Record<string, readonly string[]>> = {
  REPORT: ['well.ruler.json'],
  OLD: ['well.ruler.json'],
  NEW: ['well.ruler.json'],
  FIGURE_ID: ['year'],
  STEPS_ID: ['steps'],
  PAGE_ID: ['p'],
  FILE: ['sales.csv'],
  'NAME=FILE': ['sales=sales.csv'],
  'PATH=VALUE': ['calendar.fiscalYearStart=9'],
  'FIELD=MEMBER': ['Filiale=Nord'],
  FOLDER: ['.'],
  STEP: ['2025-01'],
  PIXELS: ['400'],
  '"BRIEF"': ['Betrag by Filiale'],
};
/** With data instead of a report a further table has another name. */
const FURTHER = 'goals=goals.csv';

type Part = { readonly isOption: boolean; readonly choices: readonly (readonly string[])[] };

/** The parts of a line: words that must stand there, and options; of each the ways in which it can be said. */
function partsOf(line: string): Part[] {
  const pieces = line.match(/\[[^\]]*\]|[^[\]]+/g)!;
  return pieces.flatMap((piece) => {
    const isOption = piece.startsWith('[');
    const words = piece.replace(/[[\]…]/g, ' ').trim();
    return words === '' ? [] : [{ isOption, choices: spread(words.split(/\s+/)) }];
  });
}

/** Words between which a bar stands are other ways of saying the same. */
function spread(words: readonly string[]): string[][] {
  let ways: string[][] = [[]];
  for (let i = 0; i < words.length; i++) {
    const choices = [words[i]!];
    while (words[i + 1] === '|') choices.push(words[(i += 2)]!);
    ways = ways.flatMap((way) => choices.map((choice) => [...way, choice]));
  }
  return ways;
}

/** A line without its options, with each of them alone, and with the first way of all. */
function waysOf(line: string): string[][] {
  const parts = partsOf(line);
  const join = (chosen: ReadonlyMap<Part, readonly string[]>) =>
    parts.flatMap((part) => chosen.get(part) ?? (part.isOption ? [] : part.choices[0]!));
  const options = parts.filter(({ isOption }) => isOption);
  return [
    join(new Map()),
    ...parts.flatMap((part) => part.choices.map((choice) => join(new Map([[part, choice]])))),
    join(new Map(options.map((part) => [part, part.choices[0]!]))),
  ];
}

beforeAll(() => {
  writeFiles();
  const steps = { id: 'steps', brief: 'net by Filiale each month during year to date as trend' };
  const figures = [REPORT.figures[0]!, steps];
  writeFileSync(at('well.ruler.json'), JSON.stringify({ ...REPORT, figures }));
});

// A command that goes on until it is stopped has a test of its own.
describe.each(LINES.filter((line) => !line.includes('--watch')))('%s', (line) => {
  const ways = new Set(waysOf(line).map((way) => JSON.stringify(way)));
  test('does as it says', async () => {
    for (const way of [...ways].map((text) => JSON.parse(text) as string[])) {
      const isData = way.includes('--data');
      const words = way
        .slice(1)
        .flatMap((word) => (isData && word === 'NAME=FILE' ? [FURTHER] : (WORDS[word] ?? [word])));
      const { status, out, err } = await run(...words);
      expect({ words, status, err: status === 0 ? '' : err }).toEqual({ words, status: 0, err: '' });
      const file = words[words.indexOf('-o') + 1];
      if (words.includes('-o')) expect(statSync(at(file!)).size).toBeGreaterThan(100);
      else expect((out + err).trim()).not.toBe('');
      if (words.includes('--json')) JSON.parse(out);
    }
  });
});

test('every option of the program stands in a line', async () => {
  const { out: help } = await run('--help');
  for (const [, command] of help.matchAll(/^ {2}([a-z]+) /gm)) {
    if (command === 'help') continue;
    const options = [...(await run(command!, '--help')).out.matchAll(/^ {2}(?:-o, )?(--[a-z]+)/gm)].map(
      ([, name]) => name!,
    );
    const lines = LINES.filter((line) => line.startsWith(`bold-ruler ${command}`)).join('\n');
    for (const option of options)
      if (!['--help', '--as', '--out'].includes(option)) expect(`${command}: ${lines}`).toContain(option);
  }
});

test('a figure is drawn in the size that is said, within its bounds', async () => {
  const sized = async (...size: string[]) => {
    const { status, err } = await run('draw', 'well.ruler.json', 'year', '-o', 'sized.json', ...size);
    const { width, height } = JSON.parse(readFileSync(at('sized.json'), 'utf8')) as { width: number; height: number };
    return { status, err, width, height };
  };
  expect(await sized('--width', '320')).toMatchObject({ status: 0, width: 320 });
  expect(await sized('--width', '320', '--height', '400')).toMatchObject({ status: 0, width: 320, height: 400 });
  for (const size of ['119', '4001', '1e3', '-5', 'wide', '']) {
    const { status, err } = await sized('--height', size);
    expect([status, err]).toEqual([2, expect.stringContaining('a whole number of pixels from 120 to 4000')]);
  }
});
