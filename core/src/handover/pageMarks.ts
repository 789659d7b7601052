import type { DrawnPage, Placed } from '../page';
import { escaped, PAPER, rounded, writeMarks, type Mark } from '../scene';

/** A cell of a page, in the order in which its marks are numbered. */
export interface PageCell {
  readonly placed: Placed;
  readonly cell: Mark;
}

/**
 * Everything on a page as SVG without its `<svg>`, and its cells: a cell that `answers` is numbered and can be reached and pressed. Null
 * for a picture that its program draws anew: figures have their words, but no cells.
 */
export function pageMarks(
  page: DrawnPage,
  answers: ((placed: Placed, cell: Mark) => boolean) | null,
): { readonly svg: string; readonly cells: readonly PageCell[] } {
  const cells: PageCell[] = [];
  if (answers === null) return { svg: page.placed.map(pictured).join('\n'), cells };
  const svg = page.placed.map((placed) =>
    groupOf(placed, (cell) => (answers(placed, cell) ? cells.push({ placed, cell }) - 1 : null)),
  );
  return { svg: svg.join('\n'), cells };
}

/** What answers to the pointer need not be told finer than a pointer points. */
const tenths = (value: number): string => rounded(Math.round(value * 10) / 10);

const groupAt = ({ x, y, scene, kind }: Placed, attributes: string, more: string): string => {
  const paper =
    kind === 'figure'
      ? `<rect width="${rounded(scene.width)}" height="${rounded(scene.height)}" fill="${PAPER}"/>`
      : '';
  return `<g transform="translate(${rounded(x)} ${rounded(y)})"${attributes}>${paper}${writeMarks(scene)}${more}</g>`;
};

function pictured(placed: Placed): string {
  const words = placed.kind === 'figure' ? ` role="img" aria-label="${escaped(placed.scene.description)}"` : '';
  return groupAt(placed, words, '');
}

/** A block where it stands; its cells answer to the pointer and to the keys. */
function groupOf(placed: Placed, number: (cell: Mark) => number | null): string {
  // A title is a mark’s name for those who hear it, and shows when it is pointed at; the style lets cells be seen through.
  const cells = placed.scene.marks.flatMap((mark) => {
    if (mark.role !== 'cell' || mark.shape !== 'rect') return [];
    const at = number(mark);
    const words = escaped(mark.words ?? '');
    // What answers is made a button by the script that answers: hundreds of marks need not say so each.
    const reach = at === null ? 'role="img"' : `data-r="${at}"`;
    return [
      `<rect ${reach} x="${tenths(mark.x)}" y="${tenths(mark.y)}" width="${tenths(mark.width)}" height="${tenths(mark.height)}"><title>${words}</title></rect>`,
    ];
  });
  return groupAt(placed, '', cells.join(''));
}
