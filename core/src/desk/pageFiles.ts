import { carriedBy, packProgram, workingsOf, writeHtml } from '../handover';
import { pageNamed, writePage } from '../page';
import type { FontFiles, Paper } from '../print';
import { writeSvg, type Scene } from '../scene';
import type { OpenReport } from '../workspace';
import { pageDrawn, type ReaderChoice } from './pages';

/** Pages as files. */
export const pageFiles = {
  /** The page as one file that works alone, with the workings of its figures. */
  async pageHtml(
    desk: OpenReport,
    pageId: string,
    width: number,
    choice: ReaderChoice,
    fonts: Readonly<Record<number, string>>,
    program: string,
  ): Promise<string> {
    const carried = await carriedBy(desk, pageNamed(desk.report, pageId));
    const { picked, period, switched } = choice;
    const only = picked ? { ...choice.only, [picked.field]: [picked.member] } : choice.only;
    const page = await pageDrawn(desk, pageId, width, { ...choice, only, picked: null });
    const chosen = { only, period: period ?? '', switched };
    return writeHtml(page, {
      fonts,
      reckoning: await workingsOf(desk.source, desk.report, page),
      ...(carried ? { live: { carried, program: packProgram(program), chosen } } : {}),
    });
  },

  /** The page as a PDF of one sheet of its own size, or on paper. */
  async pagePdf(
    desk: OpenReport,
    pageId: string,
    width: number,
    choice: ReaderChoice,
    fonts: FontFiles,
    paper: Paper | null,
  ): Promise<Uint8Array<ArrayBuffer>> {
    const [{ writePdf }, page] = await Promise.all([import('../print'), pageDrawn(desk, pageId, width, choice)]);
    return (await writePdf(page, { fonts, ...(paper ? { paper } : {}) })).bytes as Uint8Array<ArrayBuffer>;
  },

  /** The page as slides; `raster` makes a PNG of a scene whose letters are outlines. */
  async pageSlides(
    desk: OpenReport,
    pageId: string,
    width: number,
    choice: ReaderChoice,
    fonts: FontFiles,
    raster: (scene: Scene) => Promise<Uint8Array>,
  ): Promise<Uint8Array<ArrayBuffer>> {
    const [{ pagePptx }, { outlined }, page] = await Promise.all([
      import('../office'),
      import('../print'),
      pageDrawn(desk, pageId, width, choice),
    ]);
    const bytes = await pagePptx(page, async (scene) => {
      const shown = outlined({ ...scene, marks: scene.marks.filter(({ role }) => role !== 'cell') }, fonts);
      return { svg: writeSvg(shown), png: await raster(shown) };
    });
    return bytes as Uint8Array<ArrayBuffer>;
  },

  /** The numbers of a page's figures as a workbook. */
  async pageWorkbook(
    desk: OpenReport,
    pageId: string,
    width: number,
    choice: ReaderChoice,
  ): Promise<Uint8Array<ArrayBuffer>> {
    const [{ pageXlsx }, page] = await Promise.all([import('../office'), pageDrawn(desk, pageId, width, choice)]);
    return pageXlsx(page) as Uint8Array<ArrayBuffer>;
  },

  /** A page as one SVG. */
  async pageSvg(desk: OpenReport, pageId: string, width: number, choice: ReaderChoice): Promise<string> {
    return writePage(await pageDrawn(desk, pageId, width, choice));
  },
};
