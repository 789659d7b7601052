import { expect, test } from 'vitest';
import { writeView } from '../brief';
import {
  dayOf,
  isoDay,
  hasOwnMonths,
  monthStart,
  readIsoDay,
  stepCode,
  writtenDay,
  type FiscalCalendar,
} from '../calendar';
import { numbersFor, type Drawn } from '../figure';
import { suggestionsOf } from '../suggestion';
import { liveTitle } from '../format';
import { sheetColumns, tablesOf } from '../office';
import { isProblem } from '../problem';
import { numbersOf } from '../figure';
import { type Cells, type Numbers, type NumbersRow } from '../query';
import { reckon, WHOLE } from '../reckoning';
import { BLANK_MEMBER } from '../table';
import { numbersIn } from './readBack.fixture';
import { check, inWorlds, toldBy, type Known } from './world.fixture';

// What leaves the page in other ways than the figure itself: the workbook, the tables of slides, notes, findings and reckonings.

const orNull = (value: number | null | undefined) => value ?? null;

/** What a column of the workbook holds, by what it is called. */
function columnValue(name: string, cells: Cells, row: NumbersRow): unknown {
  const held = cells.benchmark?.name;
  const byName: Readonly<Record<string, unknown>> = {
    rows: row.rows,
    rank: orNull(row.rank),
    share: orNull(row.share),
    'places won': orNull(row.rankChange),
    landing: orNull(row.landing),
    'step begins': orNull(row.start),
    'step ends': orNull(row.end),
    'gap to due': orNull(row.dueGap),
    'gap to due %': orNull(row.dueGapPercent),
    'standing to due': row.dueStanding ?? null,
    ...(held === undefined
      ? {}
      : {
          [held]: orNull(row.benchmark),
          [`${held} due by now`]: orNull(row.due),
          [`${held}, lowest of 95 in 100`]: orNull(row.low),
          [`${held}, highest of 95 in 100`]: orNull(row.high),
          [`gap to ${held}`]: orNull(row.gap),
          [`gap to ${held} %`]: orNull(row.gapPercent),
          [`standing to ${held}`]: row.standing ?? null,
        }),
  };
  if (cells.view.kind === 'rank' && name === writeView(cells.view)) return orNull(row.rank);
  if (Object.hasOwn(byName, name)) return byName[name];
  if (cells.fields.includes(name)) return row.key[name] ?? (row.rest && name !== cells.fields[0] ? null : BLANK_MEMBER);
  return undefined;
}

/** Days the spreadsheet counts from 30 December 1899. */
const dayOfSerial = (serial: number) => isoDay(serial + readIsoDay('1899-12-30')!);

function checkWorkbook(drawn: Drawn): void {
  const cells = numbersFor(drawn);
  const numbers = numbersOf(cells);
  const { columns, lines } = sheetColumns(cells, numbers);
  expect(lines).toHaveLength(numbers.rows.length);
  expect(new Set(columns.map(({ name }) => name.toLowerCase())).size).toBe(columns.length);
  let amounts = 0;
  lines.forEach((line, i) => {
    const row = numbers.rows[i]!;
    line.forEach((cell, c) => {
      const { name, format } = columns[c]!;
      const expected = columnValue(name, cells, row);
      if (cells.grain === name) {
        const named = typeof cell === 'number' ? dayOfSerial(cell) : cell;
        expect(named).toBe(cells.grain === 'month' && row.step !== null ? `${row.step}-01` : row.step);
      } else if (expected !== undefined) expect(cell, name).toBe(expected);
      else {
        amounts++;
        expect([row.actual, ...Object.values(row.values ?? {})], name).toContain(cell);
      }
      if (name.endsWith('%') || name === 'share') expect(format).toContain('%');
    });
  });
  if (lines.length > 0) expect(amounts).toBeGreaterThanOrEqual(lines.length);
}

/** The tables on slides: every line of the numbers, in their order, until the number of slides is full. */
function checkSlides(drawn: Drawn): void {
  const cells = numbersFor(drawn);
  const numbers = numbersOf(cells);
  let at = 0;
  for (const { about, lines, header } of tablesOf(drawn)) {
    const said = /rows (\d+) to (\d+) of (\d+)(?: · (\d+) more)?/.exec(about);
    if (said) {
      expect(Number(said[1])).toBe(at + 1);
      expect(Number(said[2])).toBe(at + lines.length);
      expect([numbers.rows.length, numbers.rows.length + 1]).toContain(Number(said[3]));
      if (said[4]) expect(Number(said[4])).toBe(Number(said[3]) - at - lines.length);
    }
    for (const line of lines) {
      expect(line).toHaveLength(header.length);
      const row = numbers.rows[at++];
      const known = row ? [...toldBy(row), row.rows] : [...toldBy(numbers.total), numbers.total.rows];
      line.forEach(({ text }, c) => c > 0 && check(`a slide’s ${header[c]!}`, text, known));
    }
  }
  expect(at).toBeGreaterThanOrEqual(Math.min(numbers.rows.length, 1));
}

/** The days of a month: of the calendar, or of a fiscal one that has others. */
function daysOfMonth(calendar: FiscalCalendar, year: number, month: number): string[] {
  const first = hasOwnMonths(calendar) ? monthStart({ year, month }, calendar) : dayOf(year, month, 1);
  const days: string[] = [];
  for (let day = first; stepCode('month', day, calendar) === `${year}-${String(month).padStart(2, '0')}`; day++)
    days.push(isoDay(day));
  return days;
}

