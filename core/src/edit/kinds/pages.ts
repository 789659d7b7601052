import type { Claimed, PageBlock } from '../../report';
import type { EditKinds, ReportDraft } from '../edit';
import { addTo, PAGE } from './lists';

/** Twelfths of a row. */
export const FULL_ROW = 12;
export const LEAST_SHARE = 2;
const MOST_BLOCKS = 4;

type PageDraft = ReportDraft['pages'][number];
type BlockDraft = Extract<PageDraft['rows'][number], { blocks: unknown }>['blocks'][number];

/** Edits of pages. */
export const pages: EditKinds<
  | 'add-page'
  | 'remove-page'
  | 'set-title'
  | 'set-filters'
  | 'add-head'
  | 'set-head'
  | 'move-row'
  | 'remove-row'
  | 'set-height'
  | 'add-block'
  | 'remove-block'
  | 'widen-block'
  | 'step-block'
  | 'move-block'
  | 'swap-blocks'
  | 'set-text'
  | 'take-finding'
  | 'dismiss-finding'
  | 'drop-claim'
> = {
  'add-page': {
    say: () => 'new page',
    apply: (draft, { page }) => {
      addTo(draft.pages, page, PAGE);
    },
  },

  'remove-page': {
    say: () => 'remove the page',
    apply: (draft, { page }) => {
      draft.pages = draft.pages.filter(({ id }) => id !== page);
    },
  },

  'set-title': {
    say: () => 'change the page’s title',
    apply: (draft, { page, title }) => {
      const one = pageOf(draft, page);
      if (one) one.title = title;
    },
  },

  'set-filters': {
    say: () => 'change the reader’s filters',
    apply: (draft, { page, filters, period }) => {
      const one = pageOf(draft, page);
      if (!one) return;
      one.filters = structuredClone(filters) as PageDraft['filters'];
      if (period) one.period = true;
      else delete one.period;
    },
  },

  'add-head': {
    say: () => 'new heading',
    apply: (draft, { page, head }) => {
      pageOf(draft, page)?.rows.push({ head });
    },
  },

  'set-head': {
    say: () => 'change a heading',
    apply: (draft, { page, row, head }) => {
      const at = pageOf(draft, page)?.rows[row];
      if (at && 'head' in at) at.head = head;
    },
  },

  'move-row': {
    say: () => 'move a row',
    apply: (draft, { page, from, to }) => {
      const rows = pageOf(draft, page)?.rows;
      if (rows) moveIn(rows, from, to);
    },
  },

  'remove-row': {
    say: () => 'take a row off the page',
    apply: (draft, { page, row }) => {
      const rows = pageOf(draft, page)?.rows;
      if (rows?.[row]) rows.splice(row, 1);
    },
  },

  'set-height': {
    say: () => 'change a row’s height',
    apply: (draft, { page, row, height }) => {
      const at = pageOf(draft, page)?.rows[row];
      if (!at || !('blocks' in at)) return;
      if (height === null) delete at.height;
      else at.height = height;
    },
  },

  'add-block': {
    say: ({ block }) => ('text' in block ? 'new text' : 'put a figure on the page'),
    apply: (draft, { page, block, own, at }) => {
      const one = pageOf(draft, page);
      if (!one || ('figure' in block && !hasFigure(draft, block.figure))) return;
      const row = at && blocksOf(draft, page, at[0]);
      if (at && row) {
        const put = structuredClone(block) as BlockDraft;
        if (row.length >= MOST_BLOCKS) one.rows.splice(at[0], 0, { blocks: [put] });
        else {
          row.splice(at[1], 0, put);
          evenOut(row);
        }
        return;
      }
      place(one, block, own === true);
    },
  },

  'remove-block': {
    say: () => 'take a block off the page',
    apply: (draft, { page, at: [row, block] }) => {
      const rows = pageOf(draft, page)?.rows;
      const blocks = blocksOf(draft, page, row);
      if (!rows || !blocks?.[block]) return;
      blocks.splice(block, 1);
      if (blocks.length === 0) rows.splice(row, 1);
    },
  },

  'widen-block': {
    say: () => 'change a width',
    apply: (draft, { page, at: [row, block], by }) => {
      const blocks = blocksOf(draft, page, row);
      const mine = blocks?.[block];
      if (!blocks || !mine) return;
      const next = Math.min(FULL_ROW, Math.max(LEAST_SHARE, mine.share + by));
      const over = usedBy(blocks) - mine.share + next - FULL_ROW;
      if (over > 0) {
        const other = blocks[block + 1] ?? blocks[block - 1];
        if (!other || other.share - over < LEAST_SHARE) return;
        other.share -= over;
      }
      mine.share = next;
    },
  },

  'step-block': {
    say: () => 'move a block',
    apply: (draft, { page, at: [row, block], by }) => {
      const one = pageOf(draft, page);
      const from = blocksOf(draft, page, row);
      if (!one || !from?.[block]) return;
      if (from[block + by]) return moveIn(from, block, block + by);
      const [moved] = from.splice(block, 1);
      const to = one.rows[row + by];
      const used = to && 'blocks' in to ? usedBy(to.blocks) : FULL_ROW;
      if (to && 'blocks' in to && to.blocks.length < MOST_BLOCKS && FULL_ROW - used >= LEAST_SHARE) {
        const fitted = { ...moved!, share: Math.min(moved!.share, FULL_ROW - used) };
        if (by > 0) to.blocks.unshift(fitted);
        else to.blocks.push(fitted);
        if (from.length === 0) one.rows.splice(row, 1);
      } else if (from.length === 0) {
        // One that has its row for itself passes the next as a whole.
        from.push(moved!);
        moveIn(one.rows, row, row + by);
      } else one.rows.splice(by > 0 ? row + 1 : row, 0, { blocks: [moved!] });
    },
  },

  'move-block': {
    say: () => 'move a block',
    apply: (draft, { page, from, to }) => {
      const one = pageOf(draft, page);
      const source = blocksOf(draft, page, from[0]);
      const target = blocksOf(draft, page, to[0]);
      if (!one || !source?.[from[1]] || !target) return;
      if (from[0] === to[0]) return moveIn(source, from[1], to[1]);
      if (target.length >= MOST_BLOCKS) return;
      const [moved] = source.splice(from[1], 1);
      target.splice(to[1], 0, moved!);
      evenOut(target);
      if (source.length === 0) one.rows.splice(from[0], 1);
    },
  },

  'swap-blocks': {
    say: () => 'change two places',
    apply: (draft, { page, from, to }) => {
      const [source, target] = [blocksOf(draft, page, from[0]), blocksOf(draft, page, to[0])];
      const [one, other] = [source?.[from[1]], target?.[to[1]]];
      if (!source || !target || !one || !other || one === other) return;
      source[from[1]] = { ...other, share: one.share };
      target[to[1]] = { ...one, share: other.share };
    },
  },

  'set-text': {
    say: () => 'change a text',
    apply: (draft, { page, at: [row, block], text, about }) => {
      const one = blocksOf(draft, page, row)?.[block];
      if (!one || !('text' in one)) return;
      one.text = text;
      // What is edited still claims what it did, as long as it tells of the same figure.
      const told = about !== null && hasFigure(draft, about) ? about : undefined;
      if (one.about !== told) delete one.claims;
      if (told === undefined) delete one.about;
      else if (one.about !== told) one.about = told;
    },
  },

  'take-finding': {
    say: () => 'put a finding on the page',
    apply: (draft, { page, figure, claim, template }) => {
      const one = pageOf(draft, page);
      if (!one || !hasFigure(draft, figure)) return;
      const text = `${template}.`;
      const claimed: Claimed = { ...claim, text };
      // Into the text that tells of its figure, or as a text of its own.
      for (const row of one.rows)
        for (const block of 'blocks' in row ? row.blocks : [])
          if ('text' in block && block.about === figure) {
            block.text = `${block.text}\n- ${text}`;
            block.claims = [...(block.claims ?? []), claimed];
            return;
          }
      place(one, { text, about: figure, claims: [claimed], share: 4 }, false);
    },
  },

  'dismiss-finding': {
    say: () => 'dismiss a finding',
    apply: (draft, { page, figure, kind }) => {
      const one = pageOf(draft, page);
      if (one && hasFigure(draft, figure)) one.dismissed = [...(one.dismissed ?? []), { figure, kind }];
    },
  },

  'drop-claim': {
    say: () => 'take a finding off the page',
    apply: (draft, { page, claim }) => {
      const inOrder = (one: object) => JSON.stringify(Object.entries(one).sort());
      const isSame = (one: object) => inOrder(one) === inOrder(claim);
      for (const row of pageOf(draft, page)?.rows ?? [])
        for (const block of 'blocks' in row ? row.blocks : []) {
          if (!('text' in block) || !block.claims?.some(isSame)) continue;
          block.text = block.text
            .split('\n')
            .filter((line) => line.replace(/^\s*[-–•]\s+/, '') !== claim.text)
            .join('\n');
          const left = block.claims.filter((one) => !isSame(one));
          if (left.length > 0) block.claims = left;
          else delete block.claims;
        }
    },
  },
};

