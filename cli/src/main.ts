import { Command, CommanderError } from 'commander';
import { isProblem } from '@bold-ruler/core/problem';
import type { bundle } from './commands/bundle';
import type { check } from './commands/check';
import type { compare } from './commands/compare';
import type { draw } from './commands/draw';
import type { fields } from './commands/fields';
import type { numbers } from './commands/numbers';
import type { page } from './commands/page';
import type { reckon } from './commands/reckon';
import { PAGE_ENDINGS, PAGE_WIDTH } from './endings';
import { limitTime } from './limit';
import { tell } from './say';

// What a command needs is loaded when it is asked for: help and a wrong word cost little.

const DONE = 0;
const WRONG = 1;
const USAGE = 2;

/** Adds a word to those that were given before. */
const collect = (word: string, list: readonly string[]) => [...list, word];

/** A report from somebody else reads only files beside it. */
const ALLOW = [
  '--allow <path>',
  'a folder or file outside the report’s folder that it may read',
  collect,
  [] as readonly string[],
] as const;

function program(): Command {
  const command = new Command('bold-ruler')
    .version(process.env.BOLD_RULER_VERSION ?? '0.0.0', '--version', 'the version of this program')
    .description('Performance figures from sales rows: numbers, pictures and what a file holds')
    .exitOverride()
    .showHelpAfterError(false)
    .configureOutput({ writeErr: () => {} });

  const withSource = (sub: Command) =>
    sub
      .argument('<report or brief>', 'a report file, or with --data a brief')
      .argument('[figure]', 'the id of a figure of the report')
      .option('--data <file>', 'a data file instead of a report; each number column c gives a measure c = sum(c)')
      .option('--table <name=file>', 'a further table to hold against, with --data', collect, [])
      .option('--set <path=value>', 'a setting of the report, such as calendar.fiscalYearStart=9', collect, [])
      .option(...ALLOW);

  withSource(command.command('numbers').description('the numbers of a figure, as JSON'))
    .option('--csv', 'as comma-separated values')
    .action(async (...words: Parameters<typeof numbers>) => (await import('./commands/numbers')).numbers(...words));

  withSource(command.command('draw').description('the picture of a figure'))
    .requiredOption(
      '-o, --out <file>',
      'the file to write; its ending says what: .svg, .png, or .json for the scene; - is standard output',
    )
    .option('--as <kind>', 'with -o -, what is written to standard output: svg, png or json; svg when left out')
    .option('--outline', 'letters of an SVG as outlines, for programs that read no fonts in it')
    .option('--width <pixels>', 'how wide the figure is, 120 to 4000; as its look says when left out')
    .option('--height <pixels>', 'how high the figure is, 120 to 4000; as its look says when left out')
    .option('--scale <n>', 'pixels of a PNG for each pixel of the figure, 1 to 8', '1')
    .action(async (...words: Parameters<typeof draw>) => (await import('./commands/draw')).draw(...words));

  withSource(command.command('reckon').description('the working behind a row of a figure, from rows to pixels'))
    .option('--at <field=member>', 'which row; once for each field', collect, [])
    .option('--step <step>', 'which step, such as 2026-03 or 2026-Q1')
    .option('--whole', 'the whole, as titles and totals tell it')
    .option('--json', 'as JSON')
    .option('--rows', 'the rows themselves, as comma-separated values')
    .action(async (...words: Parameters<typeof reckon>) => (await import('./commands/reckon')).reckon(...words));

  command
    .command('check')
    .description('what in a report could mislead its reader; exit code 1 if anything is an error')
    .argument('<report>', 'a report file')
    .option('--json', 'as JSON')
    .option(...ALLOW)
    .action(async (...words: Parameters<typeof check>) => (await import('./commands/check')).check(...words));

  command
    .command('compare')
    .description('every figure of two reports, or of one over newer files, side by side, the most changed first')
    .argument('<old>', 'a report file')
    .argument('[new]', 'another one; left out where --table gives newer files')
    .option('--table <name=file>', 'the newer file of a table', collect, [])
    .option('--set <path=value>', 'a setting of both reports', collect, [])
    .option('--json', 'as JSON')
    .option(...ALLOW)
    .action(async (...words: Parameters<typeof compare>) => (await import('./commands/compare')).compare(...words));

  command
    .command('page')
    .description('a page of a report, as one picture or one file to read')
    .argument('<report>', 'a report file')
    .argument('<page>', 'the id of a page of the report')
    .requiredOption('-o, --out <file>', `the file to write; its ending says what: ${PAGE_ENDINGS.join(', ')}`)
    .option('--as <kind>', 'with -o -, what is written to standard output, such as pdf; svg when left out')
    .option('--outline', 'letters of an .svg as outlines, for programs that read no fonts in it')
    .option('--width <pixels>', `how wide the page is, 320 to 4000; ${PAGE_WIDTH} when left out`)
    .option('--paper <size>', 'sheets of a .pdf, a4 or letter; one sheet of the page’s own size when left out')
    .option(...ALLOW)
    .option('--watch', 'write it again whenever the report or one of its files changes, until stopped')
    .action(async (...words: Parameters<typeof page>) => (await import('./commands/page')).page(...words));

  command
    .command('bundle')
    .description('a report file and the files of its tables as one')
    .argument('<report>', 'a report file')
    .requiredOption('-o, --out <file>', 'the file to write, ending in .ruler.zip')
    .option(...ALLOW)
    .action(async (...words: Parameters<typeof bundle>) => (await import('./commands/bundle')).bundle(...words));

  command
    .command('fields')
    .description('what a file holds: columns, types, members, dates, what could not be read')
    .argument('<file>', 'a file of delimited text, JSON, a workbook or Parquet')
    .option('--text', 'for people instead of JSON')
    .action(async (...words: Parameters<typeof fields>) => (await import('./commands/fields')).fields(...words));
  return command;
}

/** Runs the command line; the result is the exit code. Words go to standard error, rows to standard output. */
export async function main(words: readonly string[]): Promise<number> {
  const command = program();
  let stop = () => {};
  try {
    if (words.length === 0) {
      process.stderr.write(command.helpInformation());
      return USAGE;
    }
    // Whoever watches wants it to go on.
    if (!words.includes('--watch')) stop = limitTime(process.env.BOLD_RULER_TIME);
    await command.parseAsync([...words], { from: 'user' });
    return DONE;
  } catch (error) {
    if (error instanceof CommanderError) {
      if (error.exitCode === 0) return DONE;
      tell(`bold-ruler: ${error.message.replace(/^error: /, '')} — see bold-ruler --help`);
      return USAGE;
    }
    if (isProblem(error)) {
      tell(`bold-ruler: ${error.message}`);
      return error.code === 'usage' ? USAGE : WRONG;
    }
    tell(
      `bold-ruler: something unforeseen went wrong (${error instanceof Error ? error.message : String(error)}) — please report it with the command you ran`,
    );
    return WRONG;
  } finally {
    stop();
  }
}
