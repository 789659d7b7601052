import { arrayMove } from '@dnd-kit/sortable';
import type { Draft } from 'mutative';
import type { Claim, Claimed, Page, PageBlock, PageFilter, PageRow, Report } from '@bold-ruler/core/report';
import { useReport } from '@/store/reportStore';

/** Twelfths of a row. */
const WHOLE = 12;
const MOST_BLOCKS = 4;
export const LEAST_SHARE = 2;

/** @param session of writing a text; see `WrittenText` */
function change(name: string, pageId: string, recipe: (page: Draft<Page>) => void, session?: string): void {
  const alter = (draft: Draft<Report>) => {
    const page = draft.pages.find(({ id }) => id === pageId);
    if (page) recipe(page);
  };
  useReport.getState().run(name, alter, session);
}

/** So many figures stand on a new page. */
const FIRST_FIGURES = 6;

/** A page of that title behind the others, with the report's first figures. Gives its id. */
export function addPage(): string {
  const report = useReport.getState().report!;
  const taken = new Set(report.pages.map(({ id }) => id));
  let n = taken.size + 1;
  while (taken.has(`p${n}`)) n++;
  const id = `p${n}`;
  // Two by two; a last one alone has the row for itself.
  const figures = report.figures.slice(0, FIRST_FIGURES);
  const rows: PageRow[] = [];
  for (let i = 0; i < figures.length; i += 2) {
    const pair = figures.slice(i, i + 2);
    rows.push({ blocks: pair.map((figure) => ({ figure: figure.id, share: WHOLE / pair.length })) });
  }
  const page: Page = { id, title: report.name, filters: [], rows };
  useReport.getState().run('new page', (draft) => void draft.pages.push(page as Draft<Page>));
  return id;
}

export function removePage(pageId: string): void {
  useReport
    .getState()
    .run('remove the page', (draft) => void (draft.pages = draft.pages.filter(({ id }) => id !== pageId)));
}

export function setTitle(pageId: string, title: string, session: string): void {
  change('change the page’s title', pageId, (page) => void (page.title = title), session);
}

export function setFilters(pageId: string, filters: readonly PageFilter[], period: boolean): void {
  change('change the reader’s filters', pageId, (page) => {
    page.filters = [...filters];
    if (period) page.period = true;
    else delete page.period;
  });
}

/** Puts something on the page: into the last row where it has room, else into a row of its own. */
export function addBlock(pageId: string, name: string, block: PageBlock, own = false): void {
  change(name, pageId, (page) => place(page, block, own));
}

function place(page: Draft<Page>, block: PageBlock, own = false): void {
  const last = page.rows[page.rows.length - 1];
  const used = last && 'blocks' in last ? last.blocks.reduce((sum, { share }) => sum + share, 0) : WHOLE;
  const put = block as Draft<PageBlock>;
  if (!own && last && 'blocks' in last && last.blocks.length < MOST_BLOCKS && used + LEAST_SHARE <= WHOLE)
    last.blocks.push({ ...put, share: Math.min(block.share, WHOLE - used) });
  else page.rows.push({ blocks: [put] });
}

export function addHead(pageId: string): void {
  change('new heading', pageId, (page) => void page.rows.push({ head: 'Section' }));
}

export function moveRow(pageId: string, from: number, to: number): void {
  change('move a row', pageId, (page) => void (page.rows = arrayMove(page.rows, from, to)));
}

export function removeRow(pageId: string, row: number): void {
  change('take a row off the page', pageId, (page) => void page.rows.splice(row, 1));
}

export function setHead(pageId: string, row: number, head: string, session: string): void {
  const alter = (page: Draft<Page>) => {
    const at = page.rows[row];
    if (at && 'head' in at) at.head = head;
  };
  change('change a heading', pageId, alter, session);
}

/** Pixels of a row; null lets it be as high as its figures need. */
export function setHeight(pageId: string, row: number, height: number | null): void {
  change('change a row’s height', pageId, (page) => {
    const at = page.rows[row];
    if (!at || !('blocks' in at)) return;
    if (height === null) delete at.height;
    else at.height = height;
  });
}

function changeBlocks(
  name: string,
  pageId: string,
  row: number,
  recipe: (blocks: Draft<PageBlock>[]) => void,
  session?: string,
): void {
  const alter = (page: Draft<Page>) => {
    const at = page.rows[row];
    if (at && 'blocks' in at) recipe(at.blocks);
  };
  change(name, pageId, alter, session);
}

