import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { PATTERNS, WEEKDAYS } from '../calendar';
import { numbersOf } from '../figure';
import { answerBrief } from '../query';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { cellText, makeTable, type ColumnWish } from '../table';
import { workspaceFor } from '.';

// Quarters and years that a file names are those of the report's calendar, whatever month they begin in and whichever end names them.

const MONTHS = Array.from({ length: 12 }, (_, i) => i + 1);
const CALENDARS = MONTHS.flatMap((fiscalYearStart) =>
  (['end', 'start'] as const).map((fiscalYearNamed) => ({ fiscalYearStart, fiscalYearNamed, weeks: undefined })),
);
const WEEKS = MONTHS.map((of) => ({
  fiscalYearStart: 1,
  fiscalYearNamed: of % 5 === 0 ? ('start' as const) : ('end' as const),
  weeks: {
    pattern: PATTERNS[of % 3]!,
    ends: WEEKDAYS[of % 7]!,
    on: of % 2 === 0 ? ('last' as const) : ('nearest' as const),
    of,
  },
}));

async function worldOf(calendar: object, lines: readonly string[], columns: ColumnWish[] = []) {
  const read = async (id: string, rows: readonly string[], wishes: ColumnWish[] = []) =>
    makeTable(await readCsv(id, rows.join('\n'), wishes), { id, columns: wishes });
  const report = checkReport({
    boldRuler: 1,
    name: 'periods',
    calendar,
    tables: [
      { id: 'taken', source: { file: 'taken.csv' }, ...(columns.length > 0 ? { columns } : {}) },
      { id: 'aims', source: { file: 'aims.csv' } },
    ],
    measures: [{ name: 'net', table: 'taken', expression: 'sum(net)' }],
    benchmarks: [{ name: 'aim', kind: 'table', table: 'aims', expression: 'sum(aim)' }],
  });
  const tables = new Map([
    ['taken', await read('taken', lines, columns)],
    ['aims', await read('aims', ['year,aim', '2024,100', '2025,200'])],
  ]);
  const { source, vocabulary, tables: known } = workspaceFor(report, tables);
  const ask = async (brief: string) =>
    numbersOf(await answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary)));
  return { ask, table: known.get('taken')! };
}

/** Sales of two days, and targets for periods that are read in some way. */
async function aimsBy(read: string, lines: readonly string[], calendar: object) {
  const wishes: ColumnWish[] = [{ name: lines[0]!.split(',')[0]!, type: 'date', read }];
  const report = checkReport({
    boldRuler: 1,
    name: 'other periods',
    calendar,
    tables: [
      { id: 'taken', source: { file: 'taken.csv' } },
      { id: 'aims', source: { file: 'aims.csv' }, columns: wishes },
    ],
    measures: [{ name: 'net', table: 'taken', expression: 'sum(net)' }],
    benchmarks: [{ name: 'aim', kind: 'table', table: 'aims', expression: 'sum(aim)' }],
  });
  const sales = ['day,net', '2025-02-01,1', '2025-06-30,1'];
  const tables = new Map([
    ['taken', makeTable(await readCsv('taken', sales.join('\n')), { id: 'taken' })],
    ['aims', makeTable(await readCsv('aims', lines.join('\n'), wishes), { id: 'aims' })],
  ]);
  return { ...workspaceFor(report, tables), report };
}

const QUARTERS = ['quarter,net', ...[2024, 2025].flatMap((y) => [1, 2, 3, 4].map((q) => `${y}-Q${q},${y * 10 + q}`))];

describe.each([...CALENDARS, ...WEEKS])(
  'in a year from month $fiscalYearStart, named by its $fiscalYearNamed, of weeks $weeks',
  (calendar) => {
    test('a quarter of the brief is the file’s quarter of that name, and a year is its four', async () => {
      const { ask, table } = await worldOf(calendar, QUARTERS);
      for (const q of [1, 2, 3, 4])
        expect((await ask(`net during 2025-Q${q}`)).rows.map(({ actual }) => actual)).toEqual([20250 + q]);
      expect((await ask('net during fiscal 2025 Q3')).total.actual).toBe(20253);
      expect((await ask('net each quarter')).rows.map(({ step, actual }) => `${step},${actual}`)).toEqual(
        QUARTERS.slice(1),
      );
      expect((await ask('net each year')).rows.map(({ step, actual }) => [step, actual])).toEqual([
        ['2024', 80970],
        ['2025', 81010],
      ]);
      const quarter = table.columns.find(({ name }) => name === 'quarter')!;
      expect([0, 5].map((row) => cellText(quarter, row))).toEqual(['2024-Q1', '2025-Q2']);
    });
    test('a target of a year is that of the year of its name', async () => {
      const { ask } = await worldOf(calendar, QUARTERS);
      expect((await ask('net during fiscal 2024 against aim')).total.benchmark).toBe(100);
      expect((await ask('net during fiscal 2025 against aim')).total.benchmark).toBe(200);
      const quarters = (await ask('net each quarter during fiscal 2025 against aim')).rows.map(
        ({ benchmark }) => benchmark!,
      );
      expect(quarters.reduce((a, b) => a + b, 0)).toBeCloseTo(200, 9);
    });
    test('calendar years are another reading, asked where they differ, and kept', async () => {
      const { table } = await worldOf(calendar, QUARTERS);
      const isPlain = calendar.fiscalYearStart === 1 && !calendar.weeks;
      expect(table.doubts.map(({ column, readings }) => [column, readings.map(({ read }) => read)])).toEqual(
        isPlain ? [] : [['quarter', ['yyyy-Qn', 'calendar yyyy-Qn']]],
      );
      const settled = await worldOf(calendar, QUARTERS, [{ name: 'quarter', type: 'date', read: 'yyyy-Qn' }]);
      expect(settled.table.doubts).toEqual([]);
      expect((await settled.ask('net during 2025-Q2')).total.actual).toBe(20252);
      const other = await worldOf(calendar, QUARTERS, [{ name: 'quarter', type: 'date', read: 'calendar yyyy-Qn' }]);
      expect(other.table.doubts).toEqual([]);
      expect((await other.ask('net during 2025-01-01 to 2025-03-31')).total.actual).toBe(20251);
    });
    test('what is written as fiscal is so beyond doubt', async () => {
      const { ask, table } = await worldOf(calendar, ['quarter,net', 'FY24 Q4,4', 'FY25 Q1,1', 'FY25 Q2,2']);
      expect(table.doubts).toEqual([]);
      expect((await ask('net during 2025-Q1')).total.actual).toBe(1);
    });
  },
);

