import { apply } from 'mutative';
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { drawFigure, figureNamed, numbersOf } from '../figure';
import { levelChecks } from '../level';
import { PAGE_WIDTH } from '../page';
import { received } from '../problem';
import type { Report } from '../report';
import { pageAs } from '.';
import { asked, CHOICE, desk, first, FONTS, report, tables } from './desk.fixture';
import { QUESTIONS } from './questions';

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
    const findings = await levelChecks(desk.of(bent));
    expect(found.flatMap(({ code, about }) => about.map(({ id }) => `${code} ${id}`)).sort()).toEqual(
      findings.map(({ code, about }) => `${code} ${about.id}`).sort(),
    );
    expect(new Set(found.map(({ code, fact }) => `${code} ${fact}`)).size).toBe(found.length);
    const finding = found.find(({ code }) => code === 'not-from-zero')!;
    const edit = received(await asked('repair')(bent, finding))!;
    expect(edit.saying).toBe('let the ruler begin at zero');
    const mended = received(await asked('edited')(bent, edit)).report;
    expect(received(await asked('check')(mended)).map(({ code }) => code)).not.toContain('not-from-zero');
    expect(received(await asked('repair')(mended, finding))).toBeNull();
  });

  test('a fact of several figures is told once, put right in all of them in one step, and accepted for all', async () => {
    const codes = async (of: Report) =>
      received(await asked('check')(of)).flatMap(({ code, about, accepted }) =>
        accepted === null ? [`${code}: ${about.length}`] : [],
      );
    const part = received(await asked('check')(report)).find(({ code }) => code === 'part-period-against-whole')!;
    expect(part.about.length).toBeGreaterThan(3);
    const edit = received(await asked('repair')(report, part))!;
    const { report: mended, back } = received(await asked('edited')(report, edit));
    expect(edit.saying).toBe('compare up to the as-of date only');
    expect((await codes(mended)).filter((one) => one.startsWith(part.code))).toEqual([]);
    expect(apply(mended, back)).toEqual(report);

    const { code, fact } = part;
    const reason = 'The plan is for the whole year';
    const accepted = received(
      await asked('edited')(report, {
        edit: 'accept-finding',
        of: { code, about: 'report', id: fact },
        reason,
      }),
    ).report;
    // One that comes later is accepted as well.
    const [like] = report.figures.filter(({ id }) => id === part.about[0]!.id);
    const more = { ...accepted, figures: [...accepted.figures, { ...like!, id: 'one more' }] };
    for (const of of [accepted, more]) expect((await codes(of)).filter((one) => one.startsWith(code))).toEqual([]);
    const stands = received(await asked('check')(more)).at(-1)!;
    expect(stands).toMatchObject({ code, accepted: reason, acceptedBy: [{ code, about: 'report', id: fact }] });
    expect(stands.about).toHaveLength(part.about.length + 1);
    const opened = received(
      await asked('edited')(accepted, {
        edit: 'several',
        edits: stands.acceptedBy.map((of) => ({ edit: 'accept-finding', of, reason: null })),
      }),
    ).report;
    expect(opened).toEqual(report);
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
  const here = new URL('.', import.meta.url);
  const tests = readdirSync(here).filter((name) => name.endsWith('.test.ts'));
  const text = tests.map((name) => readFileSync(new URL(name, here), 'utf8')).join('\n');
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
