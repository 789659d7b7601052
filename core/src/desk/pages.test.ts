import { expect, test } from 'vitest';
import { drawPage, pageNamed, PAGE_WIDTH } from '../page';
import { received } from '../problem';
import { openDesk, pageAs, type Desk } from '.';
import { asked, CHOICE, desk, first, FONTS, report } from './desk.fixture';

test('what a reader may choose first is made ready step by step, and changes nothing', async () => {
  const [page] = report.pages;
  const figures = page!.rows.flatMap((row) =>
    'blocks' in row ? row.blocks.flatMap((block) => ('figure' in block ? [block.figure] : [])) : [],
  );
  const { fields } = received(await asked('reader')(report, page!.id));
  const { field, members } = fields[0]!;
  const chosen = { ...CHOICE, only: { [field]: [members[0]!] } };
  const fresh = openDesk(desk.read);
  const marksOf = async (one: Desk) =>
    received(await one.asked.page(report, page!.id, 1000, chosen)).blocks.map(({ marks }) => marks);
  // All figures for some members of each filter; it ends by itself.
  const most = new Set(figures).size * fields.reduce((sum, { members }) => sum + members.length, 0);
  let steps = 1;
  while (received(await asked('prepare')(report, page!.id, steps - 1))) expect(++steps).toBeLessThanOrEqual(most);
  expect(steps).toBeGreaterThan(new Set(figures).size);
  expect(received(await asked('prepare')(report, page!.id, steps))).toBe(false);
  expect(await marksOf(desk)).toEqual(await marksOf(fresh));
  // What cannot be drawn is told to whoever chooses it, not here.
  const broken = { ...report, figures: report.figures.map((one) => ({ ...one, brief: 'net sales by territry' })) };
  expect(received(await asked('prepare')(broken, page!.id, 0))).toBe(true);
});

test('pages as shown, and as files', async () => {
  const [page] = report.pages;
  const shown = received(await asked('page')(report, page!.id, 1000, CHOICE));
  const drawn = await drawPage(desk.of(report), pageNamed(report, page!.id), { width: 1000 });
  expect(shown.blocks.map(({ kind, width, height }) => [kind, width, height])).toEqual(
    drawn.placed.map(({ kind, scene }) => [kind, scene.width, scene.height]),
  );
  const offers = received(await asked('reader')(report, page!.id));
  expect(offers.fields.map(({ field }) => field)).toEqual(page!.filters.map(({ field }) => field));
  const suggestions = received(await asked('suggestions')(report, page!.id));
  expect(suggestions.length).toBeGreaterThan(0);
  const one = suggestions[0]!;
  const { report: taken } = received(await asked('edited')(report, { edit: 'take-finding', page: page!.id, ...one }));
  const left = received(await asked('suggestions')(taken, page!.id));
  expect(left.map(({ claim }) => claim)).not.toContainEqual(one.claim);
});

test('a page as a file of each kind: the same from elsewhere as here, and what it lacks is told', async () => {
  const [page] = report.pages;
  const asks: string[] = [];
  const means = {
    embedded: async () => (asks.push('embedded'), {}),
    program: async () => (asks.push('program'), { packed: 'x', hash: 'y', fonts: { 400: 'z' } }),
    fonts: async () => (asks.push('fonts'), FONTS),
    raster: async () => (asks.push('raster'), new Uint8Array([1, 2, 3])),
  };
  const { embedded, program, fonts, raster } = means;
  const begins = { svg: '<svg ', html: '<!doctype html>', pdf: '%PDF-', pptx: 'PK', xlsx: 'PK' };
  const needs = {
    svg: ['fonts'],
    // Its program has the letters of this page.
    html: ['program'],
    pdf: ['fonts'],
    pptx: ['fonts', 'raster'],
    xlsx: [],
  };
  for (const as of ['svg', 'html', 'pdf', 'pptx', 'xlsx'] as const) {
    const wish = { as, width: PAGE_WIDTH, choice: CHOICE, paper: null };
    asks.length = 0;
    const { content, told } = await pageAs(desk.of(report), page!.id, wish, means);
    expect([as, [...new Set(asks)].sort()]).toEqual([as, [...needs[as]].sort()]);
    expect([as, told]).toEqual([as, []]);
    const start = typeof content === 'string' ? content : new TextDecoder('latin1').decode(content.slice(0, 20));
    expect([as, start.startsWith(begins[as])]).toEqual([as, true]);
    const sent = await asked('pageFile')(report, page!.id, wish, embedded, program, fonts, raster);
    expect(received(sent).content).toEqual(content);
  }
  const alone = { as: 'html', width: PAGE_WIDTH, choice: null, paper: null } as const;
  const without = await pageAs(desk.of(report), page!.id, alone, { ...means, program: async () => null });
  expect(without.told).toEqual([expect.stringContaining('its reader cannot choose')]);
  // What was picked with a pointer is chosen in a file that its reader changes.
  const picked = { figure: 'f1', field: 'territory', member: 'Alder Coast' };
  const narrowed = await pageAs(desk.of(report), page!.id, { ...alone, choice: { ...CHOICE, picked } }, means);
  expect(narrowed.content).toContain('"only":{"territory":["Alder Coast"]}');
});

test('a figure that cannot be drawn is told of the page’s file', async () => {
  const figures = report.figures.map((one) => ({ ...one, brief: 'net sales by nothing' }));
  const wish = { as: 'svg', width: 900, choice: null, paper: null } as const;
  const { told } = await pageAs(desk.of({ ...report, figures }), report.pages[0]!.id, wish, {
    fonts: async () => FONTS,
  });
  expect(told.length).toBeGreaterThan(0);
  for (const one of told) expect(one).toContain('no field “nothing”');
});

test('a page says where a press leads, and its rests are nobody to be picked', async () => {
  const kept = {
    ...first,
    brief: 'net sales by territory during fiscal 2026 to date as bars keep 3 highest and the rest',
  };
  const now = { ...report, figures: [kept, ...report.figures.slice(1)] };
  const shown = received(await asked('page')(now, report.pages[0]!.id, 1160, CHOICE));
  const { spots } = shown.blocks.find(({ figure }) => figure === first.id)!;
  expect(spots.map(({ key }) => Object.keys(key).length)).toEqual([1, 1, 1, 0]);
  expect(spots.map(({ words }) => words.endsWith('press to see it by rep'))).toEqual([true, true, true, false]);
});
