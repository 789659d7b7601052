import { sayPeriod, writtenDay } from '../calendar';
import { askFigure, drawFigure, figureNamed, redrawn, type Drawn } from '../figure';
import { claimWords, holds } from '../suggestion';
import { liveTitle } from '../format';
import { didYouMean, isProblem, listed, Problem } from '../problem';
import type { Workspace } from '../query';
import { figureOf, figuresOn, type FigureEntry, type Page, type PageBlock, type Report } from '../report';
import type { Scene } from '../scene';
import { aligned } from './aligned';
import { placedBlocks, SHEET } from './layout';
import { expectedLegend, legendOf, sharedLegend } from './legend';
import { narrowed, NOTHING_CHOSEN, type Reader } from './reader';
import { footScene, headScene, textScene, titleScene } from './texts';

/** Something that stands on a page: its left upper corner in pixels, its marks, and for a figure its numbers. */
export interface Placed {
  readonly kind: 'title' | 'head' | 'figure' | 'text' | 'foot' | 'fault';
  /** Which row of the page it is in, and which block of the row; −1 for the title and for headings. */
  readonly row: number;
  readonly block: number;
  readonly x: number;
  readonly y: number;
  readonly scene: Scene;
  /** The figure it shows or tells of. */
  readonly figure: string | null;
  readonly drawn: Drawn | null;
  /** What a reader must know: what of the choice a figure does not follow, warnings of its numbers; what a text says that is no longer so. */
  readonly told: readonly string[];
}

export interface DrawnPage {
  readonly title: string;
  readonly width: number;
  readonly height: number;
  readonly placed: readonly Placed[];
  /** Names that figures have of their own, by id. */
  readonly names: ReadonlyMap<string, string>;
}

export interface PageOptions {
  /** Pixels; figures are drawn for the room they get, never scaled. */
  readonly width?: number;
  readonly reader?: Reader;
  /** Figures whose briefs are known to be unreadable, and why. */
  readonly unread?: ReadonlyMap<string, Problem>;
}

export const PAGE_WIDTH = 1160;

/**
 * Asks of the rows what the figures of a page would ask when it is drawn, and draws nothing. What cannot be asked is left away: it
 * would say so in its place.
 */
export async function askPage(workspace: Workspace, page: Page, reader: Reader = NOTHING_CHOSEN): Promise<void> {
  const { report } = narrowed(workspace, reader);
  await Promise.all(
    [...figuresOn(page)].map(async (id) => {
      try {
        await askFigure({ ...workspace, report }, figureNamed(report, id));
      } catch (error) {
        if (!isProblem(error)) throw error;
      }
    }),
  );
}

/** A figure is drawn up to this much higher than it needs to be, so that a row ends on one line. */
const MOST_STRETCH = 1.4;

/** The page of that id. Throws a `Problem` that offers the closest ids. */
export function pageNamed(report: Report, id: string): Page {
  const page = report.pages.find((one) => one.id === id);
  if (!page)
    throw new Problem(
      'unknown-page',
      `there is no page “${id}”`,
      { in: `report “${report.name}”` },
      didYouMean(
        id,
        report.pages.map((one) => one.id),
        'page',
      ),
    );
  return page;
}

/**
 * A page, drawn: every figure for the width its share gives it, rows below one another. A figure or a text that cannot be
 * drawn says why in its place; the rest of the page stands.
 */
