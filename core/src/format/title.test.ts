import { beforeAll, describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { answerBrief, type Cells } from '../query';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor, type OpenReport } from '../workspace';
import { fittingTitle, liveTitle, MEMBER_VALUES, readAmount, rowOfMember, shownShares, TITLE_NAMES } from '.';

// Alder 45 against 38, Birch 35 against 40, Cedar 20 without a target, over three months: together 100 against 78.
const ROWS = [
  '2025-01-01,Alder,15,8',
  '2025-01-31,Birch,20,30',
  '2025-01-31,Cedar,5,',
  '2025-02-28,Alder,30,30',
  '2025-02-28,Birch,15,10',
  '2025-02-28,Cedar,15,',
];

const opened = async (aim: string): Promise<OpenReport> => {
  const table = makeTable(await readCsv('t', ['day,shop,net,goal', ...ROWS].join('\n')), { id: 't', date: 'day' });
  const report = checkReport({
    boldRuler: 1,
    name: 't',
    tables: [{ id: 't', source: { file: 't.csv' }, date: 'day' }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)', aim, tolerance: 0.01 }],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
  });
  return workspaceFor(report, new Map([['t', table]]));
};
let raise: OpenReport;
let cut: OpenReport;
let hold: OpenReport;
beforeAll(async () => {
  [raise, cut, hold] = [await opened('raise'), await opened('cut'), await opened('hold')];
});
const cellsOf = (brief: string, desk = raise): Promise<Cells> => answerBrief(desk, readBrief(brief, desk.vocabulary));

describe('a gap between percentages is one of percentage points', () => {
  // A pair of shops sold 45 and 35 of 80; a year before 40 and 40.
  const rateOf = async (brief: string) => {
    const lines = [
      '2024-01-01,Alder,40,100',
      '2024-01-01,Birch,40,100',
      '2025-01-01,Alder,45,100',
      '2025-01-01,Birch,35,100',
    ];
    const table = makeTable(await readCsv('t', ['day,shop,won,asked', ...lines].join('\n')), { id: 't', date: 'day' });
    const report = checkReport({
      boldRuler: 1,
      name: 't',
      tables: [{ id: 't', source: { file: 't.csv' }, date: 'day' }],
      measures: [
        { name: 'win rate', table: 't', expression: 'sum(won) / sum(asked)', format: { style: 'percent' } },
        { name: 'won', table: 't', expression: 'sum(won)' },
      ],
    });
    const desk = workspaceFor(report, new Map([['t', table]]));
    const cells = await answerBrief(desk, readBrief(brief, desk.vocabulary));
    return [liveTitle(fittingTitle(cells), cells), liveTitle('{gap of Birch}, {gap % of Birch}', cells)];
  };
  test('in titles and of members, for rates and for shares', async () => {
    expect(await rateOf('win rate by shop during fiscal 2025 against last year, only shop is Birch')).toEqual([
      'Win rate 35.0%, 5.0\u00a0pp behind last year',
      '5.0\u00a0pp, 12.5%',
    ]);
    const [, member] = await rateOf('share of won by shop during fiscal 2025 against last year');
    expect(member).toBe('6.3\u00a0pp, 12.5%');
  });
});

