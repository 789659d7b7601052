import { formOf } from '../brief';
import { formDefinition, numbersFor, numbersText, redrawn } from '../figure';
import type { DrawnPage, Placed } from '../page';
import { numbersOf } from '../figure';
import { type Cells } from '../query';
import type { Scene } from '../scene';
import { TABLE_LINES, writePptx, type Slide, type SlideTable } from './writePptx';
import { sheetColumns } from './sheetColumns';
import { writeXlsx, type SheetRows } from './writeXlsx';

/** How large a figure is drawn for a slide, in CSS pixels: its letters then can be read from the back of the room. */
const PICTURE = { width: 860, height: 408 };

/** On a slide a figure has all of its legend. */
const ALONE: ReadonlySet<string> = new Set();

/** Slides of numbers a figure may fill; more is for the workbook. */
const MOST_TABLES = 3;

/** A figure as vectors and as a PNG. */
export type Pictured = (scene: Scene) => Promise<{ readonly svg: string; readonly png: Uint8Array }>;

const figuresOf = ({ placed }: DrawnPage) =>
  placed.flatMap((one) => (one.kind === 'figure' && one.drawn ? [{ ...one, drawn: one.drawn }] : []));

/** The page as slides: what it says in text first, then each figure as a picture, and its numbers as a table that can be edited. */
export async function pagePptx(page: DrawnPage, pictured: Pictured): Promise<Uint8Array> {
  const words = (kind: Placed['kind']) => page.placed.filter((one) => one.kind === kind).map(({ scene }) => scene);
  const slides: Slide[] = [
    {
      title: page.title,
      about: words('title')[0]?.description ?? '',
      text: [
        ...words('text').flatMap(({ description }) => description.split('\n')),
        ...words('foot').map(({ description }) => description),
      ].filter((line) => line.trim() !== ''),
    },
  ];
  const figures = figuresOf(page);
  for (let from = 0; from < figures.length; from += TOGETHER)
    slides.push(
      ...(await Promise.all(figures.slice(from, from + TOGETHER).map((one) => slidesOf(one, pictured)))).flat(),
    );
  return writePptx(page.title, slides);
}

/** Pictures that are made at the same time: each takes some megabytes while it is painted. */
const TOGETHER = 4;

/** A figure as a picture, then its numbers. */
async function slidesOf(
  { scene, drawn, told }: ReturnType<typeof figuresOf>[number],
  pictured: Pictured,
): Promise<Slide[]> {
  const { look } = drawn.request;
  const { scene: shown } = redrawn(drawn, { ...look, ...PICTURE, title: '', caption: '' }, { shared: ALONE });
  const { width, height } = shown;
  const picture = { ...(await pictured(shown)), width, height, words: scene.description };
  return [
    { title: scene.title, about: told.join(' · '), picture },
    ...tablesOf(drawn).map((table) => ({ title: scene.title, about: table.about, table })),
  ];
}

/** The numbers of a figure, as many lines on a slide as it has room for. */
export function tablesOf(drawn: NonNullable<Placed['drawn']>): (SlideTable & { readonly about: string })[] {
  const rows = numbersFor(drawn);
  const { headings, lines, whole } = numbersText(rows);
  const all = whole.length > 0 && lines.length > 1 ? [...lines, whole] : lines;
  const tables: (SlideTable & { about: string })[] = [];
  const shown = Math.min(all.length, MOST_TABLES * TABLE_LINES);
  for (let from = 0; from < shown; from += TABLE_LINES) {
    const until = Math.min(from + TABLE_LINES, shown);
    const rest = until === shown && shown < all.length ? ` · ${all.length - shown} more in the workbook` : '';
    tables.push({
      about: all.length > TABLE_LINES ? `rows ${from + 1} to ${until} of ${all.length}${rest}` : '',
      header: headings.map((heading, c) =>
        c === 0 ? [...rows.brief.by, rows.grain ?? []].flat().join(', ') || 'measure' : heading,
      ),
      lines: all.slice(from, until).map((line) => line.map((text, c) => ({ text, isNumber: c > 0 }))),
    });
  }
  return tables;
}

/** The numbers of all figures of a page as a workbook, unrounded, a sheet for each. */
export function pageXlsx(page: DrawnPage): Uint8Array {
  const figures = figuresOf(page);
  const called = (figure: string | null, i: number) => `${i + 1} ${page.names.get(figure ?? '') ?? figure ?? ''}`;
  const sheets = figures.map(({ scene, drawn, figure }, i): SheetRows => {
    const cells = numbersFor(drawn);
    const numbers = numbersOf(cells);
    const until = numbers.asOf === null ? '' : `as of ${numbers.asOf}`;
    const { columns, lines } = sheetColumns(cells, numbers, referencesOf(drawn));
    return { name: called(figure, i), about: [scene.title, numbers.brief, until, ''], columns, lines };
  });
  const contents: SheetRows = {
    name: 'Contents',
    about: [page.title, ...page.placed.filter(({ kind }) => kind === 'foot').map(({ scene }) => scene.description), ''],
    columns: [{ name: 'sheet' }, { name: 'title' }, { name: 'brief' }],
    lines: figures.map(({ scene, figure, drawn }, i) => [called(figure, i), scene.title, numbersFor(drawn).text]),
  };
  return writeXlsx(page.title, [contents, ...sheets]);
}

/** What a headline is held against beside its own benchmark. */
function referencesOf({ cells, request }: NonNullable<Placed['drawn']>): readonly Cells[] {
  return formDefinition(formOf(cells.brief)).references?.(request) ?? [];
}
