import { extname, resolve, dirname } from 'node:path';
import { carriedBy, packProgram, workingsOf, writeHtml } from '@bold-ruler/core/handover';
import { drawPage, PAGE_WIDTH, pageNamed, writePage } from '@bold-ruler/core/page';
import { PAPERS, type Paper } from '@bold-ruler/core/print';
import { Problem } from '@bold-ruler/core/problem';
import { isBundle } from '@bold-ruler/core/report';
import { openReport } from './files';
import { embeddedFonts, fontFiles } from './fonts';
import { writeWhole } from './write';

export const PAGE_ENDINGS = ['.svg', '.html', '.pdf', '.pptx', '.xlsx'] as const;
type PageEnding = (typeof PAGE_ENDINGS)[number];

export interface PageCommand {
  readonly out: string;
  readonly width?: string;
  readonly paper?: string;
  readonly watch?: true;
}

export interface PageWanted {
  readonly ending: PageEnding;
  readonly width: number;
  readonly paper: Paper | undefined;
}

/** What the words of a command ask for. Throws a `Problem` of wrong usage. */
export function pageWanted(options: PageCommand): PageWanted {
  const usage = (sentence: string, remedy: string) => new Problem('usage', sentence, undefined, remedy);
  const ending = PAGE_ENDINGS.find((one) => one === extname(options.out).toLowerCase());
  if (!ending)
    throw usage(`“${options.out}” ends in none of ${PAGE_ENDINGS.join(', ')}`, 'give the file one of these endings');
  const paper = options.paper?.toLowerCase() as Paper | undefined;
  if (paper !== undefined && !Object.hasOwn(PAPERS, paper))
    throw usage(`“${options.paper}” is no paper`, `write ${Object.keys(PAPERS).join(' or ')}`);
  if (paper && ending !== '.pdf') throw usage('--paper goes with a .pdf', 'leave it away, or write a .pdf');
  const width = Number(options.width ?? PAGE_WIDTH);
  if (!(width >= 320 && width <= 4000))
    throw usage(`“${options.width}” is no width`, 'write a number from 320 to 4000');
  return { ending, width, paper };
}

/** Writes a page as a file; gives the paths of the table files it was made from. */
export async function writePageFile(
  reportFile: string,
  pageId: string,
  out: string,
  { ending, width, paper }: PageWanted,
): Promise<string[]> {
  const { report, source, tables, vocabulary } = await openReport(reportFile, []);
  const page = await drawPage(source, report, pageNamed(report, pageId), vocabulary, { width });
  /** What lets the reader of a file choose, unless that is too much for a file. */
  const live = async () => {
    const carried = await carriedBy(source, report, pageNamed(report, pageId), tables, vocabulary);
    const text = process.env.BOLD_RULER_PROGRAM;
    if (carried && text) return { live: { carried, program: await packProgram(text) } };
    console.error(`${out}: its reader cannot choose what it shows, as it would have to carry too many rows`);
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
      if (missing > 0) console.error(`${out}: ${missing} letters are in none of the fonts and stand as question marks`);
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
  for (const { kind, scene } of page.placed) if (kind === 'fault') console.error(`${out}: ${scene.title}`);
  if (isBundle(reportFile)) return [];
  return report.tables.map((table) => resolve(dirname(reportFile), table.source.file));
}