describe('values in braces', () => {
  test('where a selection can rank nobody, that is said, and not that there are no rows', async () => {
    const cells = await cellsOf('net by shop against goal, only shop is Cedar, keep 2 furthest behind');
    expect(liveTitle(fittingTitle(cells), cells)).toBe('Net by shop: none of 1 can be ranked, and none is shown');
  });
  test('over time members count once each, as their last step stands', async () => {
    const of = async (brief: string) => liveTitle('{members}: {ahead} {level} {behind}', await cellsOf(brief));
    // Alder 30 against 30, Birch 15 against 10; Cedar has no goal.
    expect(await of('net by shop each month against goal')).toBe('3: 1 1 0');
    expect(await of('net each month against goal')).toBe('2: 2 0 0');
  });
  test('of the whole are the numbers of the figure', async () => {
    const cells = await cellsOf('net by shop against goal, only shop is Alder or Birch');
    const of = (name: string) => liveTitle(`x{${name}}`, cells).slice(1);
    expect(Object.fromEntries(TITLE_NAMES.slice(0, 13).map((name) => [name, of(name)]))).toEqual({
      measure: 'net',
      actual: '80',
      benchmark: 'goal',
      'benchmark value': '78',
      gap: '2',
      'gap %': '2.6%',
      period: '1 Jan 2025 – 28 Feb 2025',
      'as of': '28 Feb 2025',
      step: '–',
      members: '2',
      ahead: '1',
      level: '0',
      behind: '1',
    });
    expect([of('first'), of('last'), of('leader')]).toEqual(['Alder', 'Birch', 'Alder']);
  });

  test('of a period say it as people do', async () => {
    const cells = await cellsOf('net by shop during 2025-02');
    expect(liveTitle('{period}, {as of}', cells)).toBe('February 2025, 28 Feb 2025');
  });

  test('of one member are those of its row, and a dash where there is none', async () => {
    const cells = await cellsOf('net by shop against goal');
    const of = (member: string) => MEMBER_VALUES.map((name) => liveTitle(`x{${name} of ${member}}`, cells).slice(1));
    expect(of('Birch')).toEqual(['35', '40', '5', '12.5%', '2', '35.0%', '0', '0 places up']);
    expect(of('Nobody')).toEqual(MEMBER_VALUES.map(() => '–'));
    expect(rowOfMember(cells, 'Birch')).toBe(1);
    expect(rowOfMember(await cellsOf('net against goal'), 'Birch')).toBe(-1);
  });

  test('over time a member’s row is that of its last step with a value, and places are counted from its first', async () => {
    const cells = await cellsOf('rank of net by shop each month');
    expect(liveTitle('{actual of Alder}', cells)).toBe('30');
    expect(liveTitle('{riser} up {places won}, {leader} first', cells)).toBe('Alder up 1, Alder first');
    expect(liveTitle('{places up of Alder}', cells)).toBe('1 place up');
  });

  test('choose words by the standing, and begin with a large letter', async () => {
    const words = '{ahead of|level with|behind} it';
    expect(liveTitle(words, await cellsOf('net against goal, only shop is Alder'))).toBe('Ahead of it');
    expect(liveTitle(words, await cellsOf('net against goal, only shop is Birch'))).toBe('Behind it');
    expect(liveTitle('{well|badly}', await cellsOf('net against goal, only shop is Birch'))).toBe('Badly');
    expect(liveTitle(words, await cellsOf('net by shop'))).toBe('– it');
  });

  test('that do not exist are refused with the closest name and their place', async () => {
    const cells = await cellsOf('net by shop');
    expect(() => liveTitle('Net {actaul} now', cells)).toThrow('did you mean “actual”');
    try {
      liveTitle('Net {actaul} now', cells);
    } catch (error) {
      expect((error as { place: { span: number[] } }).place.span).toEqual([4, 12]);
    }
  });
});

describe('a title that fits', () => {
  const titled = async (brief: string, desk = raise) => {
    const cells = await cellsOf(brief, desk);
    return liveTitle(fittingTitle(cells), cells);
  };
  test.each([
    ['net', 'Net: 100'],
    ['net by shop', 'Net by shop: 100 together'],
    ['share of net by shop', 'Share of net by shop'],
    ['net against goal, only shop is Alder', 'Net 45, 7 (18.4%) ahead of goal'],
    ['net by shop against goal, only shop is Alder or Birch', 'Net 80, 2 (2.6%) ahead of goal; 1 of 2 behind'],
    ['net by shop against goal', 'Net 100, 22 (28.2%) ahead of goal; 1 of 2 behind, 1 without it'],
    ['net each month against goal, only shop is Birch', 'Net 35, 5 (12.5%) behind goal'],
    ['rank of net by shop', 'Alder first in net'],
    ['change in net each month', 'Change in net: 20 in Feb 2025'],
    ['change in net each year', 'Change in net each year'],
  ])('“%s” is “%s”', async (brief, title) => expect(await titled(brief)).toBe(title));

  test('says what is better by the measure’s aim', async () => {
    const birch = 'net against goal, only shop is Birch';
    expect(await titled(birch, cut)).toBe('Net 35, 5 (12.5%) better than goal');
    expect(await titled(birch, hold)).toBe('Net 35, 5 (12.5%) away from goal');
    expect(await titled('net by shop against goal, only shop is Alder or Birch', cut)).toBe(
      'Net 80, 2 (2.6%) worse than goal; 1 of 2 behind',
    );
  });
});

describe('shares as they are shown', () => {
  test('add up in each step, by the largest remainder', () => {
    const third = 1 / 3;
    const shown = shownShares({ count: 6, steps: Int32Array.of(1, 2, 1, 2, 1, 2) }, [
      third,
      0.5,
      third,
      0.25,
      third,
      0.25,
    ]);
    expect([...shown]).toEqual([0.334, 0.5, 0.333, 0.25, 0.333, 0.25]);
  });
  test('blank stays blank', () => {
    const shown = shownShares({ count: 3, steps: null }, [0.6, NaN, 0.4], 0);
    expect([...shown]).toEqual([0.6, NaN, 0.4]);
  });
});

test.each([
  ['5000', 5000],
  ['5,000', 5000],
  ['5K', 5000],
  ['10M', 10_000_000],
  ['€5M', 5_000_000],
  ['1.5', 1.5],
  ['1.234,5', 1234.5],
  ['−3', -3],
  ['-3', -3],
  [' 7 ', 7],
  ['1e3', 1000],
  ['', null],
  ['five', null],
  ['12 thous', null],
])('an amount typed as “%s” is %s', (text, value) => expect(readAmount(text)).toBe(value));
