import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { resolvePeriod, type FiscalCalendar } from '../calendar';
import { dayOf } from '../calendar';
import { readCsv } from '../reading';
import { checkReport, type Page, type Report } from '../report';
import { makeTable } from '../table';
import { workspaceFor, type OpenReport } from '../workspace';
import { placedBlocks, drawPage, narrowed, NOTHING_CHOSEN, offeredPeriods, writePage, type Reader } from '.';
import { tries } from '../proof/tries.fixture';

const LINES = [
  'day,shop,channel,net',
  '2025-09-05,North,Schools,100',
  '2025-10-05,South,Web,300',
  '2026-01-05,North,Web,250',
  '2026-02-05,<b>East</b>,Schools,50',
  '2026-03-05,South,Schools,80',
];

async function deskWith(rows: Page['rows'], more: Partial<Report> = {}): Promise<OpenReport & { page: Page }> {
  const report = checkReport({
    boldRuler: 1,
    name: 'Spring',
    calendar: { fiscalYearStart: 9 },
    tables: [
      { id: 'sales', source: { file: 'sales.csv' }, date: 'day' },
      { id: 'stock', source: { file: 'stock.csv' } },
    ],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)' },
      { name: 'weeks', table: 'stock', expression: 'avg(weeks)' },
    ],
    figures: [
      { id: 'shops', brief: 'net by shop as bars' },
      { id: 'whole', brief: 'net as headline' },
      { id: 'ranks', brief: 'rank of net by shop each month as bump' },
      { id: 'stock', brief: 'weeks by shop as bars' },
      { id: 'broken', brief: 'net by nothing' },
    ],
    pages: [{ id: 'p', title: 'Spring', rows }],
    ...more,
  });
  const sales = makeTable(await readCsv('sales', LINES.join('\n')), { id: 'sales', date: 'day' });
  const stock = makeTable(await readCsv('stock', 'shop,weeks\nNorth,5\nSouth,7'), { id: 'stock' });
  const desk = workspaceFor(
    report,
    new Map([
      ['sales', sales],
      ['stock', stock],
    ]),
  );
  return { ...desk, page: report.pages[0]! };
}

const row = (...figures: string[]) => ({ blocks: figures.map((figure) => ({ figure, share: 12 / figures.length })) });
const texts = (page: Awaited<ReturnType<typeof drawPage>>) =>
  page.placed.map(({ scene }) => scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])).join(' '));
const only = (choice: Partial<Reader>): Reader => ({ ...NOTHING_CHOSEN, ...choice });