export async function drawPage(
  workspace: Workspace,
  page: Page,
  { width = PAGE_WIDTH, reader = NOTHING_CHOSEN, unread = new Map() }: PageOptions = {},
): Promise<DrawnPage> {
  const { report, ignored, lost } = narrowed(workspace, reader);
  const asRead = { ...workspace, report };
  const sizes = firstSizes(page, width);
  const figures = new Map<string, Promise<Drawn>>();
  const answered = (id: string): Promise<Drawn> => {
    let drawn = figures.get(id);
    if (!drawn) {
      drawn = Promise.resolve().then(() => {
        const problem = unread.get(id);
        if (problem) throw problem;
        const figure = figureNamed(report, id);
        return drawFigure(asRead, { ...figure, look: lookOf(figure, sizes.get(id)) }, expected);
      });
      figures.set(id, drawn);
    }
    return drawn;
  };
  const expected = expectedLegend(page);
  // All ask at once, so that what they ask can be answered together; who cannot be drawn says so in its place.
  for (const id of sizes.keys()) answered(id).catch(() => {});
  const shared = await sharedLegend(page, width, answered);
  const shown = async (id: string): Promise<Drawn> => {
    const drawn = await answered(id);
    // A figure is drawn again only where its own legend changes by it.
    const changes = [...drawn.legend.keys()].some((key) => shared.has(key) !== expected.has(key));
    return changes ? redrawn(drawn, drawn.request.look, { shared }) : drawn;
  };
  const [across] = placedBlocks([{ share: 12 }], width).columns;
  const { x: margin, width: inner } = across!;
  let placed: Placed[] = [];
  let y = margin;
  const put = (kind: Placed['kind'], row: number, scene: Scene, below: number) => {
    placed.push({ kind, row, block: -1, x: margin, y, scene, figure: null, drawn: null, told: [] });
    y += scene.height + below;
  };
  put('title', -1, titleScene(page.title, await aboutOf(report, page, answered), inner), 14);
  for (const [r, row] of page.rows.entries()) {
    if ('head' in row) {
      y += 8;
      put('head', r, headScene(row.head, inner), 10);
      continue;
    }
    const { columns, stacked } = placedBlocks(row.blocks, width);
    const drawn = await Promise.all(row.blocks.map((block, b) => drawBlock(block, columns[b]!.width, report, shown)));
    // A row is as high as it is told, or as its figures need.
    const height = Math.max(
      row.height ?? 0,
      ...drawn.map(({ scene, kind }) => (row.height === undefined || kind === 'figure' ? scene.height : 0)),
    );
    drawn.forEach((block, b) => {
      const fitted = stacked ? block : inRow(block, height, row.height !== undefined);
      const { stale, ...stands } = fitted;
      placed.push({
        ...stands,
        row: r,
        block: b,
        x: columns[b]!.x,
        y,
        told: fitted.drawn
          ? [...toldOf(fitted.drawn, ignored.get(fitted.figure!) ?? []), lost.get(fitted.figure!) ?? []].flat()
          : stale,
      });
      if (stacked) y += fitted.scene.height + SHEET.gutter;
    });
    if (!stacked) y += Math.max(height, ...placed.slice(-drawn.length).map(({ scene }) => scene.height)) + SHEET.gutter;
  }
  y -= SHEET.gutter / 2;
  const sources = await sourcesOf(figures.values());
  placed = aligned(placed);
  const legend = legendOf(placed, shared);
  if (sources !== '' || legend.length > 0)
    put('foot', page.rows.length, footScene(sources, legend, inner), SHEET.gutter / 2);
  const names = new Map(report.figures.flatMap(({ id, name }) => (name === undefined ? [] : [[id, name] as const])));
  return { title: page.title, width, height: Math.ceil(y + margin - SHEET.gutter / 2), placed, names };
}

function toldOf({ rows }: Drawn, ignored: readonly string[]): string[] {
  const warnings = rows.checks
    // Where it is known what is due by now, rows are judged by that.
    .filter(({ code, severity }) => severity !== 'note' && !(code === 'part-period-against-whole' && rows.due))
    .map(({ text }) => text);
  return [...(ignored.length > 0 ? [`does not follow ${listed(ignored, 'and')}`] : []), ...warnings];
}

/** `stale`: what a text claims that is no longer so. */
type Block = Pick<Placed, 'kind' | 'scene' | 'figure' | 'drawn'> & { readonly stale: readonly string[] };

