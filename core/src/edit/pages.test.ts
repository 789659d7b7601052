import { describe, expect, test } from 'vitest';
import { checkReport, type Claimed, type PageBlock, type PageRow, type Report } from '../report';
import { editedPlain, LEAST_SHARE, FULL_ROW, type Edit, type PlainEdit } from '.';

// What edits of pages do with rows and blocks.

const figure = (id: string, share = 6): PageBlock => ({ figure: id, share });
const row = (...blocks: PageBlock[]): PageRow => ({ blocks });
const withRows = (...rows: PageRow[]): Report =>
  checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    figures: ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id, brief: 'net' })),
    pages: [{ id: 'p', title: 'Page', rows: structuredClone(rows) as object[] }],
  });
const rowsAfter = (report: Report, edit: Edit<PlainEdit>) => editedPlain(report, edit).report.pages[0]!.rows;
/** Rows in short: `a6 b6` is a row of two halves. */
const short = (rows: readonly PageRow[]) =>
  rows.map((one) =>
    'head' in one
      ? `# ${one.head}`
      : one.blocks.map((block) => `${'figure' in block ? block.figure : 'text'}${block.share}`).join(' '),
  );
const after = (report: Report, edit: Edit<PlainEdit>) => short(rowsAfter(report, edit));

describe('a block that is put on the page', () => {
  test('goes into the last row where there is room, no wider than that', () => {
    const report = withRows(row(figure('a', 8)));
    expect(after(report, { edit: 'add-block', page: 'p', block: figure('b', 6) })).toEqual(['a8 b4']);
    expect(after(report, { edit: 'add-block', page: 'p', block: figure('b', 6), own: true })).toEqual(['a8', 'b6']);
  });
  test('has a row of its own where the last is full, holds four, or is a heading', () => {
    const add: Edit<PlainEdit> = { edit: 'add-block', page: 'p', block: figure('e', 6) };
    expect(after(withRows(row(figure('a'), figure('b'))), add)).toEqual(['a6 b6', 'e6']);
    expect(after(withRows(row(figure('a', 11))), add)).toEqual(['a11', 'e6']);
    const four = row(...['a', 'b', 'c', 'd'].map((id) => figure(id, 2)));
    expect(after(withRows(four), add)).toEqual(['a2 b2 c2 d2', 'e6']);
    expect(after(withRows({ head: 'Section' }), add)).toEqual(['# Section', 'e6']);
    expect(after(withRows(), add)).toEqual(['e6']);
  });
  test('of a figure that is not there is none', () => {
    expect(after(withRows(), { edit: 'add-block', page: 'p', block: figure('gone') })).toEqual([]);
  });
});

describe('a block that is made wider', () => {
  const two = withRows(row(figure('a'), figure('b')));
  const widen = (report: Report, block: number, by: number) =>
    after(report, { edit: 'widen-block', page: 'p', at: [0, block], by });

  test('takes what is free, and in a full row from its right neighbour, or else its left one', () => {
    expect(widen(withRows(row(figure('a', 4), figure('b', 4))), 0, 2)).toEqual(['a6 b4']);
    expect(widen(two, 0, 2)).toEqual(['a8 b4']);
    expect(widen(two, 1, 2)).toEqual(['a4 b8']);
  });
  test('leaves its neighbour what it needs, and keeps it for itself', () => {
    expect(widen(two, 0, 5)).toEqual(['a6 b6']);
    expect(widen(two, 0, 4)).toEqual([`a${FULL_ROW - LEAST_SHARE} b${LEAST_SHARE}`]);
    expect(widen(two, 0, -20)).toEqual([`a${LEAST_SHARE} b6`]);
    expect(widen(withRows(row(figure('a', 12))), 0, 4)).toEqual(['a12']);
    expect(widen(two, 7, 1)).toEqual(['a6 b6']);
  });
});

