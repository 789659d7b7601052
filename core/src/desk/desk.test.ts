import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, test } from 'vitest';
import { LINES_HEADER, lineRows } from '../../../demo/src/lines';
import { ORDERS_HEADER, orderLines } from '../../../demo/src/orders';
import { PLAN_HEADER, planRows } from '../../../demo/src/plan';
import { pellwetherReport } from '../../../demo/src/report';
import { readBrief } from '../brief';
import { drawFigure, figureNamed } from '../figure';
import { levelChecks } from '../level';
import { drawPage, NOTHING_CHOSEN, pageNamed, PAGE_WIDTH } from '../page';
import { Problem, received } from '../problem';
import { numbersOf } from '../figure';
import { fileOf, readCsv } from '../reading';
import type { Report } from '../report';
import { makeTable, writeCsv, type Table } from '../table';
import { readTable } from '../workspace';
import { readFontFiles } from '../scene';
import { columnarSource } from '../source';
import { listedIn, openDesk, pageAs, type Desk, type Reach } from '.';
import { QUESTIONS } from './questions';

const FONTS = readFontFiles((path) => readFileSync(createRequire(import.meta.url).resolve(path)));
let tables: ReadonlyMap<string, Table>;
let desk: Desk;
const demo = pellwetherReport();
const report: Report = {
  ...demo,
  tables: demo.tables.filter(({ id }) => id !== 'stock'),
  measures: demo.measures.filter(({ table }) => table !== 'stock'),
};

beforeAll(async () => {
  const texts: Record<string, string> = {
    orders: [ORDERS_HEADER, ...[...orderLines()].filter((_, i) => i % 40 === 0)].join('\n'),
    plan: writeCsv([PLAN_HEADER, ...planRows()]),
    lines: writeCsv([LINES_HEADER, ...lineRows()]),
  };
  const read = await Promise.all(
    report.tables.map(
      async (entry) =>
        [
          entry.id,
          await readTable(entry, fileOf(entry.source.file, new TextEncoder().encode(texts[entry.id]!))),
        ] as const,
    ),
  );
  tables = new Map(read);
  desk = openDesk(tables);
});

const asked = <K extends keyof Desk['asked']>(name: K) => desk.asked[name];
const first = report.figures[0]!;
const CHOICE = { ...NOTHING_CHOSEN, period: null };

