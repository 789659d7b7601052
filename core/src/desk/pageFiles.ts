import { briefOrNull, type Picked } from '../brief';
import {
  carriedBy,
  hasBasicLetters,
  smallestAnywhere,
  workingsOf,
  writeHtml,
  type Deflate,
  type Program,
} from '../handover';
import { pageNamed, writePage, type DrawnPage, type Paper } from '../page';
import { figureOf } from '../report';
import { writeSvg, type FontFiles, type Scene } from '../scene';
import type { OpenReport } from '../workspace';
import { NO_CHOICE, pageDrawn, type ReaderChoice } from './pages';
import { levelUnder, type LevelBelow } from './ways';

/** A page as a file: as what, and as whom it is shown. */
export interface PageWish {
  readonly as: 'svg' | 'html' | 'pdf' | 'pptx' | 'xlsx';
  /** Of an SVG: outlines of letters instead of texts. */
  readonly outline?: true;
  /** Pixels of CSS. */
  readonly width: number;
  /** What its reader has chosen, which a file keeps. Null for the page as it is in the report. */
  readonly choice: ReaderChoice | null;
  /** The paper of a PDF; null for one sheet of the page's own size. */
  readonly paper: Paper | null;
}

/** What lies beside the program and is asked for only where a file needs it. */
export interface PageMeans {
  /** The figure's font as base64 WOFF2 by weight. */
  embedded?(): Promise<Readonly<Record<number, string>>>;
  /** The program of pages as files; null where there is none. */
  program?(): Promise<Program | null>;
  fonts?(): Promise<FontFiles>;
  /** Packs what a file carries, where that is built in. */
  readonly deflate?: Deflate;
  /** A PNG of a scene whose letters are outlines. */
  raster?(scene: Scene): Promise<Uint8Array>;
}

export interface PageFile {
  readonly content: string | Uint8Array<ArrayBuffer>;
  /** What whoever wrote it should know. */
  readonly told: readonly string[];
}

/** A page as a file of its own. Throws a `Problem`; a figure that cannot be drawn is a note on the page, and told. */
export async function pageAs(desk: OpenReport, pageId: string, wish: PageWish, means: PageMeans): Promise<PageFile> {
  const choice = wish.choice ?? NO_CHOICE;
  const { picked } = choice;
  // What was picked is chosen in a file, where the figure was not gone into by it.
  const isWithin = picked && (picked.within || levelOf(desk, picked) !== null);
  const settled =
    wish.as === 'html' && picked && !isWithin
      ? { ...choice, only: { ...choice.only, [picked.field]: [picked.member] }, picked: null }
      : choice;
  const page = await pageDrawn(desk, pageId, wish.width, settled);
  const { content, told = [] } = await WRITERS[wish.as]({ desk, pageId, page, wish, settled, means });
  const faults = page.placed.flatMap(({ kind, scene }) => (kind === 'fault' ? [scene.title] : []));
  return { content: content as PageFile['content'], told: [...told, ...faults] };
}

/** The level below the rows of the figure in which a member was picked; null where nothing is below. */
function levelOf(desk: OpenReport, { figure }: Picked): LevelBelow | null {
  const brief = briefOrNull(figureOf(desk.report, figure)?.brief ?? '', desk.vocabulary);
  return brief && levelUnder(desk, brief);
}

interface Writing {
  readonly desk: OpenReport;
  readonly pageId: string;
  readonly page: DrawnPage;
  readonly wish: PageWish;
  readonly settled: ReaderChoice;
  readonly means: PageMeans;
}
type Written = { readonly content: string | Uint8Array; readonly told?: readonly string[] };

const WRITERS: Readonly<Record<PageWish['as'], (writing: Writing) => Written | Promise<Written>>> = {
  /** One picture, with the letters it uses, or with outlines in their place. */
  async svg({ page, wish: { outline }, means }) {
    const [{ facesFor, outlined }, fonts] = await Promise.all([import('../print'), means.fonts!()]);
    const scenes = page.placed.map(({ scene }) => scene);
    if (!outline) return { content: writePage(page, facesFor(scenes, fonts)) };
    return {
      content: writePage({
        ...page,
        placed: page.placed.map((one) => ({ ...one, scene: outlined(one.scene, fonts) })),
      }),
    };
  },

  /** The page as one file that works alone, with the workings of its figures. */
  async html({ desk, pageId, page, wish, settled, means }) {
    const [carried, program] = await Promise.all([carriedBy(desk, pageNamed(desk.report, pageId)), means.program!()]);
    const { only, period, switched, picked } = settled;
    const chosen = wish.choice ? { chosen: { only, period: period ?? '', switched, picked } } : {};
    const deflate = means.deflate ?? (await smallestAnywhere());
    const live = carried && program !== null ? { live: { carried, program, ...chosen, deflate } } : {};
    const fonts =
      'live' in live && hasBasicLetters(page, live.live.carried) ? live.live.program.fonts : await means.embedded!();
    // The program of a page that can change makes its workings when they are asked for.
    const reckoning = 'live' in live ? () => null : await workingsOf(desk.source, desk.report, page);
    return {
      content: writeHtml(page, { fonts, reckoning, ...live }),
      told: 'live' in live ? [] : ['its reader cannot choose what it shows, as it would have to carry too many rows'],
    };
  },

  async pdf({ page, wish: { paper }, means }) {
    const [{ writePdf }, fonts] = await Promise.all([import('../print'), means.fonts!()]);
    const { bytes, missing } = await writePdf(page, { fonts, ...(paper ? { paper } : {}) });
    const told = missing > 0 ? [`${missing} letters are in none of the fonts and stand as question marks`] : [];
    return { content: bytes, told };
  },

  /** Slides: each figure as vectors, with a picture for programs that cannot show them. */
  async pptx({ page, means }) {
    const [{ pagePptx }, { outlined }, fonts] = await Promise.all([
      import('../office'),
      import('../print'),
      means.fonts!(),
    ]);
    const pictured = async (scene: Scene) => {
      const shown = outlined({ ...scene, marks: scene.marks.filter(({ role }) => role !== 'cell') }, fonts);
      return { svg: writeSvg(shown), png: await means.raster!(shown) };
    };
    return { content: await pagePptx(page, pictured) };
  },

  /** The numbers of its figures as a workbook. */
  async xlsx({ page }) {
    return { content: (await import('../office')).pageXlsx(page) };
  },
};

/** Pages as files, asked for from elsewhere: what is beside the program is asked for there, each by a function that can be called across. */
export const pageFiles = {
  async pageFile(
    desk: OpenReport,
    pageId: string,
    wish: PageWish,
    embedded: NonNullable<PageMeans['embedded']>,
    program: NonNullable<PageMeans['program']>,
    fonts: NonNullable<PageMeans['fonts']>,
    raster: NonNullable<PageMeans['raster']>,
  ): Promise<PageFile> {
    return pageAs(desk, pageId, wish, { embedded, program, fonts, raster });
  },
};
