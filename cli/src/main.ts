import { basename, extname } from 'node:path';
import { Command, CommanderError } from 'commander';
import { drawFigure, answerFigure, figureNamed } from '@bold-ruler/core/figure';
import { levelChecks } from '@bold-ruler/core/level';
import { PAGE_WIDTH } from '@bold-ruler/core/page';
import { FORMS, readBrief, type Form } from '@bold-ruler/core/brief';
import { counted, isProblem, Problem } from '@bold-ruler/core/problem';
import { numbersCsv, numbersOf } from '@bold-ruler/core/query';
import type { FigureEntry } from '@bold-ruler/core/report';
import { writeSvg } from '@bold-ruler/core/scene';
import { reckon, rowsBehind, WHOLE } from '@bold-ruler/core/reckoning';
import { cellText, profileTable, writeCsv } from '@bold-ruler/core/table';
import type { Workspace } from '@bold-ruler/core/workspace';
import { bundleOf, openData, openReport, readTablesIn } from './files';
import { fieldsText } from './fieldsText';
import { findingsText } from './findingsText';
import { limitTime } from './limit';
import { PAGE_ENDINGS, pageWanted, writePageFile, type PageCommand } from './page';
import { reckonText, rowAt } from './reckonText';
import { say, sayRows, tell } from './say';
import { watchFiles } from './watch';
import { STANDARD, writeWhole } from './write';

const DONE = 0;
const WRONG = 1;
const USAGE = 2;

interface Common {
  readonly data?: string;
  readonly table: readonly string[];
  readonly set: readonly string[];
  readonly allow: readonly string[];
}

/** Adds a word to those that were given before. */
const collect = (word: string, list: readonly string[]) => [...list, word];
const json = (value: unknown) => sayRows(`${JSON.stringify(value, null, 2)}\n`);

/** A report from somebody else reads only files beside it. */
const ALLOW = [
  '--allow <path>',
  'a folder or file outside the report’s folder that it may read',
  collect,
  [] as readonly string[],
] as const;

/** The workspace and the figure that a command names: a report and a figure's id, or with --data a brief. */
async function figureFor(
  first: string,
  second: string | undefined,
  options: Common,
  forms?: readonly Form[],
): Promise<{ workspace: Workspace; figure: FigureEntry }> {
  if (options.data !== undefined) {
    if (second !== undefined)
      throw new Problem('usage', 'with --data there is one more word, the brief', undefined, 'put the brief in quotes');
    const workspace = await openData(options.data, options.table, options.set, forms);
    readBrief(first, workspace.vocabulary);
    return { workspace, figure: { id: 'brief', brief: first, look: {} } };
  }
  if (second === undefined)
    throw new Problem(
      'usage',
      'the figure’s id is missing',
      undefined,
      'write REPORT FIGURE_ID, or --data FILE "BRIEF"',
    );
  if (options.table.length > 0)
    throw new Problem('usage', '--table goes with --data', undefined, 'a report names its own tables');
  const workspace = await openReport(first, options.set, forms, options.allow);
  return { workspace, figure: figureNamed(workspace.report, second) };
}