describe('the layout of a page', () => {
  test('nothing on a page lies upon anything else, at any width, with given heights or without', async () => {
    const { source, report, vocabulary } = await deskWith([]);
    const block = fc.oneof(
      fc.record({
        figure: fc.constantFrom('shops', 'whole', 'ranks', 'broken', 'gone'),
        share: fc.integer({ min: 2, max: 6 }),
      }),
      fc.record({
        text: fc.constantFrom('', 'Short.', '# Head\n- one\n- two and more of it'),
        share: fc.integer({ min: 2, max: 6 }),
      }),
    );
    const rows = fc.array(
      fc.oneof(
        fc.record({
          head: fc.constantFrom('Shops', 'A heading that goes on for so long that it needs two lines or more'),
        }),
        fc.record(
          { blocks: fc.array(block, { minLength: 1, maxLength: 2 }), height: fc.integer({ min: 120, max: 500 }) },
          { requiredKeys: ['blocks'] },
        ),
      ),
      { maxLength: 4 },
    );
    await fc.assert(
      fc.asyncProperty(rows, fc.integer({ min: 320, max: 1600 }), async (list, width) => {
        const page = { id: 'x', title: 'X', filters: [], rows: list };
        const { placed, height } = await drawPage({ source, report, vocabulary }, page, { width });
        const boxes = placed.map(({ x, y, scene }) => ({ x, y, right: x + scene.width, bottom: y + scene.height }));
        boxes.forEach((a, i) => {
          expect(a.right).toBeLessThanOrEqual(width);
          expect(a.bottom).toBeLessThanOrEqual(height);
          for (const b of boxes.slice(i + 1))
            expect(a.x < b.right && b.x < a.right && a.y < b.bottom && b.y < a.bottom).toBe(false);
        });
      }),
      { numRuns: tries(60) },
    );
  });

  test('a figure that cannot be drawn says why in its place, and the others stand', async () => {
    const { source, report, vocabulary, page } = await deskWith([row('broken', 'whole'), row('gone')]);
    const drawn = await drawPage({ source, report, vocabulary }, page);
    expect(drawn.placed.map(({ kind }) => kind)).toEqual(['title', 'fault', 'figure', 'fault', 'foot']);
    const [, broken, whole, gone] = texts(drawn);
    expect(broken).toContain('nothing');
    expect(whole).toContain('780');
    expect(gone).toContain('there is no figure “gone”');
  });

  test('a figure is drawn for the width it gets, its texts no smaller', async () => {
    const { source, report, vocabulary, page } = await deskWith([row('shops', 'whole')]);
    for (const width of [400, 900, 1400]) {
      const { placed } = await drawPage({ source, report, vocabulary }, page, { width });
      const figure = placed.find(({ figure }) => figure === 'shops')!;
      expect(figure.scene.width).toBeCloseTo(placedBlocks(row('shops', 'whole').blocks, width).columns[0]!.width, 6);
      for (const mark of figure.scene.marks) if (mark.shape === 'text') expect(mark.size).toBeGreaterThanOrEqual(11);
    }
  });

  test('texts keep their values when the rows change', async () => {
    const rows = [{ blocks: [{ text: 'Net is {actual}; {leader} leads.', about: 'shops', share: 12 }] }];
    const { source, report, vocabulary, page } = await deskWith(rows);
    expect(texts(await drawPage({ source, report, vocabulary }, page))[1]).toBe('Net is 780; South leads.');
    const reader = only({ only: { channel: ['Schools'] } });
    expect(texts(await drawPage({ source, report, vocabulary }, page, { reader }))[1]).toBe('Net is 230; North leads.');
  });

  test('under the title stands a period only where all figures have it', async () => {
    const alike = {
      figures: [
        { id: 'shops', brief: 'net by shop during fiscal 2026 as bars' },
        { id: 'whole', brief: 'net during fiscal 2026' },
      ],
    };
    const apart = { figures: [alike.figures[0]!, { id: 'whole', brief: 'net during latest month' }] };
    const under = async (more: object) => {
      const { source, report, vocabulary, page } = await deskWith([row('shops', 'whole')], more as Partial<Report>);
      return texts(await drawPage({ source, report, vocabulary }, page))[0];
    };
    expect(await under(alike)).toBe('Spring Spring · fiscal 2026 · as of 5 Mar 2026');
    expect(await under(apart)).toBe('Spring Spring · as of 5 Mar 2026');
  });

  test('its SVG holds markup from the data as text only', async () => {
    const { source, report, vocabulary, page } = await deskWith([row('shops')]);
    const svg = writePage(await drawPage({ source, report, vocabulary }, page));
    expect(svg).toContain('&lt;b&gt;East&lt;/b&gt;');
    expect(svg).not.toContain('<b>');
    expect(writePage(await drawPage({ source, report, vocabulary }, page))).toBe(svg);
  });
});

