import { beforeAll, describe, expect, test } from 'vitest';
import { completeBrief, readBrief, type Form } from '../brief';
import { briefs } from '../desk/briefs';
import { edited } from '../edit';
import { declared, lookFor, own, toggle, whole } from '../form';
import { levelChecks } from '../level';
import { makeTable, type Table } from '../table';
import { readCsv } from '../reading';
import { reckon } from '../reckoning';
import { checkReport, writeReport, type Report } from '../report';
import { workspaceFor } from '../workspace';
import { drawFigure } from './draw';
import { defineForm } from './registry';
import { numbersOf } from './numbers';
import { textMark } from './shapes';
import { rowKey } from './names';
import { formsFor } from './mending';
import type { FormDefinition } from './form';

// A form that is written here alone: it draws, is checked, edited and reckoned without a word about it anywhere else.

const tallyForm = declared({
  form: 'tally',
  purpose: 'how many strokes each has',
  fromZero: true,
  most: 3,
  look: [
    toggle('heavy', 'with heavy strokes'),
    whole('bundle', 'Strokes in a bundle', { least: 2, most: 10, of: 'strokes' }),
    own<string>()('beside', { is: 'text', most: 50, names: 'measure' }),
  ],
});

const tally: FormDefinition = {
  ...tallyForm,
  form: 'tally' as Form,
  rulerValues: ({ actual }) => [...actual],
  draw({ cells, look }) {
    const { heavy } = look as { readonly heavy?: true };
    const ruler = {
      id: 'own',
      axis: 'x',
      kind: 'linear',
      domain: look.domain ?? [0, 10],
      range: [0, 300],
      ticks: [],
      strip: { x: 0, y: 0, width: 0, height: 0 },
    } as const;
    const weight = heavy ? 600 : 400;
    const marks = Array.from(cells.actual, (value, row) =>
      textMark('label', 'I'.repeat(value), 20, 40 + 20 * row, 13, { weight, row: rowKey(cells, row), value }),
    );
    return {
      width: 300,
      height: 200,
      title: 'Strokes',
      description: 'Strokes of each',
      rulers: [ruler],
      marks,
      dropped: 0,
    };
  },
  numbers: (cells) => ({ ofRow: (row) => ({ start: 0, end: cells.actual[row]! }) }),
  valueAt: (mark) => `${mark.value} strokes`,
  reckoning: {
    sentences: (cells, row) => [{ about: 'step', text: `That is ${cells.actual[row]!} strokes.` }],
    isLit: () => false,
  },
};

const report = (look: object = {}, brief = 'sold by shop as tally'): Report =>
  checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [
      { name: 'sold', table: 't', expression: 'sum(sold)' },
      { name: 'back', table: 't', expression: 'sum(back)' },
    ],
    figures: [{ id: 'f', brief, look }],
  });
let tables: ReadonlyMap<string, Table>;
const opened = (of: Report) => workspaceFor(of, tables);
const namesOf = (of: Report) => ({ vocabulary: opened(of).vocabulary, facts: () => undefined });

beforeAll(async () => {
  defineForm(tally);
  const csv = 'shop,sold,back\nAlder,3,1\nBirch,2,0\nCedar,1,0\nDogwood,1,1';
  tables = new Map([['t', makeTable(await readCsv('t', csv), { id: 't' })]]);
});

describe('a form of its own folder', () => {
  test('is read, written, completed and offered with what it is for', async () => {
    const { vocabulary, report: now } = opened(report());
    expect(readBrief('sold by shop as tally', vocabulary).form).toBe('tally');
    expect(completeBrief('sold by shop as ta', 18, vocabulary).map(({ text }) => text)).toContain('tally');
    const { forms } = await briefs.offered(opened(report()));
    expect(forms.at(-1)).toEqual({ form: 'tally', purpose: 'how many strokes each has' });
    const offers = await formsFor(opened(now), readBrief('sold by shop', vocabulary));
    expect(offers.find(({ form }) => form === ('tally' as Form))?.change).toBe('');
  });

  test('draws from cells, with its own most members, its numbers and its look', async () => {
    const workspace = opened(report({ heavy: true }));
    const drawn = await drawFigure(workspace, workspace.report.figures[0]!);
    const strokes = drawn.scene.marks.filter(({ role }) => role === 'label');
    expect(strokes.map((mark) => (mark as { text: string }).text)).toEqual(['III', 'II', 'I', 'I']);
    expect(strokes.map((mark) => (mark as { weight: number }).weight)).toEqual([600, 600, 600, 600]);
    // The largest three, and the rest together.
    expect(drawn.rows.isRest[3]).toBe(1);
    expect(numbersOf(drawn.cells).rows.map(({ start, end }) => [start, end])).toEqual([
      [0, 3],
      [0, 2],
      [0, 1],
      [0, 1],
    ]);
  });

  test('its part of the look is checked, kept in the file, and waits while another form draws', async () => {
    expect(report({ heavy: true, bundle: 5 }).figures[0]!.look).toEqual({ heavy: true, bundle: 5 });
    expect(() => report({ bundle: 11 })).toThrow(/bundle must be 2–10 strokes/);
    expect(() => report({ heavy: 'very' })).toThrow(/heavy/);
    expect(() => report({ heavier: true })).toThrow(/heavier/);
    expect(writeReport(report({ bundle: 5 }))).toContain('"bundle": 5');
    const look = { heavy: true, bundle: 5, zoom: true, title: 'T' };
    expect(lookFor('tally' as Form, look)).toEqual({ heavy: true, bundle: 5, title: 'T' });
    expect(lookFor('waterfall', look)).toEqual({ zoom: true, title: 'T' });
  });

  test('the level checks know that it begins at zero', async () => {
    const findings = await levelChecks(opened(report({ domain: [1, 10] })));
    expect(findings.map(({ code }) => code)).toContain('not-from-zero');
    expect((await levelChecks(opened(report()))).map(({ code }) => code)).not.toContain('not-from-zero');
  });

  test('edits follow what its look names', () => {
    const before = report({ beside: 'back', bundle: 5 });
    const renamed = edited(before, { edit: 'rename', kind: 'measure', from: 'back', to: 'returned' }, namesOf(before));
    expect(renamed.report.figures[0]!.look).toEqual({ beside: 'returned', bundle: 5 });
    const gone = edited(before, { edit: 'remove', kind: 'measure', name: 'back' }, namesOf(before));
    expect(gone.report.figures[0]!.look).toEqual({ bundle: 5 });
    const set = edited(before, { edit: 'set-look', figure: 'f', part: 'heavy', value: true } as never, namesOf(before));
    expect(set.report.figures[0]!.look).toEqual({ beside: 'back', bundle: 5, heavy: true });
  });

  test('is reckoned, with its own sentence and nothing about paint', async () => {
    const workspace = opened(report());
    const drawn = await drawFigure(workspace, workspace.report.figures[0]!);
    const { sentences } = await reckon(workspace, drawn, 0);
    expect(sentences.map(({ about }) => about)).toContain('rows');
    expect(sentences.map(({ text }) => text)).toContain('That is 3 strokes.');
    expect(sentences.map(({ about }) => about)).not.toContain('rule');
  });
});
