import fc from 'fast-check';
import { expect, test } from 'vitest';
import { isoDay, MONTH_NAMES } from '../calendar';
import { isProblem } from '../problem';
import { fiscalMonthsIn, writeFiscalMonths } from '.';

const months = fc
  .record({
    place: fc.integer({ min: 1990 * 12, max: 2090 * 12 }),
    from: fc.integer({ min: 7_000, max: 40_000 }),
    lengths: fc.array(fc.integer({ min: 20, max: 45 }), { minLength: 12, maxLength: 40 }),
  })
  .map(({ place, from, lengths }) => {
    const starts = lengths.reduce((days, length) => [...days, days.at(-1)! + length], [from]);
    return { place, starts };
  });
const nameAt = (place: number) => ({ year: Math.floor(place / 12), month: (place % 12) + 1 });
const code = (place: number) => {
  const { year, month } = nameAt(place);
  return `${year}-${String(month).padStart(2, '0')}`;
};

test('law: months are the same however they are listed: by first days, with last days, by weeks, by days, with a line above', () => {
  fc.assert(
    fc.property(months, fc.boolean(), ({ place, starts }, spelt) => {
      const name = (i: number) => {
        const { year, month } = nameAt(place + i);
        return spelt ? `${MONTH_NAMES[month - 1]} ${year}` : code(place + i);
      };
      const wanted = { first: code(place), from: starts.map(isoDay) };
      const each = (line: (i: number) => string) => starts.slice(0, -1).map((_, i) => line(i));
      const days = (i: number, by: number) => {
        const list: string[] = [];
        for (let day = starts[i]!; day < starts[i + 1]!; day += by) list.push(isoDay(day));
        return list;
      };
      const byFirst = [...each((i) => `${name(i)}, ${isoDay(starts[i]!)}`), isoDay(starts.at(-1)!)];
      const byEnds = each((i) => `${name(i)};${isoDay(starts[i]!)};${isoDay(starts[i + 1]! - 1)}`);
      const byDay = starts.slice(0, -1).flatMap((_, i) => days(i, 1).map((day) => `${day}\t${name(i)}`));
      for (const lines of [byFirst, byEnds, byDay, ['month;first;last', ...byEnds]])
        expect(fiscalMonthsIn(lines.join('\n'))).toEqual(wanted);
      expect(fiscalMonthsIn(writeFiscalMonths(wanted))).toEqual(wanted);
    }),
  );
});

test('weeks with the month they belong to, and months without names, which are called after what holds their middle', () => {
  const weeks = Array.from({ length: 53 }, (_, i) => {
    const month = Math.min(11, Math.floor(i / 13) * 3 + [0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 2][i % 13]!);
    return `${isoDay(19_755 + 7 * i)},${code(2024 * 12 + 1 + (i === 52 ? 11 : month))}`;
  });
  const read = fiscalMonthsIn(['Week,Period', ...weeks].join('\r\n'));
  expect([read.first, read.from[0], read.from[1], read.from[11], read.from[12]]).toEqual([
    '2024-02',
    '2024-02-02',
    '2024-03-01',
    '2024-12-27',
    '2025-02-07',
  ]);
  const bare = Array.from({ length: 13 }, (_, i) => isoDay(Date.UTC(2023, 11 + i, 26) / 86_400_000));
  expect(fiscalMonthsIn(bare.join('\n')).first).toBe('2024-01');
});

test.each([
  ['too few', '2024-01,2024-01-01\n2024-02,2024-02-01', null, /1 month is listed, and a year has 12/],
  ['no day', '2024-01,2024-01-01\nlater', 2, /“later” names no day/],
  ['a gap', list((i) => (i === 4 ? '2024-05,2024-05-02,2024-05-31' : null)), 5, /begins on 2024-05-02/],
  ['a name left out', list((i) => (i === 4 ? '2024-07,2024-05-01,2024-05-31' : null)), 5, /2024-07 follows 2024-04/],
  ['out of order', `${list((i) => (i === 4 ? '2023-05,2023-05-01' : null), false)}\n2025-01-01`, 4, /has -\d+ days/],
])('%s is told with its line', (_, text, line, said) => {
  let caught: unknown;
  try {
    fiscalMonthsIn(text, 'months.csv');
  } catch (problem) {
    caught = problem;
  }
  expect(isProblem(caught)).toBe(true);
  expect(isProblem(caught) && [caught.place?.in, caught.place?.line ?? null]).toEqual(['months.csv', line]);
  expect(String(caught)).toMatch(said);
});

/** The months of 2024, some lines written otherwise. */
function list(other: (i: number) => string | null, ends = true): string {
  return Array.from({ length: 12 }, (_, i) => {
    const [from, to] = [Date.UTC(2024, i, 1), Date.UTC(2024, i + 1, 0)].map((time) => isoDay(time / 86_400_000));
    return other(i) ?? `${code(2024 * 12 + i)},${from}${ends ? `,${to}` : ''}`;
  }).join('\n');
}