describe('in fiscal years of weeks', () => {
  // Fiscal 2026 begins on 2 February 2025: February has 4 weeks, March 5.
  const calendar = { weeks: { pattern: '4-5-4', ends: 'saturday', on: 'nearest', of: 1 } };
  const monthly = ['month,net', '2025-02,28', '2025-03,35', '2025-04,28', '2025-05,1'];

  test('months that a file names are those of weeks, or the calendar’s where that is said', async () => {
    const { ask, table } = await worldOf(calendar, monthly);
    expect(table.doubts).toMatchObject([
      {
        column: 'month',
        readings: [
          { read: 'yyyy-MM', raw: '2025-02', as: '2 Feb 2025 – 1 Mar 2025' },
          { read: 'calendar yyyy-MM', raw: '2025-02', as: '1 Feb 2025 – 28 Feb 2025' },
        ],
      },
    ]);
    expect((await ask('net each month')).rows.map(({ step, actual }) => `${step},${actual}`)).toEqual(monthly.slice(1));
    expect((await ask('net during 2026-Q1')).total.actual).toBe(91);
    const other = await worldOf(calendar, monthly, [{ name: 'month', type: 'date', read: 'calendar yyyy-MM' }]);
    expect(other.table.doubts).toEqual([]);
    expect((await other.ask('net during 2025-03-01 to 2025-03-31')).total.actual).toBe(35);
  });

  test('targets for months of the calendar are spread over those of weeks by their days', async () => {
    const { source, vocabulary, report } = await aimsBy(
      'calendar yyyy-MM',
      ['month,aim', '2025-02,28', '2025-03,31'],
      calendar,
    );
    const brief = readBrief('net during 2025-02 against aim', vocabulary);
    // 2 February to 1 March: 27 of the 28 days of February, one of the 31 of March.
    const { total, period } = numbersOf(await answerBrief({ source, report, vocabulary }, brief));
    expect([period.from, period.to, total.benchmark]).toEqual(['2025-02-02', '2025-03-01', 27 + 1]);
  });
});

test('targets for calendar quarters are spread over the report’s own quarters', async () => {
  const { source, vocabulary, report } = await aimsBy('calendar yyyy-Qn', ['quarter,aim', '2025-Q1,90', '2025-Q2,91'], {
    fiscalYearStart: 2,
  });
  const brief = readBrief('net during fiscal 2026 Q1 against aim', vocabulary);
  // February to April: 59 of the 90 days of the first quarter, and 30 of the 91 of the second.
  const { total, period } = numbersOf(await answerBrief({ source, report, vocabulary }, brief));
  expect([period.from, period.to, total.benchmark]).toEqual(['2025-02-01', '2025-04-30', 59 + 30]);
});

test('rows that stand for months are not cut: a period of days that cuts through one is refused with the one that does not', async () => {
  const { ask } = await worldOf({ fiscalYearStart: 1 }, ['month,net', '2024-01,31', '2024-02,29', '2024-03,31']);
  const refused = (words: string) => expect(ask(`net during ${words}`)).rejects;
  await refused('2024-01-15 to 2024-02-15').toMatchObject({
    code: 'period-cuts-rows',
    sentence: '“net” is known for each month only, and 15 Jan 2024 to 15 Feb 2024 is not made of whole months',
    remedy: 'use “during 2024-01-01 to 2024-02-29”',
  });
  await refused('2024-01-01 to 2024-02-28').toMatchObject({ remedy: 'use “during 2024-01-01 to 2024-02-29”' });
  await refused('latest week').toMatchObject({ code: 'period-cuts-rows' });
  expect((await ask('net during 2024-01-01 to 2024-02-29')).total.actual).toBe(60);
  expect((await ask('net during year to date')).checks).toEqual([]);
});

test('where the report stands inside a month that rows stand for, that it counts whole is told', async () => {
  const lines = ['month,net', '2024-01,31', '2024-02,29', '2024-03,31'];
  const { ask } = await worldOf({ fiscalYearStart: 1, asOf: '2024-02-15' }, lines);
  const { total, checks } = await ask('net during year to date');
  expect(total.actual).toBe(60);
  expect(checks).toMatchObject([
    {
      code: 'period-cuts-rows',
      text: '“net” is known for each month: Feb 2024 counts whole, though the period ends on 15 Feb 2024',
    },
  ]);
});
