import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { drawFigure } from '../figure';
import { isProblem } from '../problem';
import { tries } from '../proof/tries.fixture';
import { readCsv } from '../reading';
import { checkReport, type FigureEntry, type Look, type Report } from '../report';
import { makeTable, type Table } from '../table';
import { workspaceFor } from '../workspace';
import { anyLook, anyOf, NAMED, notOf } from './anyLook.fixture';
import { commonOptions, declarationOf, forms, lookFor, lookOptions, namesIn, withNames, type Form } from '.';

const CSV = [
  'day,shop,line,net,pieces,goal',
  ...Array.from({ length: 48 }, (_, i) => {
    const month = String((i % 12) + 1).padStart(2, '0');
    const year = i < 24 ? 2024 : 2025;
    return `${year}-${month}-0${(i % 9) + 1},${['Alder', 'Birch', 'Cedar'][i % 3]},${['brass', 'keys'][i % 2]},${(i * 37) % 90},${i % 5},${(i * 29) % 80}`;
  }),
].join('\n');

/** A brief that each form can be drawn from, so that its look is all that may go wrong. */
const BRIEFS: Readonly<Record<Form, string>> = {
  bullet: 'net by shop, line during fiscal 2025 against goal as bullet',
  bars: 'net by shop, line during fiscal 2025 against goal as bars',
  pairs: 'net by shop, line during fiscal 2025 against goal as pairs',
  waterfall: 'net by shop during year to date against last year as waterfall',
  pace: 'cumulative net by shop each month during fiscal 2025 against goal as pace',
  bump: 'rank of net by shop each month during fiscal 2025 as bump',
  headline: 'net during year to date against goal as headline',
  dial: 'net by shop during year to date against goal as dial',
  league: 'net by shop as league',
  table: 'net, share of net by shop, line against goal as table',
  trend: 'net by shop each month during fiscal 2025 against goal as trend',
};

let tables: ReadonlyMap<string, Table>;
const reportOf = (figure: object): Report =>
  checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    // The year still runs, and its goals go on to its end.
    calendar: { asOf: '2025-08-05' },
    tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: 'day' }],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)' },
      { name: 'pieces', table: 'sales', expression: 'sum(pieces)' },
    ],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    figures: [{ id: 'f', ...figure }],
  });

beforeAll(async () => {
  tables = new Map([['sales', makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' })]]);
});

/** The picture of a figure, or the code of why there is none. */
async function drawn(report: Report, figure: FigureEntry): Promise<string> {
  try {
    return JSON.stringify((await drawFigure(workspaceFor(report, tables), figure)).scene);
  } catch (error) {
    if (!isProblem(error)) throw error;
    return error.code;
  }
}

describe.each([...commonOptions, ...lookOptions()])('the part “$key” of a look', ({ key, shape, offer }) => {
  test('is let stand in a report as its shape says, and refused as anything else with where it stands', () => {
    fc.assert(
      fc.property(anyOf(shape), (value) => {
        const { look } = reportOf({ brief: 'net by shop', look: { [key]: value } }).figures[0]!;
        expect(look).toEqual({ [key]: value });
      }),
      { numRuns: tries(25) },
    );
    expect(() => reportOf({ brief: 'net by shop', look: { [key]: notOf(shape) } })).toThrow(new RegExp(key));
  });

  test('is offered in words that may stand in a report', () => {
    if (offer.kind === 'choice' && offer.flags) {
      expect(shape).toEqual({ is: 'flag', either: true });
      expect(Object.keys(offer.words)).toEqual(['yes', 'no']);
    } else if (offer.kind === 'choice') {
      if (shape.is !== 'words') throw new Error(`${key} offers words and is none`);
      for (const value of Object.keys(offer.words)) expect(shape.words).toContain(value);
      const said = [offer.none, ...Object.values(offer.words)];
      expect(new Set(said).size).toBe(said.length);
      for (const value of Object.keys(offer.only ?? {})) expect(Object.keys(offer.words)).toContain(value);
    }
    if (offer.kind === 'flag') expect(shape.is).toBe('flag');
    if (offer.kind === 'count') {
      if (shape.is !== 'count') throw new Error(`${key} offers a number and is none`);
      expect([offer.least, offer.most]).toEqual([shape.least, shape.most]);
    }
    if (offer.kind !== 'own') expect(offer.label.trim()).not.toBe('');
  });
});

describe.each(forms())('a figure drawn as %s', (form) => {
  test('knows the parts it declares, each once, and can be drawn without any', async () => {
    const keys = declarationOf(form).look.map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
    const report = reportOf({ brief: BRIEFS[form], look: {} });
    expect(await drawn(report, report.figures[0]!)).toContain('"marks"');
  });

  test('is drawn or says why under any look, and what it does not know of it changes nothing', async () => {
    await fc.assert(
      fc.asyncProperty(anyLook, async (look) => {
        const report = reportOf({ brief: BRIEFS[form], look });
        const [figure] = report.figures;
        const own: Look = lookFor(form, figure!.look);
        const known = new Set([...commonOptions, ...declarationOf(form).look].map(({ key }) => key));
        expect(Object.keys(own).filter((key) => !known.has(key))).toEqual([]);
        expect(await drawn(report, figure!)).toBe(await drawn(report, { ...figure!, look: own }));
      }),
      { numRuns: tries(12) },
    );
  });

  test('has another picture where a part that it knows says something', async () => {
    const plain = reportOf({ brief: BRIEFS[form], look: {} });
    const before = await drawn(plain, plain.figures[0]!);
    for (const { key, shape } of declarationOf(form).look) {
      const values = fc.sample(anyOf(shape), { numRuns: 60, seed: 11 });
      const pictures = new Set<string>();
      for (const value of values) {
        const report = reportOf({ brief: BRIEFS[form], look: { [key]: value } });
        pictures.add(await drawn(report, report.figures[0]!));
        if (pictures.size > 1) break;
      }
      pictures.delete(before);
      expect([form, key, pictures.size > 0]).toEqual([form, key, true]);
    }
  });
});

describe('names in a look', () => {
  test('are renamed there and back, and none is left of what is gone', () => {
    fc.assert(
      fc.property(anyLook, fc.constantFrom(...Object.keys(NAMED)), (look, kind) => {
        const there = withNames(look, (name, of) => (of === kind ? `${name}!` : name));
        for (const { name, of } of namesIn(there)) expect(name.endsWith('!')).toBe(of === kind);
        const back = withNames(there, (name, of) => (of === kind ? name.slice(0, -1) : name));
        expect(back).toEqual(look);
        const gone = withNames(look, (name, of) => (of === kind ? null : name));
        expect(namesIn(gone).filter(({ of }) => of === kind)).toEqual([]);
        // What is left may still stand in a report.
        const parts = Object.fromEntries(Object.entries(gone).filter(([key]) => key in look));
        if (!(kind === 'expression' && 'bands' in look))
          expect(() => reportOf({ brief: 'net by shop', look: parts })).not.toThrow();
      }),
      { numRuns: tries(200) },
    );
  });

  test('that do not change leave the very same look', () => {
    fc.assert(
      fc.property(anyLook, (look) => {
        expect(withNames(look, (name) => name)).toBe(look);
      }),
      { numRuns: tries(50) },
    );
  });
});