/** Notes: the days they name, the days they count, and whom they name. */
function checkNotes(
  { rows: cells }: Drawn,
  { sales, goals }: { sales: readonly string[]; goals: readonly string[] },
): void {
  const { period, asOf } = numbersOf(cells);
  const monthOfDay = (day: string) => stepCode('month', readIsoDay(day)!, cells.calendar);
  for (const { code, text } of cells.checks) {
    expect(text).not.toMatch(/NaN|undefined|\[object|\b1 (rows|days|members|steps)\b/);
    if (code === 'part-period-against-whole')
      expect(text).toContain(`runs to ${period.to} and actuals only to ${asOf}`);
    if (code === 'running-step' && text.includes('known up to'))
      expect(text).toContain(`known up to ${writtenDay(readIsoDay([period.to!, asOf!].sort()[0]!)!)} only`);
    if (code === 'spread' || code === 'due-spread') {
      const last = code === 'spread' ? period.to! : asOf!;
      const counts = /(\d+) of (\d+) days? /.exec(text);
      if (!counts) continue;
      const month = /the (\w+ \d{4}) target/.exec(text)![1]!;
      const first = new Date(`1 ${month} UTC`);
      const days = daysOfMonth(cells.calendar, first.getUTCFullYear(), first.getUTCMonth() + 1);
      const inside = days.filter((day) => day >= period.from! && day <= last);
      expect(text).toContain(`${inside.length} of ${days.length} `);
    }
    if (code === 'members-without-target') {
      const withTarget = new Set(goals.map((line) => line.split(',')[1]!));
      const named = /no target for (.*), and what/.exec(text)![1]!;
      const sold = new Set(sales.map((line) => line.split(',')[1]!));
      for (const one of named.split(/, | and /).filter((part) => !/\d/.test(part))) {
        expect(sold).toContain(one);
        // Who has a goal at all may lack one in this period, but not in all of them.
        if (withTarget.has(one))
          expect(
            goals.filter(
              (line) =>
                line.split(',')[1] === one &&
                line.slice(0, 7) >= monthOfDay(period.from!) &&
                line.slice(0, 7) <= monthOfDay(period.to!),
            ),
          ).toHaveLength(0);
      }
    }
  }
}

function checkFindings(drawn: Drawn): void {
  const { rows: cells } = drawn;
  const numbers: Numbers = numbersOf(cells);
  const held = (numbers.shown ?? numbers.total).benchmark;
  const landings: Known = (numbers.landings ?? []).flatMap((one) => {
    const landing = one.landing as number;
    return [landing, landing - ((one.benchmarkEnd as number | null) ?? held ?? NaN)];
  });
  const places = numbers.rows.flatMap(({ rank }) => rank ?? []);
  const won = Array.from({ length: Math.max(0, ...places) + 1 }, (_, i) => i);
  for (const { text } of suggestionsOf(cells)) {
    const said = liveTitle(text, cells);
    check('a finding', said, [
      ...numbers.rows.flatMap(toldBy),
      ...toldBy(numbers.total),
      ...(numbers.shown ? toldBy(numbers.shown) : []),
      ...landings,
      ...won,
    ]);
  }
}

const near = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));

/** The reckoning of a row and of the whole: its arithmetic comes to what it says, and what it says is the row's number. */
async function checkReckoning(drawn: Drawn, desk: Parameters<Parameters<typeof inWorlds>[2]>[1]): Promise<void> {
  const { rows: cells } = drawn;
  if (cells.count === 0) return;
  const numbers = numbersOf(cells);
  for (const row of [0, cells.count - 1, WHOLE]) {
    const reckoned = await reckon(desk, drawn, row).catch((error: unknown) => {
      // Steps, ranks and the like have no whole that is one number, and say so.
      if (row === WHOLE && isProblem(error) && error.code === 'no-whole') return { sentences: [] };
      throw error;
    });
    const { sentences } = reckoned;
    for (const { sum, about, text } of sentences) {
      expect(text).not.toMatch(/NaN|undefined|\[object/);
      if (!sum) continue;
      expect(sum.text).toMatch(/^[\d\s.+\-*/()eE]+$/);
      const comes = Number(new Function(`return (${sum.text.replaceAll('--', '- -')})`)());
      if (!near(comes, sum.value)) throw new Error(`${sum.text} is not ${sum.value}`);
      if (about !== 'gap' || row === WHOLE) continue;
      const { gap, gapPercent, dueGap, dueGapPercent } = numbers.rows[row]!;
      if (![gap, gapPercent, dueGap, dueGapPercent].some((one) => near(one ?? NaN, sum.value)))
        throw new Error(`${JSON.stringify(sentences)} is not ${JSON.stringify(numbers.rows[row])}`);
    }
  }
}

test('workbook, slides, notes, findings and reckonings tell the numbers of the figure', () =>
  inWorlds(150, 40, async (drawn, desk) => {
    checkWorkbook(drawn);
    checkSlides(drawn);
    checkNotes(drawn, desk);
    checkFindings(drawn);
    await checkReckoning(drawn, desk);
    for (const { text } of drawn.rows.checks)
      for (const { size } of numbersIn(text)) expect(Number.isFinite(size)).toBe(true);
  }));
