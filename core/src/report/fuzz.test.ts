import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { ORDERS_HEADER, orderLines } from '../../../demo/src/orders';
import { PLAN_HEADER, planRows } from '../../../demo/src/plan';
import { pellwetherReport } from '../../../demo/src/report';
import { reportJsonSchema } from '../../scripts/jsonSchema';
import { drawFigure } from '../figure';
import { levelChecks } from '../level';
import { drawPage } from '../page';
import { isProblem } from '../problem';
import { readCsv } from '../reading';
import { writeCsv, type Table } from '../table';
import { readTable, workspaceFor } from '../workspace';
import { fileOf } from '../reading';
import { checkReport, readReport, writeReport } from '.';
import { tries } from '../proof/tries.fixture';

/** Report files each test is thrown at. */
const FILES = tries(500);
const WHOLE = pellwetherReport();
/** The demo's report with some of its figures, as it is read ten thousand times. */
const SOUND = { ...WHOLE, figures: WHOLE.figures.filter((_, i) => i % 5 === 0) };
const TEXT = writeReport(SOUND);

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

const scrap: fc.Arbitrary<Json> = fc.oneof(
  fc.constantFrom<Json>(null, true, 0, -1, 0.5, 1e308, '', ' ', '__proto__', 'constructor', '{gap}', '“', [], {}, [[]]),
  fc.string({ maxLength: 30 }),
  fc.constant('x'.repeat(5000)),
  fc.double({ noNaN: true }),
  fc.jsonValue({ maxDepth: 3 }) as fc.Arbitrary<Json>,
);

/** A sound report with a few places of it changed: left out, doubled, put in another's place, or replaced. */
const mutated = fc
  .array(fc.record({ path: fc.array(fc.nat(40), { minLength: 1, maxLength: 7 }), how: fc.nat(5), scrap }), {
    minLength: 1,
    maxLength: 4,
  })
  .map((changes) => {
    const report = JSON.parse(TEXT) as Json;
    for (const { path, how, scrap: value } of changes) {
      let parent: Json = report;
      for (const [depth, step] of path.entries()) {
        if (parent === null || typeof parent !== 'object') break;
        const keys = Object.keys(parent);
        if (keys.length === 0) break;
        const key = keys[step % keys.length]!;
        const holder = parent as { [key: string]: Json };
        const inner: Json = holder[key]!;
        if (depth < path.length - 1 && inner !== null && typeof inner === 'object') {
          parent = inner;
          continue;
        }
        if (Array.isArray(parent)) {
          if (how === 0) parent.splice(Number(key), 1);
          else if (how === 1) parent.push(structuredClone(inner));
          else parent[Number(key)] = value;
        } else if (how === 0) delete holder[key];
        else if (how === 1)
          Object.defineProperty(holder, String(value), {
            value: inner,
            enumerable: true,
            writable: true,
            configurable: true,
          });
        else if (how === 2) holder[key] = structuredClone(holder[keys[(step + 1) % keys.length]!]!);
        else holder[key] = value;
        break;
      }
    }
    return report;
  });

/** Runs what may refuse; anything it throws must be a problem that is told. */
function orProblem<T>(work: () => T): T | null {
  try {
    return work();
  } catch (error) {
    if (!isProblem(error)) throw error;
    expect(error.sentence).not.toBe('');
    return null;
  }
}

test('the published schema is the one the program checks by, and holds for every report that is accepted', () => {
  const schema = readFileSync(new URL('../../../docs/report.schema.json', import.meta.url), 'utf8');
  expect(schema).toBe(reportJsonSchema());
  const fits = new Ajv2020({ strict: false }).compile(JSON.parse(schema) as object);
  expect(fits(JSON.parse(TEXT)), JSON.stringify(fits.errors)).toBe(true);
  expect(fits({ ...SOUND, surplus: 1 })).toBe(false);
  expect(fits({ ...SOUND, figures: [{ id: 'f' }] })).toBe(false);
  expect(fits({ ...SOUND, benchmarks: [{ name: 'b', kind: 'guess' }] })).toBe(false);
  let accepted = 0;
  fc.assert(
    fc.property(mutated, (value) => {
      const before = JSON.stringify(value);
      const report = orProblem(() => checkReport(value));
      expect(JSON.stringify(value)).toBe(before);
      if (!report) return;
      accepted += 1;
      const written = writeReport(report);
      expect(fits(JSON.parse(written)), `${JSON.stringify(fits.errors)} ${written.slice(0, 200)}`).toBe(true);
      if (accepted % 10 === 0) expect(writeReport(readReport(written))).toBe(written);
    }),
    { numRuns: FILES },
  );
  expect(accepted).toBeGreaterThan(FILES / 50);
  expect(Object.keys(Object.prototype)).toEqual([]);
});

test('files with letters changed, lost or added open, or say where they are broken', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(), fc.constantFrom('', '"', '}', '[', ',', ':', '\\', '\u0000', '9', 'é', '“', '\n')), {
        minLength: 1,
        maxLength: 5,
      }),
      (changes) => {
        let text = TEXT;
        for (const [at, put] of changes) {
          const i = at % text.length;
          text = text.slice(0, i) + put + text.slice(i + 1);
        }
        orProblem(() => readReport(text));
      },
    ),
    { numRuns: tries(200) },
  );
});

test('a report that is accepted can be drawn and checked, or says why not', async () => {
  const few = <T>(lines: Iterable<T>, every: number) => [...lines].filter((_, i) => i % every === 0);
  const files = new Map([
    ['orders.csv', writeCsv([ORDERS_HEADER, ...few(orderLines(), 400)])],
    ['plan.csv', writeCsv([PLAN_HEADER, ...few(planRows(), 20)])],
    ['lines.csv', 'line,family\nKeys,Rhythm\nBrass,Melody\n'],
    ['stock.csv', 'month,product line,weeks of stock\n2026-02-01,Keys,5\n2026-03-01,Keys,7\n2026-03-01,Brass,6\n'],
  ]);
  await readCsv('orders', files.get('orders.csv')!);
  let drawn = 0;
  await fc.assert(
    fc.asyncProperty(mutated, fc.nat(), async (value, pick) => {
      const report = orProblem(() => checkReport(value));
      if (!report) return;
      const attempt = async (work: () => Promise<unknown>) => {
        try {
          await work();
          drawn += 1;
        } catch (error) {
          if (!isProblem(error)) throw error;
        }
      };
      await attempt(async () => {
        const tables = new Map<string, Table>();
        for (const entry of report.tables)
          tables.set(
            entry.id,
            await readTable(
              entry,
              fileOf(entry.source.file, new TextEncoder().encode(files.get(entry.source.file) ?? 'a,b\n1,2\n')),
            ),
          );
        const { source, vocabulary } = workspaceFor(report, tables);
        const figure = report.figures[pick % Math.max(1, report.figures.length)];
        if (figure) await attempt(() => drawFigure({ source, report, vocabulary }, figure));
        if (report.pages[0]) await attempt(() => drawPage({ source, report, vocabulary }, report.pages[0]!));
        if (pick % 5 === 0) await levelChecks({ source, report, vocabulary });
      });
    }),
    { numRuns: tries(60) },
  );
  expect(drawn).toBeGreaterThan(10);
});