function program(): Command {
  const command = new Command('bold-ruler')
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
    .action(async (first: string, second: string | undefined, options: Common & { csv?: true }) => {
      const { workspace, figure } = await figureFor(first, second, options, FORMS);
      const numbers = numbersOf(await answerFigure(workspace.source, workspace.report, figure, workspace.vocabulary));
      if (options.csv) sayRows(numbersCsv(numbers));
      else json(numbers);
    });

  withSource(command.command('draw').description('the picture of a figure'))
    .requiredOption(
      '-o, --out <file>',
      'the file to write; its ending says what: .svg, .png, or .json for the scene; - is standard output',
    )
    .option('--as <kind>', 'with -o -, what is written to standard output: svg, png or json; svg when left out')
    .option('--scale <n>', 'pixels of a PNG for each pixel of the figure, 1 to 8', '1')
    .action(
      async (
        first: string,
        second: string | undefined,
        options: Common & { out: string; scale: string; as?: string },
      ) => {
        const ending = options.out === STANDARD ? `.${options.as ?? 'svg'}` : extname(options.out).toLowerCase();
        if (options.as !== undefined && options.out !== STANDARD)
          throw new Problem('usage', '--as goes with -o -', undefined, 'give the file the ending of what it is');
        if (ending !== '.svg' && ending !== '.png' && ending !== '.json')
          throw new Problem(
            'usage',
            `“${options.as ?? options.out}” is none of .svg, .png and .json`,
            undefined,
            'give the file one of these endings',
          );
        const scale = Number(options.scale);
        if (!(scale >= 1 && scale <= 8))
          throw new Problem('usage', `“${options.scale}” is no scale`, undefined, 'write a number from 1 to 8');
        const { workspace, figure } = await figureFor(first, second, options);
        const { scene } = await drawFigure(workspace.source, workspace.report, figure, workspace.vocabulary);
        if (ending === '.svg') writeWhole(options.out, writeSvg(scene));
        else if (ending === '.json') writeWhole(options.out, `${JSON.stringify(scene, null, 2)}\n`);
        // The renderer is loaded where it is needed only.
        else writeWhole(options.out, (await import('./png')).writePng(scene, scale));
        if (scene.dropped > 0)
          tell(
            `${options.out}: ${counted(scene.dropped, 'label')} found no room and ${scene.dropped === 1 ? 'was' : 'were'} left away`,
          );
      },
    );

  withSource(command.command('reckon').description('the working behind a row of a figure, from rows to pixels'))
    .option('--at <field=member>', 'which row; once for each field', collect, [])
    .option('--step <step>', 'which step, such as 2026-03 or 2026-Q1')
    .option('--whole', 'the whole, as titles and totals tell it')
    .option('--json', 'as JSON')
    .option('--rows', 'the rows themselves, as comma-separated values')
    .action(
      async (
        first: string,
        second: string | undefined,
        options: Common & { at: string[]; step?: string; whole?: true; json?: true; rows?: true },
      ) => {
        const { workspace, figure } = await figureFor(first, second, options);
        const { source, report, vocabulary, tables } = workspace;
        const drawn = await drawFigure(source, report, figure, vocabulary);
        const row = options.whole ? WHOLE : rowAt(drawn, options.at, options.step);
        const reckoning = await reckon(source, report, drawn, row);
        if (options.rows) {
          if (!reckoning.behind)
            throw new Problem('no-rows', 'this row stands for several members', undefined, 'ask for one of them');
          const table = tables.get(reckoning.behind.table)!;
          const lines = rowsBehind(table, reckoning.behind).map((row) =>
            table.columns.map((column) => cellText(column, row)),
          );
          sayRows(writeCsv([table.columns.map(({ name }) => name), ...lines]));
        } else if (options.json) json(reckoning);
        else say(reckonText(reckoning));
      },
    );

  command
    .command('check')
    .description('what in a report could mislead its reader; exit code 1 if anything is an error')
    .argument('<report>', 'a report file')
    .option('--json', 'as JSON')
    .option(...ALLOW)
    .action(async (reportFile: string, options: { json?: true; allow: string[] }) => {
      const { report, source, tables, vocabulary } = await openReport(reportFile, [], undefined, options.allow);
      const findings = await levelChecks(source, report, tables, vocabulary);
      if (options.json) json(findings.map(({ repair, ...finding }) => ({ ...finding, repair: repair?.name ?? null })));
      else say(findingsText(findings));
      const errors = findings.filter(({ severity, accepted }) => severity === 'error' && accepted === null).length;
      if (errors > 0)
        throw new Problem('check-failed', `${errors} ${errors === 1 ? 'finding is an error' : 'findings are errors'}`);
    });

  command
    .command('page')
    .description('a page of a report, as one picture or one file to read')
    .argument('<report>', 'a report file')
    .argument('<page>', 'the id of a page of the report')
    .requiredOption('-o, --out <file>', `the file to write; its ending says what: ${PAGE_ENDINGS.join(', ')}`)
    .option('--as <kind>', 'with -o -, what is written to standard output, such as pdf; svg when left out')
    .option('--width <pixels>', `how wide the page is, 320 to 4000; ${PAGE_WIDTH} when left out`)
    .option('--paper <size>', 'sheets of a .pdf, a4 or letter; one sheet of the page’s own size when left out')
    .option(...ALLOW)
    .option('--watch', 'write it again whenever the report or one of its files changes, until stopped')
    .action(async (reportFile: string, pageId: string, options: PageCommand) => {
      const wanted = pageWanted(options);
      const written = await writePageFile(reportFile, pageId, options.out, wanted);
      if (options.watch)
        await watchFiles([reportFile, ...written], () => writePageFile(reportFile, pageId, options.out, wanted));
    });

  command
    .command('bundle')
    .description('a report file and the files of its tables as one')
    .argument('<report>', 'a report file')
    .requiredOption('-o, --out <file>', 'the file to write, ending in .ruler.zip')
    .option(...ALLOW)
    .action((reportFile: string, options: { out: string; allow: string[] }) => {
      if (options.out !== STANDARD && !options.out.toLowerCase().endsWith('.ruler.zip'))
        throw new Problem('usage', `“${options.out}” does not end in .ruler.zip`, undefined, 'give it that ending');
      writeWhole(options.out, bundleOf(reportFile, options.allow));
    });

  command
    .command('fields')
    .description('what a file holds: columns, types, members, dates, what could not be read')
    .argument('<file>', 'a file of delimited text, JSON, a workbook or Parquet')
    .option('--text', 'for people instead of JSON')
    .action(async (file: string, options: { text?: true }) => {
      const profiles = (await readTablesIn(file)).map(({ sheet, table }) => ({
        ...(sheet === undefined ? {} : { sheet }),
        ...profileTable(table, file === STANDARD ? 'standard input' : basename(file)),
      }));
      if (options.text) say(profiles.map(fieldsText).join('\n'));
      else json(profiles.length === 1 ? profiles[0] : profiles);
    });
  return command;
}

/** Runs the command line; the result is the exit code. Words go to standard error, rows to standard output. */
export async function main(words: readonly string[]): Promise<number> {
  // Whoever reads only the beginning of what is written has what they wanted.
  process.stdout.on('error', ({ code }: NodeJS.ErrnoException) => process.exit(code === 'EPIPE' ? DONE : WRONG));
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