describe('levels', () => {
  test('are found in the rows, and not offered twice', async () => {
    expect(received(await asked('levels')(report, 'orders'))).toEqual([['territory', 'rep', 'account']]);
    const said = { ...report, hierarchies: [['territory', 'rep', 'account']] };
    expect(received(await asked('levels')(said, 'orders'))).toEqual([['family', 'product line']]);
  });

  test('lead down within a row and back to where it was; the rest of a selection opens member by member', async () => {
    const figure = {
      id: 'lines',
      brief: 'net sales by family during fiscal 2026 to date against plan as bullet',
      look: {},
    };
    const now = { ...report, figures: [figure] };
    const top = received(await asked('draw')(now, 'lines'));
    expect(top.path).toEqual([]);
    expect(top.below).toEqual({ field: 'product line', loses: null });
    const into = async (text: string, row: number) =>
      received(await asked('into')({ ...now, figures: [{ ...figure, brief: text }] }, 'lines', row));
    const drawnAs = async (text: string) =>
      received(await asked('draw')({ ...now, figures: [{ ...figure, brief: text }] }, 'lines'));
    for (const { leads, row, key, actual } of top.rows) {
      expect(leads).toBe(true);
      const way = (await into(figure.brief, row!))!;
      const down = await drawnAs(way.text);
      expect(down.path).toEqual([{ field: 'family', member: key['family'], text: figure.brief }]);
      expect(way.back).toBe(figure.brief);
      // What is below adds up to the row.
      expect(down.rows.reduce((sum, one) => sum + one.actual!, 0)).toBeCloseTo(actual!, 6);
      expect(down.rows.some((one) => one.leads)).toBe(false);
      expect(await into(way.text, 0)).toBeNull();
    }
    const kept = 'net sales by rep during fiscal 2026 to date as bars keep 3 highest and the rest';
    const some = await drawnAs(kept);
    const rest = some.rows.at(-1)!;
    expect([rest.name, rest.isRest, rest.leads, some.below]).toEqual(['the rest', true, true, null]);
    const opened = await drawnAs((await into(kept, rest.row!))!.text);
    expect(opened.rows.reduce((sum, one) => sum + one.actual!, 0)).toBeCloseTo(rest.actual!, 6);
    expect(opened.rows.length).toBeGreaterThan(10);
  });

  test('below what a plan is set for there is none', async () => {
    const drawn = received(await asked('draw')(report, first.id));
    expect(drawn.below).toEqual({ field: 'rep', loses: 'plan' });
    const way = received(await asked('into')(report, first.id, 0))!;
    const down = received(await asked('draw')({ ...report, figures: [{ ...first, brief: way.text }] }, first.id));
    expect(down.readable.brief.against).toBeNull();
    const [page] = report.pages;
    const picked = { figure: first.id, field: 'territory', member: 'Larkmoor' };
    const shown = received(await asked('page')(report, page!.id, 1160, { ...CHOICE, picked }));
    const told = shown.blocks.find(({ figure }) => figure === first.id)!.told;
    expect(told).toContain('“plan” is not known by “rep”');
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
});

describe('every answer is what the parts of core give', () => {
  test('a figure with its rows, names and numbers', async () => {
    const drawn = received(await asked('draw')(report, first.id));
    const own = await drawFigure(desk.of(report), figureNamed(report, first.id));
    expect(drawn.scene).toEqual(own.scene);
    expect(drawn.rows.length).toBe(own.scene.marks.filter(({ role }) => role === 'cell').length);
    const numbers = numbersOf(own.rows);
    for (const { row, key } of drawn.rows) if (row !== null) expect(numbers.rows[row]!.key).toEqual(key);
    expect(received(await asked('read')(report, drawn.readable.text)).brief).toEqual(own.cells.brief);
    const svg = received(await asked('svg')(report, first.id, async () => FONTS));
    expect(svg).toContain('<svg');
    expect(svg).toContain('@font-face');
    const wish = { as: 'svg', width: PAGE_WIDTH, choice: null, paper: null, outline: true } as const;
    const outlines = await pageAs(desk.of(report), report.pages[0]!.id, wish, { fonts: async () => FONTS });
    expect(outlines.content).not.toMatch(/<text|@font-face/);
    expect(JSON.parse(received(await asked('scene')(report, first.id)))).toEqual(JSON.parse(JSON.stringify(own.scene)));
    expect(
      received(await asked('csv')(report, first.id))
        .trim()
        .split('\n'),
    ).toHaveLength(numbers.rows.length + 1);
  });

  test('a working with its rows: as many as it says, and they add up to the row', async () => {
    const drawn = received(await asked('draw')(report, first.id));
    const line = drawn.rows.find(({ row }) => row !== null)!.row!;
    const { rows, lines, headings } = received(await asked('reckon')(report, first.id, line));
    expect(lines).toHaveLength(Math.min(300, rows));
    const csv = received(await asked('rowsCsv')(report, first.id, line))
      .trim()
      .split('\n');
    expect(csv).toHaveLength(rows + 1);
    const net = headings.indexOf('net');
    const sum = csv.slice(1).reduce((total, text) => total + Number(text.split(',')[net]), 0);
    const own = await drawFigure(desk.of(report), figureNamed(report, first.id));
    expect(sum).toBeCloseTo(numbersOf(own.rows).rows[line]!.actual!, 2);
  });

  test('findings, and a repair that makes one go away', async () => {
    const bent: Report = {
      ...report,
      rulers: [...report.rulers, { id: 'cut', kind: 'linear', fit: 'fixed', domain: [1000, 9_000_000] }],
      figures: [...report.figures, { id: 'bent', brief: 'net sales by territory as bars, on cut', look: {} }],
    };
    const found = received(await asked('check')(bent));
    expect(found.length).toBe((await levelChecks(desk.of(bent))).length);
    const finding = found.find(({ code }) => code === 'not-from-zero')!;
    const edit = received(await asked('repair')(bent, finding))!;
    expect(edit.saying).toBe('let the ruler begin at zero');
    const mended = received(await asked('edited')(bent, edit)).report;
    expect(received(await asked('check')(mended)).map(({ code }) => code)).not.toContain('not-from-zero');
    expect(received(await asked('repair')(mended, finding))).toBeNull();
  });

  test('usage and what goes with a name', async () => {
    const usage = received(await asked('usage')(report, 'benchmark', 'plan'));
    const { report: without } = received(
      await asked('edited')(report, { edit: 'remove', kind: 'benchmark', name: 'plan' }),
    );
    const changed = report.figures.filter(
      ({ id, brief }) => without.figures.find((one) => one.id === id)!.brief !== brief,
    );
    expect(changed.map(({ id }) => id)).toEqual(usage.figures);
    expect(usage.figures.length).toBeGreaterThan(3);
  });

  test('briefs are written, completed and offered', async () => {
    const { vocabulary } = desk.of(report);
    const brief = readBrief('net sales by territory against plan as bullet', vocabulary);
    expect(received(await asked('write')(report, brief)).text).toBe('net sales by territory against plan as bullet');
    const { completions, problems } = received(await asked('complete')(report, 'net sales by terr', 17));
    expect([completions[0]!.text, problems]).toEqual(['territory', []]);
    const wrong = received(await asked('complete')(report, 'net sales by zone', 17)).problems;
    expect(wrong.map(({ code }) => code)).toEqual(['unknown-field']);
    const offered = received(await asked('offered')(report));
    expect(offered.measures).toEqual(vocabulary.measures);
    expect(offered.fiscalYears[0]).toBe(2026);
    expect(received(await asked('members')(report, 'territory'))).toEqual(vocabulary.members('territory'));
    const forms = received(await asked('forms')(report, 'net sales by territory'));
    for (const { text } of forms) {
      const figures = [{ id: 'x', brief: text, look: {} }];
      expect((await asked('draw')({ ...report, figures }, 'x')).ok).toBe(true);
    }
    const broken = { ...report, figures: [{ id: 'x', brief: 'net sales by territry', look: {} }] };
    expect(received(await asked('repairs')(broken, 'x'))[0]!.text).toBe('net sales by territory');
  });

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
      program: async () => (asks.push('program'), { packed: 'x', hash: 'y' }),
      fonts: async () => (asks.push('fonts'), FONTS),
      raster: async () => (asks.push('raster'), new Uint8Array([1, 2, 3])),
    };
    const { embedded, program, fonts, raster } = means;
    const begins = { svg: '<svg ', html: '<!doctype html>', pdf: '%PDF-', pptx: 'PK', xlsx: 'PK' };
    const needs = {
      svg: ['fonts'],
      html: ['embedded', 'program'],
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

  test('tables: profiles, columns, months, what was left out, how targets fit, when data begin', async () => {
    const profile = received(await asked('profile')(report, 'orders'));
    expect([profile.rows, profile.columns.length]).toEqual([
      tables.get('orders')!.rows,
      desk.of(report).tables.get('orders')!.columns.length,
    ]);
    const column = received(await asked('column')(report, 'orders', 'territory'));
    expect(column.members).toEqual(desk.of(report).vocabulary.members('territory'));
    const months = received(await asked('months')(report, 'orders'));
    expect(months.reduce((sum, { rows }) => sum + rows, 0)).toBe(profile.rows);
    const span = received(await asked('span')(report, 'orders'))!;
    expect(months[0]!.month).toBeLessThanOrEqual(span.from);
    expect(received(await asked('leftOut')(report, 'orders')).amounts).toEqual([]);
    const match = received(await asked('match')(report, 'orders', 'plan', {}));
    expect(match.fields.map(({ field }) => field)).toContain('territory');
    expect(received(await asked('fieldsOf')(report, 'orders'))).toContain('territory');
    expect(received(await asked('completeExpression')(report, 'orders', 'sum(ne', 6))[0]!.text).toBe('net');
  });

  test('a derived column before it is there, also instead of one that is', async () => {
    const look = received(await asked('preview')(report, 'orders', 'gain', 'net - cost'));
    expect([look.kind, look.headings]).toEqual(['number', ['net', 'cost', 'gain']]);
    for (const [net, cost, gain] of look.lines) expect(Number(gain)).toBeCloseTo(Number(net) - Number(cost), 6);
    const derived = {
      ...report,
      tables: report.tables.map((one) =>
        one.id === 'orders' ? { ...one, derived: [{ name: 'gain', expression: 'net - cost' }] } : one,
      ),
    };
    const again = received(await asked('preview')(derived, 'orders', 'gain', 'net + cost'));
    for (const [net, cost, gain] of again.lines) expect(Number(gain)).toBeCloseTo(Number(net) + Number(cost), 6);
  });

  test('a number by itself, over everything and by a field', async () => {
    const whole = received(await asked('value')(report, { measure: 'order lines', against: null, field: null }));
    expect(Number(whole.exact.replaceAll(/[^\d.]/g, ''))).toBe(tables.get('orders')!.rows);
    const by = received(await asked('value')(report, { measure: 'order lines', against: null, field: 'territory' }));
    expect(by.rows.length + by.more).toBe(desk.of(report).vocabulary.members('territory')!.length);
  });
});

test('every question is asked here or beside', () => {
  const text = ['./desk.test.ts', './tables.test.ts']
    .map((file) => readFileSync(new URL(file, import.meta.url), 'utf8'))
    .join('\n');
  const unasked = Object.keys(QUESTIONS).filter((name) => !text.includes(`asked('${name}')`));
  expect(unasked).toEqual([]);
});

test('what cannot be answered comes as a problem, not as a throw', async () => {
  const answer = await asked('draw')(report, 'none');
  expect(answer).toMatchObject({ ok: false, problem: { code: 'unknown-figure' } });
  const wrong = {
    ...report,
    tables: report.tables.map((one) => ({ ...one, derived: [{ name: 'x', expression: 'none + 1' }] })),
  };
  expect(await asked('profile')(wrong, 'orders')).toMatchObject({ ok: false, problem: { code: 'unknown-column' } });
  expect((await asked('profile')(report, 'orders')).ok).toBe(true);
});

test('a table whose rows are not here any more says so, and others go on', async () => {
  const bare = openDesk(new Map([['orders', tables.get('orders')!]]));
  for (const answer of [
    await bare.asked.profile(report, 'plan'),
    await bare.asked.months(report, 'plan'),
    await bare.asked.column(report, 'plan', 'month'),
    await bare.asked.match(report, 'orders', 'plan', {}),
    await bare.asked.preview(report, 'plan', 'x', '1'),
  ])
    expect(answer).toMatchObject({ ok: false, problem: { code: 'rows-gone' } });
  expect((await bare.asked.draw(report, first.id)).ok).toBe(false);
  expect((await bare.asked.check(report)).ok).toBe(true);
  const without = { ...report, figures: [{ id: 'x', brief: 'net sales by territory', look: {} }] };
  expect((await bare.asked.draw(without, 'x')).ok).toBe(true);
});

test('the tables are kept while they and the calendar stay the same, and follow when they do not', async () => {
  const before = desk.of(report);
  expect(desk.of(report)).toBe(before);
  const renamed = desk.of({ ...report, name: 'Other' });
  expect([renamed.source === before.source, renamed.vocabulary === before.vocabulary]).toEqual([true, true]);
  const more = desk.of({ ...report, measures: [...report.measures, { ...report.measures[0]!, name: 'more' }] });
  expect([more.source === before.source, more.vocabulary.measures.at(-1)]).toEqual([true, 'more']);
  const later = desk.of({ ...report, calendar: { ...report.calendar, fiscalYearStart: 4 } });
  expect(later.source).not.toBe(before.source);
  const own = openDesk(tables);
  own.take([
    [
      'plan',
      makeTable(await readCsv('plan', 'month,territory,product line,target\n2026-01,North,Keys,5'), { id: 'plan' }),
    ],
  ]);
  expect(received(await own.asked.profile(report, 'plan')).rows).toBe(1);
  own.take([['plan', null]]);
  expect([...listedIn(report, own.read).keys()]).toEqual(['orders', 'lines']);
  expect(desk.read.get('plan')!.rows).toBeGreaterThan(1);
});

describe('a table whose rows are elsewhere', () => {
  const elsewhere = (id: string) => ({
    id,
    source: { file: 'shop.orders', database: 'sales', table: 'shop.orders' },
    date: 'ordered',
  });
  const away: Report = {
    ...report,
    hierarchies: [],
    tables: report.tables.map(({ joins: _, ...entry }) => (entry.id === 'orders' ? elsewhere('orders') : entry)),
  };
  /** A desk whose database is columns in memory, and how often it was looked at. */
  function deskAway() {
    let looked = 0;
    let isDown = false;
    const reach: Reach = async (entries, calendar) => {
      looked++;
      if (isDown) throw new Problem('database-away', 'it cannot be reached');
      const source = columnarSource(new Map(entries.map(({ id }) => [id, tables.get(id)!])), calendar);
      return { source, facts: await source.facts() };
    };
    const here = new Map([...tables].filter(([id]) => id !== 'orders'));
    return { desk: openDesk(here, reach), looked: () => looked, fall: (down: boolean) => (isDown = down) };
  }

  test('is looked at once; its figures, rows and columns are those it has, beside tables that are here', async () => {
    const { desk: now, looked } = deskAway();
    const wanted = received(await asked('draw')(report, 'territories'));
    const all = await Promise.all([
      now.asked.draw(away, 'territories'),
      now.asked.profile(away, 'orders'),
      now.asked.rowsFrom(away, 'orders', 3, 4),
      now.asked.rowsFrom(away, 'plan', 0, 2),
    ]);
    expect(looked()).toBe(1);
    expect(received(all[0]).numbers.lines).toEqual(wanted.numbers.lines);
    expect(received(all[1]).file).toBe('shop.orders');
    const rows = received(await asked('rowsFrom')(report, 'orders', 0, 9)).lines;
    // What was looked up is not among them.
    const width = received(all[2]).columns.length;
    expect(received(all[2]).lines).toEqual(rows.slice(3, 7).map((line) => line.slice(0, width)));
    expect(received(all[3]).lines).toHaveLength(2);
    // Questions about a file itself have no answer, and say so.
    expect(await now.asked.months(away, 'orders')).toMatchObject({
      problem: { code: 'in-database' },
    });
  });

  test('that cannot be reached is a problem of each question, until it can be', async () => {
    const { desk: now, looked, fall } = deskAway();
    fall(true);
    expect(await now.asked.draw(away, 'territories')).toMatchObject({ ok: false, problem: { code: 'database-away' } });
    expect(received(await asked('draw')(report, 'territories')).rows.length).toBeGreaterThan(0);
    const before = looked();
    // Tables that are here are looked at all the same.
    expect(received(await now.asked.profile(away, 'plan')).rows).toBe(tables.get('plan')!.rows);
    fall(false);
    received(await now.asked.draw(away, 'territories'));
    expect(looked() - before).toBe(2);
    received(await now.asked.profile(away, 'orders'));
    expect(looked() - before).toBe(2);
    // Whoever asks to look again does; so does a report that says something else of it.
    now.forget();
    received(await now.asked.profile(away, 'orders'));
    const { calendar } = away;
    received(await now.asked.profile({ ...away, calendar: { ...calendar, fiscalYearStart: 1 } }, 'orders'));
    expect(looked() - before).toBe(4);
  });

  test('is not there where nothing reaches it', async () => {
    const now = openDesk(new Map([...tables].filter(([id]) => id !== 'orders')));
    expect(await now.asked.draw(away, 'territories')).toMatchObject({ problem: { code: 'database-not-reached' } });
    expect(() => now.of(away)).toThrow(/not reached/);
  });
});