describe('a block that is moved', () => {
  const page = withRows(row(figure('a'), figure('b')), row(figure('c', 4)), row(figure('d', 12)));
  const step = (block: readonly [number, number], by: -1 | 1) =>
    after(page, { edit: 'step-block', page: 'p', at: block, by });

  test('one place goes within its row, into the next with room, or into one of its own', () => {
    expect(step([0, 0], 1)).toEqual(['b6 a6', 'c4', 'd12']);
    expect(step([0, 1], 1)).toEqual(['a6', 'b6 c4', 'd12']);
    expect(step([1, 0], 1)).toEqual(['a6 b6', 'd12', 'c4']);
    expect(step([1, 0], -1)).toEqual(['c4', 'a6 b6', 'd12']);
    expect(step([2, 0], -1)).toEqual(['a6 b6', 'c4 d8']);
    expect(step([0, 0], -1)).toEqual(['a6', 'b6', 'c4', 'd12']);
  });
  test('to where another one stands pushes that aside; a row that grows too full is shared evenly', () => {
    const move = (from: readonly [number, number], to: readonly [number, number]) =>
      after(page, { edit: 'move-block', page: 'p', from, to });
    expect(move([0, 0], [0, 1])).toEqual(['b6 a6', 'c4', 'd12']);
    expect(move([2, 0], [0, 1])).toEqual(['a4 d4 b4', 'c4']);
    expect(move([1, 0], [2, 0])).toEqual(['a6 b6', 'c6 d6']);
    expect(move([9, 0], [0, 0])).toEqual(['a6 b6', 'c4', 'd12']);
    expect(move([0, 0], [9, 0])).toEqual(['a6 b6', 'c4', 'd12']);
  });
  test('changes places with another, and back again; widths stay where they are', () => {
    const swap = (from: readonly [number, number], to: readonly [number, number]) =>
      after(page, { edit: 'swap-blocks', page: 'p', from, to });
    expect(swap([0, 1], [2, 0])).toEqual(['a6 d6', 'c4', 'b12']);
    expect(swap([0, 0], [0, 1])).toEqual(['b6 a6', 'c4', 'd12']);
    expect(swap([0, 0], [0, 0])).toEqual(['a6 b6', 'c4', 'd12']);
    expect(swap([0, 0], [1, 7])).toEqual(['a6 b6', 'c4', 'd12']);
  });
  test('is put before another, in its row, or above a row that has four', () => {
    const put = (report: typeof page, at: readonly [number, number]) =>
      after(report, { edit: 'add-block', page: 'p', block: { figure: 'a', share: 4 }, at });
    expect(put(page, [1, 0])).toEqual(['a6 b6', 'a4 c4', 'd12']);
    expect(put(page, [0, 2])).toEqual(['a4 b4 a4', 'c4', 'd12']);
    const full = withRows(row(...['a', 'b', 'c', 'd'].map((id) => figure(id, 3))));
    expect(put(full, [0, 1])).toEqual(['a4', 'a3 b3 c3 d3']);
  });
  test('not into a row that has four', () => {
    const full = withRows(row(...['a', 'b', 'c', 'd'].map((id) => figure(id, 3))), row(figure('e', 6)));
    const rows = ['a3 b3 c3 d3', 'e6'];
    expect(after(full, { edit: 'move-block', page: 'p', from: [1, 0], to: [0, 0] })).toEqual(rows);
    expect(after(full, { edit: 'step-block', page: 'p', at: [1, 0], by: -1 })).toEqual(['e6', 'a3 b3 c3 d3']);
  });
});