/** Makes a block wider or narrower; its right neighbour, or else its left one, gives or takes where the row is full. */
export function widen(pageId: string, row: number, block: number, by: number): void {
  changeBlocks('change a width', pageId, row, (blocks) => {
    const used = blocks.reduce((sum, { share }) => sum + share, 0);
    const mine = blocks[block]!;
    const next = Math.min(WHOLE, Math.max(LEAST_SHARE, mine.share + by));
    const over = used - mine.share + next - WHOLE;
    if (over > 0) {
      const other = blocks[block + 1] ?? blocks[block - 1];
      if (!other || other.share - over < LEAST_SHARE) return;
      other.share -= over;
    }
    mine.share = next;
  });
}

/** Moves a block one place in reading order: within its row, or into the row before or after, where there is room. */
export function moveBlock(pageId: string, row: number, block: number, by: -1 | 1): void {
  change('move a block', pageId, (page) => {
    const from = page.rows[row];
    if (!from || !('blocks' in from)) return;
    if (from.blocks[block + by]) {
      from.blocks = arrayMove(from.blocks, block, block + by);
      return;
    }
    const [moved] = from.blocks.splice(block, 1);
    const to = page.rows[row + by];
    const used = to && 'blocks' in to ? to.blocks.reduce((sum, { share }) => sum + share, 0) : WHOLE;
    if (to && 'blocks' in to && to.blocks.length < MOST_BLOCKS && WHOLE - used >= LEAST_SHARE) {
      const fitted = { ...moved!, share: Math.min(moved!.share, WHOLE - used) };
      if (by > 0) to.blocks.unshift(fitted);
      else to.blocks.push(fitted);
      if (from.blocks.length === 0) page.rows.splice(row, 1);
    } else {
      page.rows.splice(by > 0 ? row + 1 : row, 0, { blocks: [moved!] });
      if (from.blocks.length === 0) page.rows.splice(by > 0 ? row : row + 1, 1);
    }
  });
}

/** Puts a block where another one stands, which makes way; where the row grows too full, its blocks share it evenly. */
export function moveBlockTo(
  pageId: string,
  from: readonly [row: number, block: number],
  to: readonly [row: number, block: number],
): void {
  change('move a block', pageId, (page) => {
    const source = page.rows[from[0]];
    const target = page.rows[to[0]];
    if (!source || !target || !('blocks' in source) || !('blocks' in target)) return;
    if (source === target) {
      source.blocks = arrayMove(source.blocks, from[1], to[1]);
      return;
    }
    if (target.blocks.length >= MOST_BLOCKS) return;
    const [moved] = source.blocks.splice(from[1], 1);
    target.blocks.splice(to[1], 0, moved!);
    const used = target.blocks.reduce((sum, { share }) => sum + share, 0);
    if (used > WHOLE) for (const block of target.blocks) block.share = Math.floor(WHOLE / target.blocks.length);
    if (source.blocks.length === 0) page.rows.splice(from[0], 1);
  });
}

export function removeBlock(pageId: string, row: number, block: number): void {
  change('take a block off the page', pageId, (page) => {
    const at = page.rows[row];
    if (!at || !('blocks' in at)) return;
    at.blocks.splice(block, 1);
    if (at.blocks.length === 0) page.rows.splice(row, 1);
  });
}

/** Puts a finding on the page: into the text that tells of its figure, or as a text of its own. */
export function takeFinding(
  pageId: string,
  { figure, claim, template }: { figure: string; claim: Claim; template: string },
): void {
  change('put a finding on the page', pageId, (page) => {
    const text = `${template}.`;
    const claimed: Claimed = { ...claim, text };
    for (const row of page.rows)
      for (const block of 'blocks' in row ? row.blocks : [])
        if ('text' in block && block.about === figure) {
          block.text = `${block.text}\n- ${text}`;
          block.claims = [...(block.claims ?? []), claimed];
          return;
        }
    place(page, { text, about: figure, claims: [claimed], share: 4 });
  });
}

/** A suggestion that is not made again. */
export function dismissFinding(pageId: string, figure: string, kind: Claim['kind']): void {
  change('dismiss a finding', pageId, (page) => void (page.dismissed = [...(page.dismissed ?? []), { figure, kind }]));
}

/** What a text says, and whose values it tells. */
export function setText(
  pageId: string,
  row: number,
  block: number,
  text: string,
  about: string | null,
  session?: string,
): void {
  const alter = (blocks: Draft<PageBlock>[]) => {
    const { share, ...before } = blocks[block]!;
    // What is edited still claims what it did, as long as it tells of the same figure.
    const claims = 'claims' in before && before.about === about ? before.claims : undefined;
    blocks[block] = { text, ...(about === null ? {} : { about }), ...(claims ? { claims } : {}), share };
  };
  changeBlocks('change a text', pageId, row, alter, session);
}