describe('what a reader chooses', () => {
  const briefs = (report: Report) => Object.fromEntries(report.figures.map(({ id, brief }) => [id, brief]));

  test('members and periods go into every brief; a table that lacks them is told, and keeps its rows', async () => {
    const { source, report, vocabulary } = await deskWith([]);
    const reader = only({ only: { channel: ['Web'], shop: [] }, period: { kind: 'fiscal', year: 2026 } });
    const { report: now, ignored } = narrowed({ source, report, vocabulary }, reader);
    expect(briefs(now)).toMatchObject({
      shops: 'net by shop during fiscal 2026 as bars, only channel is Web',
      whole: 'net during fiscal 2026 as headline, only channel is Web',
      stock: 'weeks by shop as bars',
      broken: 'net by nothing',
    });
    expect([...ignored]).toEqual([['stock', ['channel', 'period']]]);
    expect(narrowed({ source, report, vocabulary }, NOTHING_CHOSEN).report).toBe(report);
  });

  test('a member that was pressed narrows figures of other fields, and stands out where it is one of many', async () => {
    const { source, report, vocabulary } = await deskWith([]);
    const reader = only({ picked: { figure: 'shops', field: 'shop', member: 'South' } });
    const { report: now } = narrowed({ source, report, vocabulary }, reader);
    expect(briefs(now)).toMatchObject({
      shops: 'net by shop as bars',
      whole: 'net as headline, only shop is South',
      ranks: 'rank of net by shop each month as bump',
    });
    expect(now.figures.find(({ id }) => id === 'ranks')!.look.emphasis).toEqual(['South']);
  });

  test('a member is gone into where a level lies below, and the others are narrowed to all that it lies within', async () => {
    const { source, report, vocabulary } = await deskWith([], {
      hierarchies: [['shop', 'channel', 'color']],
      figures: [
        { id: 'shops', brief: 'net by shop as bars', look: { emphasis: ['South'] } },
        { id: 'channels', brief: 'net by channel as bars', look: {} },
        { id: 'whole', brief: 'net as headline', look: {} },
      ],
    });
    const within = (picked: Reader['picked']) => {
      const { report: now } = narrowed({ source, report, vocabulary }, only({ picked }));
      return { ...briefs(now), look: now.figures[0]!.look };
    };
    const south = { figure: 'shops', field: 'shop', member: 'South' };
    expect(within(south)).toEqual({
      shops: 'net by channel as bars, only shop is South',
      channels: 'net by channel as bars, only shop is South',
      whole: 'net as headline, only shop is South',
      look: {},
    });
    // Nothing is lost where nothing is held against.
    expect([...narrowed({ source, report, vocabulary }, only({ picked: south })).lost]).toEqual([]);
    // Nothing is below a channel, as there is no color: the one that was pressed stands out.
    expect(
      within({ figure: 'shops', field: 'channel', member: 'Web', within: [{ field: 'shop', member: 'South' }] }),
    ).toEqual({
      shops: 'net by channel as bars, only shop is South',
      channels: 'net by channel as bars, only shop is South',
      whole: 'net as headline, only shop is South and channel is Web',
      look: { emphasis: ['Web'] },
    });
  });

  test('a switch turns a rule that was given to the reader, and no other', async () => {
    const rule = (id: string, reader?: true) => ({
      id,
      when: { from: 100 },
      encode: { weight: 'bold' as const },
      on: true,
      ...(reader ? { reader } : {}),
    });
    const { source, report, vocabulary } = await deskWith([], {
      highlights: [{ name: 'large', on: 'value', rules: [rule('given', true), rule('kept')] }],
    });
    const { report: now } = narrowed({ source, report, vocabulary }, only({ switched: ['large/given', 'large/kept'] }));
    expect(now.highlights[0]!.rules.map(({ id, on }) => [id, on])).toEqual([
      ['given', false],
      ['kept', true],
    ]);
  });

  test('periods on offer lie within the data, the newest first', () => {
    const calendar: FiscalCalendar = { fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday' };
    const span = { from: dayOf(2024, 10, 3), to: dayOf(2026, 3, 31) };
    const asOf = dayOf(2026, 3, 18);
    const offered = offeredPeriods(calendar, span, asOf);
    expect(offered.map(({ name }) => name).slice(0, 5)).toEqual([
      'fiscal 2026 to 18 Mar 2026',
      // In a quarter's first month the quarter and the month to date are the same days.
      '1 Mar 2026 – 18 Mar 2026',
      'fiscal 2026',
      'fiscal 2025',
      'Q3 of fiscal 2026',
    ]);
    const days = offered.map(({ words }) => JSON.stringify(resolvePeriod(words, calendar, asOf, span)));
    expect(new Set(offered.map(({ name }) => name)).size).toBe(offered.length);
    expect(new Set(days).size).toBe(days.length);
    const quarters = offered.filter(({ kind }) => kind === 'quarter').map(({ name }) => name);
    expect(quarters[0]).toBe('Q3 of fiscal 2026');
    expect(quarters).toHaveLength(7);
    for (const { words } of offered) {
      const { from, to } = resolvePeriod(words, calendar, asOf, span);
      expect(from <= asOf && to >= span.from).toBe(true);
    }
  });
});

test('figures on one shared ruler that stand above one another have it in one place; others keep theirs', async () => {
  const figures = [
    { id: 'a', brief: 'net by shop against average as bullet, on euros', look: {} },
    { id: 'b', brief: 'net by channel as bars, on euros', look: {} },
    { id: 'c', brief: 'net by channel as bars', look: {} },
  ];
  const rulers = [{ id: 'euros', kind: 'linear', fit: 'zero' }] as const;
  const { source, report, page, vocabulary } = await deskWith([row('a', 'c'), row('b', 'c')], { figures, rulers });
  const drawn = await drawPage({ source, report, vocabulary }, page);
  const rulerOf = (figure: string, at = 0) => drawn.placed.filter((one) => one.figure === figure)[at]!.scene.rulers[0]!;
  expect(rulerOf('b').range).toEqual(rulerOf('a').range);
  expect(rulerOf('b').domain).toEqual(rulerOf('a').domain);
  expect(rulerOf('c').range).not.toEqual(rulerOf('a').range);
  // Bars still are as long as the ruler says.
  const { range, domain } = rulerOf('b');
  for (const { drawn: of, scene } of drawn.placed.filter((one) => one.figure === 'b'))
    for (const mark of scene.marks)
      if (mark.role === 'actual' && mark.shape === 'rect') {
        const share = (mark.value! - domain[0]) / (domain[1] - domain[0]);
        expect(mark.x + mark.width).toBeCloseTo(range[0] + share * (range[1] - range[0]), 6);
        expect(of).not.toBeNull();
      }
});
