import { periodFrom } from '../brief';
import {
  drawPage,
  narrowed,
  NOTHING_CHOSEN,
  pageNamed,
  type DrawnPage,
  type Placed,
  readerOffers,
  type Reader,
  type ReaderOffers,
} from '../page';
import { drawFigure, rowKey } from '../figure';
import { suggestionsOf } from '../suggestion';
import { liveTitle } from '../format';
import { isProblem } from '../problem';
import { figureOf, isInDatabase, type Claim } from '../report';
import { keyText, writeMarks } from '../scene';
import type { Cells } from '../query';
import type { OpenReport } from '../workspace';
import { levelUnder } from './ways';

/** What a reader has chosen, as it stands in the address: periods as a brief says them. */
export interface ReaderChoice extends Omit<Reader, 'period'> {
  readonly period: string | null;
}

export const NO_CHOICE: ReaderChoice = { ...NOTHING_CHOSEN, period: null };

/** A place in a figure that answers to the pointer: what it says, and whose it is. */
export interface PageSpot {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly words: string;
  readonly key: Readonly<Record<string, string | null>>;
}

/** Something that stands on a page, as SVG text. */
export interface PageBlockShown extends Pick<Placed, 'kind' | 'row' | 'block' | 'x' | 'y' | 'figure' | 'told'> {
  readonly width: number;
  readonly height: number;
  readonly title: string;
  /** In words, for those who hear it. */
  readonly description: string;
  readonly marks: string;
  readonly spots: readonly PageSpot[];
}

export interface PageShown {
  readonly width: number;
  readonly height: number;
  readonly blocks: readonly PageBlockShown[];
  /** Milliseconds its numbers and marks took. */
  readonly took: number;
}

/** A page for a width, under what its reader has chosen. */
export function pageDrawn(desk: OpenReport, pageId: string, width: number, choice: ReaderChoice): Promise<DrawnPage> {
  const reader: Reader = { ...choice, period: choice.period === null ? null : periodFrom(choice.period) };
  return drawPage(desk, pageNamed(desk.report, pageId), { width, reader });
}

/** Something a figure of a page says, which could stand on it as text. */
export interface SuggestionShown {
  readonly figure: string;
  readonly claim: Claim;
  /** With braces, as it would be taken. */
  readonly template: string;
  /** As it reads now. */
  readonly text: string;
}

/** What the figures of a page say, without what is on it already or was dismissed. */
async function pageSuggestions(desk: OpenReport, pageId: string): Promise<SuggestionShown[]> {
  const { report } = desk;
  const page = pageNamed(report, pageId);
  const blocks = page.rows.flatMap((row) => ('blocks' in row ? row.blocks : []));
  const taken = new Set(blocks.flatMap((block) => ('text' in block ? (block.claims ?? []).map(claimKey) : [])));
  const figures = new Set(blocks.flatMap((block) => ('figure' in block ? [block.figure] : [])));
  const found: SuggestionShown[] = [];
  for (const figure of figures) {
    const entry = figureOf(report, figure);
    if (!entry) continue;
    try {
      const { cells } = await drawFigure(desk, entry);
      for (const { claim, text } of suggestionsOf(cells))
        if (
          !taken.has(claimKey(claim)) &&
          !page.dismissed?.some((one) => one.figure === figure && one.kind === claim.kind)
        ) {
          taken.add(claimKey(claim));
          found.push({ figure, claim, template: text, text: liveTitle(text, cells) });
        }
    } catch (error) {
      if (!isProblem(error)) throw error;
    }
  }
  return found;
}

const claimKey = (claim: Claim): string => {
  const { text: _, ...plain } = claim as Claim & { text?: string };
  return JSON.stringify(Object.entries(plain).sort());
};

