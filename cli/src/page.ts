import { extname, resolve, dirname } from 'node:path';
import { carriedBy, packProgram, workingsOf, writeHtml } from '@bold-ruler/core/handover';
import { drawPage, PAGE_WIDTH, pageNamed, writePage } from '@bold-ruler/core/page';
import { PAPERS, type Paper } from '@bold-ruler/core/print';
import { Problem } from '@bold-ruler/core/problem';
import { isBundle } from '@bold-ruler/core/report';
import { PAGE_ENDINGS } from './endings';
import { openReport } from './files';
import { embeddedFonts, fontFiles } from './fonts';
import { tell } from './say';
import { STANDARD, writeWhole } from './write';

type PageEnding = (typeof PAGE_ENDINGS)[number];

export interface PageCommand {
  readonly out: string;
  readonly width?: string;
  readonly paper?: string;
  readonly watch?: true;
  readonly as?: string;
  readonly allow: readonly string[];
}

export interface PageWanted {
  readonly ending: PageEnding;
  readonly width: number;
  readonly paper: Paper | undefined;
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
  const width = Number(options.width ?? PAGE_WIDTH);
  if (!(width >= 320 && width <= 4000))
    throw usage(`“${options.width}” is no width`, 'write a number from 320 to 4000');
  return { ending, width, paper, allow: options.allow };
}

/** Writes a page as a file; gives the paths of the table files it was made from. */
export async function writePageFile(
  reportFile: string,
  pageId: string,
  out: string,
  { ending, width, paper, allow }: PageWanted,
): Promise<string[]> {
  const { report, source, tables, vocabulary } = await openReport(reportFile, [], allow);
  const page = await drawPage({ source, report, vocabulary }, pageNamed(report, pageId), { width });
  /** What lets the reader of a file choose, unless that is too much for a file. */
  const live = async () => {
    const carried = await carriedBy({ source, report, vocabulary, tables }, pageNamed(report, pageId));
    const text = process.env.BOLD_RULER_PROGRAM;
    if (carried && text) return { live: { carried, program: packProgram(text) } };
    tell(`${out}: its reader cannot choose what it shows, as it would have to carry too many rows`);
    return {};
  };
  switch (ending) {
    case '.svg':
      writeWhole(out, writePage(page));
      break;
    case '.html':
      writeWhole(
        out,
        writeHtml(page, {
          fonts: embeddedFonts(),
          reckoning: await workingsOf(source, report, page),
          ...(await live()),
        }),
      );
      break;
    case '.pdf': {
      const { writePdf } = await import('@bold-ruler/core/print');
      const { bytes, missing } = await writePdf(page, { fonts: fontFiles(), ...(paper ? { paper } : {}) });
      writeWhole(out, bytes);
      if (missing > 0) tell(`${out}: ${missing} letters are in none of the fonts and stand as question marks`);
      break;
    }
    case '.pptx': {
      const [{ pagePptx }, { writePng, outlinedSvg }] = await Promise.all([
        import('@bold-ruler/core/office'),
        import('./png'),
      ]);
      writeWhole(
        out,
        await pagePptx(page, (scene) => Promise.resolve({ svg: outlinedSvg(scene), png: writePng(scene, 2) })),
      );
      break;
    }
    case '.xlsx':
      writeWhole(out, (await import('@bold-ruler/core/office')).pageXlsx(page));
  }
  for (const { kind, scene } of page.placed) if (kind === 'fault') tell(`${out}: ${scene.title}`);
  if (isBundle(reportFile)) return [];
  return report.tables.map((table) => resolve(dirname(reportFile), table.source.file));
}