async function drawBlock(
  block: PageBlock,
  width: number,
  report: Report,
  answered: (id: string) => Promise<Drawn>,
): Promise<Block> {
  const figure = 'figure' in block ? block.figure : (block.about ?? null);
  try {
    if ('figure' in block) {
      const drawn = await answered(block.figure);
      const isSized = drawn.request.look.width === width;
      const sized = isSized ? drawn : redrawn(drawn, lookOf(figureOf(report, block.figure)!, { width }));
      return { kind: 'figure', figure, scene: sized.scene, drawn: sized, stale: [] };
    }
    const about = figure === null ? null : (await answered(figure)).request.cells;
    const text = about ? liveTitle(block.text, about) : block.text;
    const stale = about
      ? (block.claims ?? [])
          .filter((claim) => !holds(claim, about))
          .map((claim) => `no longer true: that ${claimWords(claim)}`)
      : [];
    return { kind: 'text', figure, scene: textScene(text, width), drawn: null, stale };
  } catch (error) {
    if (!isProblem(error)) throw error;
    return {
      kind: 'fault',
      figure,
      scene: textScene(`This cannot be shown: ${error.sentence}${error.remedy ? ` — ${error.remedy}` : ''}.`, width),
      drawn: null,
      stale: [],
    };
  }
}

/** On a page a figure has the width of its column, and the height it needs. */
function lookOf({ look }: FigureEntry, size: Size | undefined): FigureEntry['look'] {
  const { height: _, ...rest } = look;
  // Where the numbers come from is said once, at the foot of the page.
  return { caption: '', ...rest, ...size };
}

interface Size {
  readonly width: number;
  readonly height?: number;
}

/** The size each figure has where it first stands, as far as it is known, so that it is drawn but once. */
function firstSizes({ rows }: Page, across: number): Map<string, Size> {
  const sizes = new Map<string, Size>();
  for (const row of rows) {
    if ('head' in row) continue;
    const { columns, stacked } = placedBlocks(row.blocks, across);
    const { height } = row;
    row.blocks.forEach((block, b) => {
      const { width } = columns[b]!;
      if ('figure' in block && !sizes.has(block.figure))
        sizes.set(block.figure, stacked || height === undefined ? { width } : { width, height });
    });
  }
  return sizes;
}

/** A figure as high as its row, unless that would pull it apart. */
function inRow(block: Block, height: number, isGiven: boolean): Block {
  const { drawn, scene } = block;
  if (!drawn || Math.abs(scene.height - height) < 1) return block;
  if (!isGiven && height > scene.height * MOST_STRETCH) return block;
  const sized = redrawn(drawn, { ...drawn.request.look, height });
  return { ...block, scene: sized.scene, drawn: sized };
}

/** Where the numbers of all figures come from, each sentence once. */
async function sourcesOf(figures: Iterable<Promise<Drawn>>): Promise<string> {
  const files = new Set<string>();
  const notes = new Set<string>();
  let asOf = -Infinity;
  for (const figure of figures) {
    const drawn = await figure.catch((error: unknown) => {
      if (!isProblem(error)) throw error;
      return null;
    });
    if (!drawn) continue;
    const { cells, sources } = drawn.request;
    for (const file of sources) files.add(file);
    if (cells.dated) asOf = Math.max(asOf, cells.asOf);
    for (const { code, text } of cells.checks)
      if (code === 'spread' || code === 'due-spread' || code === 'split') notes.add(text);
  }
  if (files.size === 0) return '';
  const until = asOf > -Infinity ? `, as of ${writtenDay(asOf)}` : '';
  return [`from ${listed([...files], 'and')}${until}`, ...notes]
    .map((sentence) => `${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}.`)
    .join(' ');
}

/** Under the title: the report, the period where all figures have the same, and up to when the data go. */
async function aboutOf({ name }: Report, { rows }: Page, answered: (id: string) => Promise<Drawn>): Promise<string> {
  const periods = new Set<string>();
  let asOf = -Infinity;
  for (const row of rows)
    for (const block of 'blocks' in row ? row.blocks : []) {
      if (!('figure' in block)) continue;
      try {
        const { cells } = await answered(block.figure);
        if (!cells.dated) continue;
        periods.add(sayPeriod(cells.brief.period, cells.period, cells.calendar));
        asOf = Math.max(asOf, cells.asOf);
      } catch (error) {
        if (!isProblem(error)) throw error;
      }
    }
  return [
    name,
    ...(periods.size === 1 ? periods : []),
    ...(asOf > -Infinity ? [`as of ${writtenDay(asOf)}`] : []),
  ].join(' · ');
}
