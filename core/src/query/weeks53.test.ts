import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readBrief } from '../brief';
import { dayOf, isoDay, PATTERNS, WEEKDAYS } from '../calendar';
import { numbersOf } from '../figure';
import { tries } from '../proof/tries.fixture';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { answerBrief } from '.';

// One unit a day, in fiscal years of 52 and 53 weeks: what is compared is seen by its count.

const FIRST = dayOf(2018, 1, 1);
const csv = ['day,net', ...Array.from({ length: 3_100 }, (_, i) => `${isoDay(FIRST + i)},1`)].join('\n');
const table = readCsv('t', csv).then((raw) => makeTable(raw, { id: 't' }));

const calendars = fc.record({
  pattern: fc.constantFrom(...PATTERNS),
  ends: fc.constantFrom(...WEEKDAYS),
  on: fc.constantFrom('last', 'nearest'),
  of: fc.integer({ min: 1, max: 12 }),
});

async function asking(weeks: object, asOf: number) {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    calendar: { weeks, asOf: isoDay(asOf) },
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  });
  const desk = workspaceFor(report, new Map([['t', await table]]));
  return async (brief: string) => numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
}

test('days and weeks are held against as many, in every week of every year', () =>
  fc.assert(
    fc.asyncProperty(calendars, fc.integer({ min: 1_300, max: 3_000 }), async (weeks, day) => {
      const ask = await asking(weeks, FIRST + day);
      for (const words of ['latest day', 'last 10 days', 'latest week', 'week to date', 'last 4 weeks']) {
        const { total } = await ask(`net during ${words} against last year`);
        expect([words, total.benchmark]).toEqual([words, total.actual]);
      }
      for (const each of ['each day during last 20 days', 'each week during last 6 weeks'])
        for (const { step, actual, benchmark } of (await ask(`net ${each} against last year`)).rows)
          expect([each, step, benchmark]).toEqual([each, step, actual]);
    }),
    { numRuns: tries(60) },
  ));

test('months and years are held against whole ones, told where they have other weeks; running sums end at the whole', () =>
  fc.assert(
    fc.asyncProperty(calendars, fc.integer({ min: 1_300, max: 3_000 }), async (weeks, day) => {
      const ask = await asking(weeks, FIRST + day);
      for (const words of ['month to date', 'quarter to date', 'year to date', 'previous month', 'previous year']) {
        const { total, checks } = await ask(`net during ${words} against last year`);
        const told = checks.filter(({ code }) => code === 'like-for-like').map(({ text }) => text);
        const [now, then] = [total.actual!, total.benchmark!];
        const ofWeeks = now % 7 === 0 && then % 7 === 0;
        const [unit, size] = ofWeeks ? ['week', 7] : ['day', 1];
        expect([words, told]).toEqual([
          words,
          now === then
            ? []
            : [`${now / size} ${unit}${now === size ? '' : 's'} are compared with ${then / size} of “last year”`],
        ]);
        expect(Math.abs(now - then)).toBeLessThanOrEqual(7);
        for (const grain of ['day', 'week', 'month']) {
          const { rows } = await ask(`cumulative net each ${grain} during ${words} against last year`);
          expect([words, grain, rows.at(-1)!.benchmark]).toEqual([words, grain, then]);
        }
      }
    }),
    { numRuns: tries(40) },
  ));

// Fiscal 2024 ends on 3 February 2024 and has 53 weeks; those beside it have 52.
const NEAREST = { pattern: '4-4-5', ends: 'saturday', on: 'nearest', of: 1 };

test.each([
  ['2024-01-27', 'latest week', 7, '2023-01-22', '2023-01-28'],
  ['2024-01-31', 'week to date', 4, '2023-01-22', '2023-01-25'],
  ['2024-02-03', 'latest week', 7, '2023-01-22', '2023-01-28'],
  ['2025-02-01', 'latest week', 7, '2024-01-21', '2024-01-27'],
  ['2024-01-31', 'month to date', 35, '2022-12-25', '2023-01-28'],
  ['2024-02-03', 'fiscal 2024', 364, '2022-01-30', '2023-01-28'],
  ['2025-02-01', 'fiscal 2025', 371, '2023-01-29', '2024-02-03'],
])('as of %s %s is held against %i days', async (asOf, words, days, from, to) => {
  const ask = await asking(NEAREST, Date.parse(asOf) / 86_400_000);
  const { total, benchmarkPeriod } = await ask(`net during ${words} against last year`);
  expect([total.benchmark, benchmarkPeriod]).toEqual([days, { from, to }]);
});

test('29 February is added up once in a running sum, and left out of none', async () => {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    calendar: { asOf: '2025-12-31' },
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  });
  const desk = workspaceFor(report, new Map([['t', await table]]));
  for (const [year, before] of [
    [2024, 365],
    [2025, 366],
  ] as const) {
    const brief = readBrief(`cumulative net each day during fiscal ${year} against last year`, desk.vocabulary);
    const { rows } = numbersOf(await answerBrief(desk, brief));
    expect(rows.at(-1)!.benchmark).toBe(before);
    expect(rows.find(({ step }) => step === `${year}-02-28`)!.benchmark).toBe(year === 2024 ? 59 : 60);
    expect(rows.find(({ step }) => step === `${year}-03-01`)!.benchmark).toBe(year === 2024 ? 60 : 61);
  }
});

test.each([
  '2025-01-10 to 2025-02-03',
  'last 12 days',
  'last 3 weeks',
  'month to date',
  'latest quarter',
  'previous month',
])('a running sum during %s is held against the period before, day by day, and ends at its whole', async (words) => {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    calendar: { fiscalYearStart: 4, asOf: '2025-03-18' },
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  });
  const desk = workspaceFor(report, new Map([['t', await table]]));
  const ask = async (brief: string) => numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
  const whole = (await ask(`net during ${words} against previous period`)).total.benchmark!;
  const { rows, period, asOf } = await ask(`cumulative net each day during ${words} against previous period`);
  // Day by day one more; a month that is over is held against all of a longer one, and none of a shorter one twice.
  const counts = rows.filter(({ step }) => step! <= asOf!).map(({ benchmark }) => benchmark!);
  const added = counts.map((count, i) => count - (counts[i - 1] ?? 0));
  const [least, most] = /month|quarter/.test(words) ? [0, 4] : [1, 1];
  expect(added.every((more) => more >= least && more <= most)).toBe(true);
  if (!period.partial) expect(rows.at(-1)!.benchmark).toBe(whole);
});
