import { describe, expect, test } from 'vitest';
import { editedPlain } from '../edit';
import { accepting, checkReport } from '../report';
import { LEVEL_CHECKS } from '.';
import {
  LINES,
  LOOKED_UP,
  MANY_DAYS,
  PLAN,
  ALL_MONTHS,
  IN_EUROS,
  inCurrencies,
  ratesOf,
  type Made,
  RULE,
  findingsOf,
  reportOf,
  numbers,
  shops,
  PRICED,
  page,
  OUTLOOK,
  YEARS,
  DOUBLED,
  QUARTERS,
  readAs,
  monthsFrom,
} from './level.fixture';

/** What is found by a check, and what is not; with a repair, it is gone afterwards. */
const CASES: readonly (readonly [code: string, found: Made, well: Made])[] = [
  ['cannot-be-drawn', { brief: 'nett by shop' }, {}],
  ['not-from-zero', { look: { domain: [50, 400] } }, { look: { domain: [0, 400] } }],
  [
    'static-benchmark',
    { brief: 'net by shop against flat as bullet' },
    { brief: 'net by shop against each as bullet' },
  ],
  [
    'part-period-against-whole',
    { brief: 'net by shop during fiscal 2026 against plan as bullet' },
    { brief: 'net by shop during fiscal 2026 to date against plan as bullet' },
  ],
  [
    'filter-not-followed',
    { brief: 'net by shop during fiscal 2026 to date against plan as bullet, only channel is Web' },
    { brief: 'net by shop during fiscal 2026 to date against plan as bullet, only shop is North' },
  ],
  [
    'partly-covered',
    { brief: 'net by shop during 2025-09-01 to 2025-12-31 against plan as bullet' },
    { brief: 'net by shop during 2025-09-01 to 2025-12-31 against plan as bullet', plan: [...PLAN, '2025-10,South,1'] },
  ],
  [
    'periods-out-of-step',
    { brief: 'net each quarter during fiscal 2025 as trend', lines: QUARTERS, more: readAs('calendar yyyy-Qn') },
    { brief: 'net each quarter during fiscal 2025 as trend', lines: QUARTERS, more: readAs('yyyy-Qn') },
  ],
  [
    'per-which-member',
    { brief: 'net against each as headline' },
    { brief: 'net against each as headline, only shop is North' },
  ],
  [
    'more-than-drawn',
    { lines: shops(...Array.from({ length: 401 }, (_, i) => `2025-09-05,Shop ${i},Web,${i + 1},1`)) },
    { lines: shops(...Array.from({ length: 400 }, (_, i) => `2025-09-05,Shop ${i},Web,${i + 1},1`)) },
  ],
  ['targets-unmatched', { plan: [...PLAN, '2025-09,N. North,90'] }, {}],
  ['keys-twice', { more: { tables: LOOKED_UP }, plan: [...PLAN, '2025-09,North,90'] }, { more: { tables: LOOKED_UP } }],
  ['keys-not-found', { more: { tables: LOOKED_UP }, plan: PLAN.slice(0, -1) }, { more: { tables: LOOKED_UP } }],
  ['double-rows', { lines: [...LINES, '2026-01-05,North,Web,7,1', '2026-01-05,North,Web,7,1'] }, {}],
  ['names-alike', { lines: [...LINES, '2026-01-05,north,Web,1,1'] }, {}],
  [
    'tie-at-the-edge',
    { brief: 'net by shop during fiscal 2026 to date as bars, keep 2 highest' },
    { brief: 'net by shop during fiscal 2026 to date as bars, keep 1 highest' },
  ],
  [
    'fewer-than-asked',
    { brief: 'net by shop as bars, keep 9 highest' },
    { brief: 'net by shop as bars, keep 2 highest' },
  ],
  [
    'one-side-only',
    { brief: 'net by shop during fiscal 2026 to date against last year as bullet' },
    { brief: 'net by shop against goal as bullet' },
  ],
  [
    'percent-of-nothing',
    { brief: 'net by shop against goal as bullet', lines: shops('2025-09-05,North,Web,5,-3') },
    { brief: 'net by shop against goal as bullet' },
  ],
  ['double-targets', { plan: [...PLAN, '2025-09,North,90'] }, {}],
  [
    'rows-left-out',
    { brief: 'net by shop during fiscal 2026 as bars', lines: [...LINES, '2026-01-06,North,Web,unknown,1'] },
    // A row without a day is told by another check.
    { brief: 'net by shop during fiscal 2026 as bars', lines: [...LINES, 'no day,North,Web,1,1'] },
  ],
  [
    'share-of-some',
    { brief: 'share of net by shop as bars, keep 2 highest' },
    { brief: 'share of net by shop as bars, keep 50 highest' },
  ],
  [
    'rule-gap',
    { more: numbers({ id: 'low', when: { to: 10 }, ...RULE }, { id: 'high', when: { from: 20 }, ...RULE }) },
    { more: numbers({ id: 'low', when: { to: 10 }, ...RULE }, { id: 'high', when: { from: 10 }, ...RULE }) },
  ],
  [
    'rule-overlap',
    { more: numbers({ id: 'low', when: { to: 30 }, ...RULE }, { id: 'high', when: { from: 20 }, ...RULE }) },
    { more: numbers({ id: 'low', when: { to: 20 }, ...RULE }, { id: 'high', when: { from: 20 }, ...RULE }) },
  ],
  [
    'rule-unreached',
    { more: numbers({ id: 'all', when: { from: 0 }, ...RULE }, { id: 'some', when: { from: 5, to: 9 }, ...RULE }) },
    { more: numbers({ id: 'some', when: { from: 5, to: 9 }, ...RULE }) },
  ],
  [
    'hard-to-see',
    { more: numbers({ id: 'faint', when: { from: 0 }, encode: { ink: '#DDDDAA' }, on: true }) },
    { more: numbers({ id: 'deep', when: { from: 0 }, encode: { ink: '#3A2A6B' }, on: true }) },
  ],
  [
    'broken-totals',
    { brief: 'net by shop against goal as waterfall', look: { zoom: true } },
    { brief: 'net by shop against goal as waterfall' },
  ],
  [
    'one-dwarfs-the-others',
    { lines: shops('2025-09-05,A,Web,1,1', '2025-09-05,B,Web,2,1', '2025-09-05,C,Web,2,1', '2025-09-05,D,Web,900,1') },
    {},
  ],
  [
    'rates-added-up',
    {
      more: { measures: [{ name: 'net', table: 'orders', expression: 'sum(net) + sum("unit price")' }] },
      lines: PRICED,
    },
    { more: { measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }] }, lines: PRICED },
  ],
  [
    'text-order',
    {
      lines: shops(
        '2025-09-05,Jan,Web,5,3',
        '2025-09-05,Feb,Web,5,3',
        '2025-09-05,Mar,Web,5,3',
        '2025-09-05,Apr,Web,1,1',
      ),
    },
    {
      lines: shops(
        '2025-09-05,Jan,Web,5,3',
        '2025-09-05,Feb,Web,5,3',
        '2025-09-05,Mar,Web,5,3',
        '2025-09-05,Else,Web,1,1',
      ),
    },
  ],
  [
    'stale-finding',
    { brief: 'net by shop against goal as bullet', more: { pages: page('West') } },
    { brief: 'net by shop against goal as bullet', more: { pages: page('South') } },
  ],
  [
    'rows-without-date',
    { brief: 'net by shop during fiscal 2026 as bars', lines: [...LINES, ',North,Web,1,1'] },
    { brief: 'net by shop during all time as bars', lines: [...LINES, ',North,Web,1,1'] },
  ],
  [
    'far-days',
    { brief: 'net by shop as bars', lines: [...MANY_DAYS, '9999-12-31,North,Web,1,1'] },
    { brief: 'net by shop as bars', lines: [...MANY_DAYS, '2027-12-31,North,Web,1,1'] },
  ],
  [
    'days-unlisted',
    { brief: 'net by shop during all time as bars', more: monthsFrom('2025-09-01') },
    { brief: 'net by shop during all time as bars', more: monthsFrom('2024-09-01', 36) },
  ],
  [
    'members-without-target',
    {
      brief: 'net during fiscal 2026 against plan as headline',
      plan: PLAN.filter((line) => !line.includes('West')),
    },
    { brief: 'net during fiscal 2026 against plan as headline' },
  ],
  [
    'not-exact',
    {
      brief: 'net by shop as bars',
      lines: [...LINES, '2026-01-05,North,Web,90071992547409.93,1', '2026-01-05,North,Web,90071992547409.93,1'],
    },
    { brief: 'net by shop as bars', lines: [...LINES, '2026-01-05,North,Web,9007199254740.93,1'] },
  ],
  [
    'stray-quotes',
    { brief: 'net by shop as bars', lines: [...LINES, '2026-01-05,"North,Web,1,1', ...LINES.slice(1)] },
    { brief: 'net by shop as bars', lines: [...LINES, '2026-01-05,"North",Web,1,1', ...LINES.slice(1)] },
  ],
  [
    'damaged-cells',
    { brief: 'net by shop as bars', lines: [...LINES, '2026-01-05,Nörd,Web,1,1', '2026-01-05,N\uFFFFrd,Web,1,1'] },
    { brief: 'net by shop as bars', lines: [...LINES, '2026-01-05,Nörd,Web,1,1'] },
  ],
  [
    'history-too-short',
    { brief: 'net each month during fiscal 2026 against outlook as trend', more: OUTLOOK },
    { brief: 'net each month during fiscal 2026 against outlook as trend', more: OUTLOOK, lines: YEARS },
  ],
  [
    'backtest',
    { brief: 'net each month during fiscal 2026 against outlook as trend', more: OUTLOOK, lines: DOUBLED },
    { brief: 'net each month during fiscal 2026 against outlook as trend', more: OUTLOOK, lines: YEARS },
  ],
  [
    'left-away',
    { brief: 'net during all time against goal as headline', look: { references: ['last year'] } },
    { brief: 'net against goal as headline', look: { references: ['flat'] } },
  ],
  [
    'note-adrift',
    { brief: 'net by shop as bars', look: { notes: [{ text: 'strike', at: { key: { shop: 'Nowhere' } } }] } },
    { brief: 'net by shop as bars', look: {} },
  ],
  [
    'currencies-added',
    { lines: inCurrencies('EUR', 'USD'), plan: ratesOf(...ALL_MONTHS) },
    { lines: inCurrencies('EUR'), plan: ratesOf(...ALL_MONTHS) },
  ],
  [
    'rate-missing',
    { lines: inCurrencies('USD', 'EUR'), plan: ratesOf(...ALL_MONTHS.slice(1, 2)), more: IN_EUROS },
    { lines: inCurrencies('USD', 'EUR'), plan: ratesOf(...ALL_MONTHS), more: IN_EUROS },
  ],
  ['labels-dropped', { brief: 'net by shop against goal as bars', look: { width: 200, height: 80 } }, {}],
];
describe.each(CASES)('the check “%s”', (code, found, well) => {
  test('finds what it looks for and nothing else, and its repair makes it go away', async () => {
    const report = reportOf(found);
    const [finding] = (await findingsOf(report, found)).filter((one) => one.code === code);
    expect(finding).toBeDefined();
    expect(finding!.why).not.toBe('');
    expect((await findingsOf(reportOf(well), well)).filter((one) => one.code === code)).toEqual([]);
    if (!finding!.repair) return;
    const mended = checkReport(JSON.parse(JSON.stringify(editedPlain(report, finding!.repair.edit).report)));
    expect((await findingsOf(mended, found)).filter((one) => one.code === code)).toEqual([]);
  });
});
test('every check has a case here', () => {
  expect(LEVEL_CHECKS.map(({ code }) => code).sort()).toEqual(CASES.map(([code]) => code).sort());
});
test.each<[code: string, why: string, made: Made]>([
  ['broken-totals', 'a form without totals', { brief: 'net by shop against goal as bars', look: { zoom: true } }],
  [
    'double-targets',
    'a table of rows, not of targets',
    {
      more: { benchmarks: [{ name: 'as sold', kind: 'table', table: 'orders', expression: 'sum(net)' }] },
      lines: [...LINES, LINES[1]!],
    },
  ],
  [
    'static-benchmark',
    'a number for a field’s members',
    {
      brief: 'net by shop against flat as bullet',
      more: { benchmarks: [{ name: 'flat', kind: 'fixed', value: 200, per: ['channel'] }] },
    },
  ],
  [
    'static-benchmark',
    'a number for each month, month by month',
    {
      brief: 'net each month during fiscal 2026 to date against flat as trend',
      more: { benchmarks: [{ name: 'flat', kind: 'fixed', value: 200, per: ['month'] }] },
    },
  ],
])('the check “%s” says nothing of %s', async (code, _, made) => {
  expect((await findingsOf(reportOf(made), made)).filter((one) => one.code === code)).toEqual([]);
});
test('a number for the whole period is told of where each step has a part of it', async () => {
  const made = { brief: 'net by shop each month during fiscal 2026 against flat as trend' };
  const [found] = (await findingsOf(reportOf(made), made)).filter(({ code }) => code === 'static-benchmark');
  expect(found!.text).toMatch(
    /^“flat” is 200 for all members together and the whole period, so each of \d+ has an even part of it and each month has the part of its days;/,
  );
});
test('a benchmark that adds rates up is told of, and averages them by its repair', async () => {
  const made: Made = {
    more: { benchmarks: [{ name: 'priced', kind: 'expression', expression: 'sum("unit price")' }] },
    lines: PRICED,
  };
  const report = reportOf(made);
  const [found] = (await findingsOf(report, made)).filter(({ code }) => code === 'rates-added-up');
  expect(found).toMatchObject({ about: { kind: 'benchmark', id: 'priced' } });
  const { report: after } = editedPlain(report, found!.repair!.edit);
  expect(after.benchmarks).toMatchObject([{ expression: 'avg("unit price")' }]);
});
test('a finding that is let stand keeps its reason, comes last, and can be opened again', async () => {
  const made: Made = { look: { domain: [50, 400] }, plan: [...PLAN, '2025-09,North,90'] };
  const report = reportOf(made);
  const of = { code: 'not-from-zero', about: 'figure', id: 'f' } as const;
  const accepted = checkReport(JSON.parse(JSON.stringify(accepting(report, of, 'The base is known to everyone'))));
  const findings = await findingsOf(accepted, made);
  expect(findings.map((one) => [one.code, one.accepted])).toEqual([
    ['double-targets', null],
    ['not-from-zero', 'The base is known to everyone'],
  ]);
  expect(accepting(accepted, of, null)).toEqual(report);
});