function pageOf(draft: ReportDraft, page: string): PageDraft | undefined {
  return draft.pages.find(({ id }) => id === page);
}

function blocksOf(draft: ReportDraft, page: string, row: number): BlockDraft[] | undefined {
  const at = pageOf(draft, page)?.rows[row];
  return at && 'blocks' in at ? at.blocks : undefined;
}

const hasFigure = (draft: ReportDraft, figure: string) => draft.figures.some(({ id }) => id === figure);

const usedBy = (blocks: readonly { readonly share: number }[]) => blocks.reduce((sum, { share }) => sum + share, 0);

/** Where a row has grown too full, its blocks share it evenly. */
function evenOut(blocks: BlockDraft[]): void {
  if (usedBy(blocks) > FULL_ROW) for (const block of blocks) block.share = Math.floor(FULL_ROW / blocks.length);
}

function moveIn<T>(list: T[], from: number, to: number): void {
  if (!(from in list) || !(to in list) || from === to) return;
  const [moved] = list.splice(from, 1);
  list.splice(to, 0, moved!);
}

/** Puts something on the page: into the last row where it has room, else into a row of its own. */
function place(page: PageDraft, block: PageBlock, own: boolean): void {
  const last = page.rows.at(-1);
  const used = last && 'blocks' in last ? usedBy(last.blocks) : FULL_ROW;
  const put = structuredClone(block) as BlockDraft;
  if (!own && last && 'blocks' in last && last.blocks.length < MOST_BLOCKS && used + LEAST_SHARE <= FULL_ROW)
    last.blocks.push({ ...put, share: Math.min(block.share, FULL_ROW - used) });
  else page.rows.push({ blocks: [put] });
}