async function pageShown(desk: OpenReport, pageId: string, width: number, choice: ReaderChoice): Promise<PageShown> {
  const start = performance.now();
  const page = await pageDrawn(desk, pageId, width, choice);
  const blocks = page.placed.map(({ scene, kind, row, block, x, y, figure, told, drawn }): PageBlockShown => {
    const below = drawn?.rows.brief.by.length === 1 ? levelUnder(desk, drawn.rows.brief) : null;
    const rests = drawn ? restsIn(drawn.rows) : NO_RESTS;
    const spots = scene.marks.flatMap((mark): PageSpot[] => {
      if (mark.role !== 'cell' || mark.shape !== 'rect') return [];
      const { x: left, y: top, width: across, height: high, words = '', key: own } = mark;
      // A rest is nobody's member.
      const key = rests.size > 0 && rests.has(keyText({ key: own, step: null })) ? {} : own;
      const more = below && Object.keys(key).length > 0 ? `; press to see it by ${below.field}` : '';
      return [{ x: left, y: top, width: across, height: high, words: `${words}${more}`, key }];
    });
    const { width: wide, height, title, description } = scene;
    return {
      kind,
      row,
      block,
      x,
      y,
      figure,
      told,
      width: wide,
      height,
      title,
      description,
      marks: writeMarks(scene),
      spots,
    };
  });
  return { width: page.width, height: page.height, blocks, took: performance.now() - start };
}

const NO_RESTS: ReadonlySet<string> = new Set();

/** Keys of the rests of a figure. */
const restsIn = (cells: Cells): ReadonlySet<string> =>
  new Set(
    Array.from({ length: cells.count }, (_, row) => row)
      .filter((row) => cells.isRest[row])
      .map((row) => keyText({ key: rowKey(cells, row).key, step: null })),
  );

async function prepared(desk: OpenReport, pageId: string, step: number): Promise<boolean> {
  const { report, source, vocabulary } = desk;
  // A database is asked for what somebody wants to see.
  if (report.tables.some(isInDatabase)) return false;
  const { rows, filters } = pageNamed(report, pageId);
  const blocks = rows.flatMap((row) => ('blocks' in row ? row.blocks : []));
  const figures = [...new Set(blocks.flatMap((block) => ('figure' in block ? [block.figure] : [])))];
  // The first member of every filter, then the second: what is chosen with one is found sooner for the others, too.
  const isLarge = report.tables.some(({ id }) => (source.facts(id)?.rows ?? 0) > LARGE);
  const steps = Array.from({ length: isLarge ? 1 : PREPARED }, (_, nth) =>
    filters.flatMap(({ field }) => {
      const member = vocabulary.members(field)?.[nth];
      return member === undefined ? [] : figures.map((figure) => ({ field, member, figure }));
    }),
  ).flat();
  const now = steps[step];
  if (!now) return false;
  const chosen = narrowed(desk, { ...NOTHING_CHOSEN, only: { [now.field]: [now.member] } }).report;
  const entry = figureOf(chosen, now.figure);
  try {
    if (entry) writeMarks((await drawFigure({ ...desk, report: chosen }, entry)).scene);
  } catch (error) {
    // Whoever chooses it is told.
    if (!isProblem(error)) throw error;
  }
  return step + 1 < steps.length;
}

/** Members of a filter for which answers are made ready; with more rows than that one: the machine has other things to do. */
const PREPARED = 4;
const LARGE = 2_000_000;

/** Questions about pages. */
export const pages = {
  /** A page for a width, under what its reader has chosen. */
  page(desk: OpenReport, pageId: string, width: number, choice: ReaderChoice): Promise<PageShown> {
    return pageShown(desk, pageId, width, choice);
  },

  /** What the figures of a page say, to be taken as text. */
  suggestions(desk: OpenReport, pageId: string): Promise<SuggestionShown[]> {
    return pageSuggestions(desk, pageId);
  },

  /**
   * Answers beforehand what a figure of a page asks when its reader chooses something, so that the first choice is followed as
   * quickly as the next. One figure and one filter at a time, as whoever asks has the time for it.
   * @param step counts from 0
   * @returns whether there is another step
   */
  prepare(desk: OpenReport, pageId: string, step: number): Promise<boolean> {
    return prepared(desk, pageId, step);
  },

  /** What a reader of the page can choose from. */
  reader(desk: OpenReport, pageId: string): ReaderOffers {
    const { source, vocabulary } = desk;
    return readerOffers(desk.report, pageNamed(desk.report, pageId), source.facts, vocabulary);
  },
};
