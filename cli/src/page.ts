import { extname, resolve, dirname } from 'node:path';
import { pageAs, type PageWish } from '@bold-ruler/core/desk';
import type { Program } from '@bold-ruler/core/handover';
import { PAGE_WIDTH, PAPERS, type Paper } from '@bold-ruler/core/page';
import { Problem } from '@bold-ruler/core/problem';
import { PAGE_ENDINGS } from './endings';
import { filesOf, isBundle, isInDatabase, isPattern } from '@bold-ruler/core/report';
import { filesLike, openReport } from './files';
import { embeddedFonts, fontFiles } from './fonts';
import { smallest } from './smallest';
import { tell } from './say';
import { STANDARD, writeWhole } from './write';

/** Written here when the command line is bundled. */
const PROGRAM = process.env.BOLD_RULER_PROGRAM as unknown as Program | undefined;

type PageEnding = (typeof PAGE_ENDINGS)[number];

export interface PageCommand {
  readonly out: string;
  readonly width?: string;
  readonly paper?: string;
  readonly outline?: true;
  readonly watch?: true;
  readonly as?: string;
  readonly allow: readonly string[];
}

export interface PageWanted {
  readonly ending: PageEnding;
  readonly width: number;
  readonly paper: Paper | undefined;
  readonly outline: boolean;
  readonly allow: readonly string[];
}

/** What the words of a command ask for. Throws a `Problem` of wrong usage. */
export function pageWanted(options: PageCommand): PageWanted {
  const usage = (sentence: string, remedy: string) => new Problem('usage', sentence, undefined, remedy);
  const isStandard = options.out === STANDARD;
  const wanted = isStandard ? `.${options.as ?? 'svg'}` : extname(options.out).toLowerCase();
  const ending = PAGE_ENDINGS.find((one) => one === wanted);
  if (options.as !== undefined && !isStandard)
    throw usage('--as goes with -o -', 'give the file the ending of what it is');
  if (!ending)
    throw usage(
      `“${options.as ?? options.out}” ends in none of ${PAGE_ENDINGS.join(', ')}`,
      'give the file one of these endings',
    );
  const paper = options.paper?.toLowerCase() as Paper | undefined;
  if (paper !== undefined && !Object.hasOwn(PAPERS, paper))
    throw usage(`“${options.paper}” is no paper`, `write ${Object.keys(PAPERS).join(' or ')}`);
  if (paper && ending !== '.pdf') throw usage('--paper goes with a .pdf', 'leave it away, or write a .pdf');
  if (options.outline && ending !== '.svg')
    throw usage('--outline goes with an .svg', 'leave it away, or write an .svg');
  const width = Number(options.width ?? PAGE_WIDTH);
  if (!(width >= 320 && width <= 4000))
    throw usage(`“${options.width}” is no width`, 'write a number from 320 to 4000');
  return { ending, width, paper, allow: options.allow, outline: options.outline === true };
}

/** Writes a page as a file; gives the paths of the table files it was made from. */
export async function writePageFile(
  reportFile: string,
  pageId: string,
  out: string,
  { ending, width, paper, allow, outline }: PageWanted,
): Promise<string[]> {
  const workspace = await openReport(reportFile, [], allow);
  const { content, told } = await pageAs(
    workspace,
    pageId,
    {
      as: ending.slice(1) as PageWish['as'],
      width,
      choice: null,
      paper: paper ?? null,
      ...(outline ? { outline } : {}),
    },
    {
      embedded: async () => embeddedFonts(),
      program: async () => PROGRAM ?? null,
      fonts: async () => fontFiles(),
      deflate: smallest,
      raster: async (scene) => (await import('./png')).paintedPng(scene, 2),
    },
  );
  writeWhole(out, content);
  for (const what of told) tell(`${out}: ${what}`);
  if (isBundle(reportFile)) return [];
  return workspace.report.tables.flatMap((table) => {
    if (isInDatabase(table)) return [];
    return filesOf(table).flatMap((file) => {
      const at = resolve(dirname(reportFile), file);
      return isPattern(at) ? filesLike(at) : [at];
    });
  });
}