describe('rows', () => {
  const page = withRows({ head: 'One' }, row(figure('a')), { head: 'Two' });
  test('are moved, taken away, and made as high as is wished', () => {
    expect(after(page, { edit: 'move-row', page: 'p', from: 0, to: 2 })).toEqual(['a6', '# Two', '# One']);
    expect(after(page, { edit: 'move-row', page: 'p', from: 0, to: 9 })).toEqual(['# One', 'a6', '# Two']);
    expect(after(page, { edit: 'remove-row', page: 'p', row: 0 })).toEqual(['a6', '# Two']);
    const high = editedPlain(page, { edit: 'set-height', page: 'p', row: 1, height: 240 }).report;
    expect(high.pages[0]!.rows[1]).toMatchObject({ height: 240 });
    expect(rowsAfter(high, { edit: 'set-height', page: 'p', row: 1, height: null })).toEqual(page.pages[0]!.rows);
    expect(rowsAfter(page, { edit: 'set-height', page: 'p', row: 0, height: 240 })).toEqual(page.pages[0]!.rows);
  });
  test('without blocks go with their last one', () => {
    expect(after(page, { edit: 'remove-block', page: 'p', at: [1, 0] })).toEqual(['# One', '# Two']);
    expect(after(page, { edit: 'remove-block', page: 'p', at: [0, 0] })).toEqual(['# One', 'a6', '# Two']);
  });
  test('heads are written, and no row of blocks becomes one', () => {
    expect(after(page, { edit: 'set-head', page: 'p', row: 2, head: 'Three' })).toEqual(['# One', 'a6', '# Three']);
    expect(after(page, { edit: 'set-head', page: 'p', row: 1, head: 'Three' })).toEqual(['# One', 'a6', '# Two']);
    expect(after(page, { edit: 'add-head', page: 'p', head: 'Last' })).toEqual(['# One', 'a6', '# Two', '# Last']);
  });
});

describe('what figures say', () => {
  const claim = { kind: 'extreme member' as const, member: 'Alder' };
  const claimed: Claimed = { ...claim, text: 'Alder leads.' };
  const take: Edit<PlainEdit> = { edit: 'take-finding', page: 'p', figure: 'a', claim, template: 'Alder leads' };

  test('is taken into the text that tells of the figure, or as a text of its own', () => {
    expect(rowsAfter(withRows(row(figure('a', 8))), take)[0]).toEqual({
      blocks: [figure('a', 8), { text: 'Alder leads.', about: 'a', claims: [claimed], share: 4 }],
    });
    const told = withRows(row({ text: 'So it is.', about: 'a', share: 4 }));
    expect(rowsAfter(told, take)[0]).toEqual({
      blocks: [{ text: 'So it is.\n- Alder leads.', about: 'a', claims: [claimed], share: 4 }],
    });
    expect(rowsAfter(withRows(), { ...take, figure: 'gone' })).toEqual([]);
  });
  test('goes again with its sentence, where that stands as it was taken', () => {
    const drop: Edit<PlainEdit> = { edit: 'drop-claim', page: 'p', claim: claimed };
    const as = (text: string) => withRows(row({ text, about: 'a', claims: [claimed], share: 4 }));
    expect(rowsAfter(as('First.\n- Alder leads.\nLast.'), drop)[0]).toEqual({
      blocks: [{ text: 'First.\nLast.', about: 'a', share: 4 }],
    });
    expect(rowsAfter(as('Alder leads, as ever.'), drop)[0]).toEqual({
      blocks: [{ text: 'Alder leads, as ever.', about: 'a', share: 4 }],
    });
  });
  test('is still claimed by a text that is edited, as long as it tells of the same figure', () => {
    const report = withRows(row({ text: 'Alder leads.', about: 'a', claims: [claimed], share: 4 }));
    const edit = (about: string | null) =>
      rowsAfter(report, { edit: 'set-text', page: 'p', at: [0, 0], text: 'Alder!', about })[0];
    expect(edit('a')).toEqual({ blocks: [{ text: 'Alder!', about: 'a', claims: [claimed], share: 4 }] });
    expect(edit('b')).toEqual({ blocks: [{ text: 'Alder!', about: 'b', share: 4 }] });
    expect(edit(null)).toEqual({ blocks: [{ text: 'Alder!', share: 4 }] });
  });
});
