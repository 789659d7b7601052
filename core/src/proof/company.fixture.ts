import fc from 'fast-check';
import { dayOf, isoDay, PATTERNS, WEEKDAYS, type FiscalWeeks } from '../calendar';
import { fileOf } from '../reading';
import { checkReport, filesOf, isInDatabase, type Report } from '../report';
import { openReportWith, type OpenReport } from '../workspace';
import { briefOf, question } from './world.fixture';

// Companies as they hand in files: any calendar, sales by day, month, quarter or year, targets of any grain, lookups, names read as
// others, rows that came twice, several currencies, a second table of facts; and a page of random figures over them.

const SHOPS = ['Alder', 'Birch', 'Cedar', 'Dune', 'Elm'];
const LINES = ['brass', 'keys'];
const PRODUCTS = ['p1', 'p2', 'p3', 'p4'];
const CURRENCIES = ['EUR', 'USD', 'CHF'];
const FAMILIES = ['Melody', 'Melody', 'Rhythm', 'Rhythm'];

type Grain = 'day' | 'month' | 'quarter' | 'year';
const GRAINS: readonly Grain[] = ['day', 'month', 'quarter', 'year'];
/** How a grain's periods are read where they are not the report's own. */
const CALENDAR_READS: Partial<Record<Grain, string>> = {
  month: 'calendar yyyy-MM',
  quarter: 'calendar yyyy-Qn',
  year: 'calendar yyyy',
};

const weeks: fc.Arbitrary<FiscalWeeks> = fc.record({
  pattern: fc.constantFrom(...PATTERNS),
  ends: fc.constantFrom(...WEEKDAYS),
  on: fc.constantFrom<'last' | 'nearest'>('last', 'nearest'),
  of: fc.integer({ min: 1, max: 12 }),
});

const calendar = fc.record({
  fiscalYearStart: fc.integer({ min: 1, max: 12 }),
  fiscalYearNamed: fc.constantFrom('end', 'start'),
  weekStart: fc.constantFrom('monday', 'sunday'),
  asOf: fc.constantFrom('auto', 'auto', '2025-03-31', '2025-02-27'),
  own: fc.oneof(
    fc.constant({}),
    weeks.map((weeks) => ({ weeks })),
    fc.integer({ min: 2, max: 28 }).map((day) => ({ months: listedFrom(day) })),
  ),
  rest: fc.constantFrom(
    {},
    {},
    { holidays: ['2024-12-25', '2025-01-01'] },
    { workweek: ['monday', 'tuesday', 'thursday'] },
  ),
});

/** Years by a table: months from one day of the calendar's months to the next, called after the month they end in. */
function listedFrom(day: number) {
  const from = Array.from({ length: 49 }, (_, i) =>
    isoDay(dayOf(2021 + Math.floor((i + 5) / 12), ((i + 5) % 12) + 1, day)),
  );
  return { first: '2021-07', from };
}

const company = fc.record({
  seed: fc.nat(),
  rows: fc.constantFrom(3, 40, 160),
  shops: fc.integer({ min: 1, max: 5 }),
  calendar,
  salesBy: fc.constantFrom<Grain>('day', 'day', 'day', 'day', 'day', 'month', 'month', 'quarter', 'year'),
  goalsBy: fc.constantFrom<Grain>(...GRAINS),
  /** Periods are said to be the calendar's; or not said, and then they are the report's. */
  calendarRead: fc.constantFrom(false, false, true),
  goalFields: fc.constantFrom<readonly string[]>(['shop'], ['shop'], ['line'], []),
  goalGaps: fc.boolean(),
  spread: fc.constantFrom('even', 'even', 'workdays', 'last year'),
  split: fc.constantFrom('none', 'even', 'last year'),
  isJoined: fc.boolean(),
  isSame: fc.boolean(),
  repeats: fc.boolean(),
  leveled: fc.boolean(),
  /** Amounts in several currencies: as they are, by rates of their own months (of which some may be missing), or by those of one month. */
  money: fc.constantFrom<'one' | 'added' | 'own' | 'missing' | 'fixed'>(
    'one',
    'one',
    'one',
    'added',
    'own',
    'missing',
    'fixed',
  ),
  /** Its page offers periods to choose from. */
  offersPeriods: fc.boolean(),
});
type Described = typeof company extends fc.Arbitrary<infer C> ? C : never;

/** A company as files: their names and texts, and the report over them. */
export interface Company {
  readonly files: Readonly<Record<string, string>>;
  readonly report: Report;
}

/** A period's name as a file writes it: its day, or `2024-03`, `2024-Q1`, `2024`. */
function writtenAs(grain: Grain, day: string): string {
  if (grain === 'day') return day;
  if (grain === 'month') return day.slice(0, 7);
  if (grain === 'year') return day.slice(0, 4);
  return `${day.slice(0, 4)}-Q${Math.ceil(Number(day.slice(5, 7)) / 3)}`;
}

function writtenFiles(c: Described): Record<string, string> {
  let state = c.seed >>> 0;
  const next = (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * below);
  };
  const day = (n: number) => isoDay(dayOf(2023, 7, 1) + n);
  const shops = SHOPS.slice(0, c.shops);
  const nameOf = (shop: string) => (c.isSame && next(4) === 0 ? `${shop} Ltd` : shop);
  const sales = Array.from({ length: c.rows }, () => {
    const net = next(12) === 0 ? '' : (next(9_000) - 1_500) / 100;
    const when = writtenAs(c.salesBy, day(next(640)));
    const sold = `${when},${nameOf(shops[next(c.shops)]!)},${LINES[next(2)]},${PRODUCTS[next(4)]},${net},${next(9) + 1}`;
    return c.money === 'one' ? sold : `${sold},${CURRENCIES[next(3)]}`;
  });
  if (c.repeats) sales.push(...sales.slice(0, 3));
  const goals: string[] = [];
  const keys = c.goalFields.includes('shop') ? shops : c.goalFields.includes('line') ? LINES : [''];
  for (const key of keys) {
    const periods = new Set(
      Array.from({ length: 1_100 }, (_, n) => writtenAs(c.goalsBy, isoDay(dayOf(2022, 7, 1) + n))),
    );
    const most = { day: 4, month: 400, quarter: 1_200, year: 4_800 }[c.goalsBy];
    for (const period of periods)
      if (!c.goalGaps || next(6) > 0)
        goals.push(`${[period, ...(key ? [key] : [])].join(',')},${next(most * 100) / 100}`);
  }
  const visits = Array.from({ length: c.rows }, () => `${day(next(640))},${shops[next(c.shops)]},${next(90)}`);
  const half = isInTwo(c) ? sales.length >> 1 : sales.length;
  const salesFile = (rows: readonly string[]) =>
    [`${c.salesBy},shop,line,product,net,pieces${c.money === 'one' ? '' : ',currency'}`, ...rows].join('\n');
  const rates = Array.from({ length: 24 }, (_, n) =>
    isoDay(dayOf(2023 + Math.floor((n + 6) / 12), ((n + 6) % 12) + 1, 1)).slice(0, 7),
  );
  return {
    'sales.csv': salesFile(sales.slice(0, half)),
    ...(isInTwo(c) ? { 'later sales.csv': salesFile(sales.slice(half)) } : {}),
    'goals.csv': [[c.goalsBy, ...c.goalFields, 'goal'].join(','), ...goals].join('\n'),
    'products.csv': ['product,family', ...PRODUCTS.map((name, i) => `${name},${FAMILIES[i]}`)].join('\n'),
    ...(hasRates(c)
      ? {
          'rates.csv': [
            'month,currency,rate',
            ...rates.flatMap((month) =>
              ['USD', 'CHF'].flatMap((code) => {
                const rate = 0.8 + next(400) / 1_000;
                return c.money === 'missing' && next(9) === 0 ? [] : [`${month},${code},${rate}`];
              }),
            ),
          ].join('\n'),
        }
      : {}),
    'visits.csv': ['day,shop,visits', ...visits].join('\n'),
  };
}
/** Whether its amounts are converted by a table of rates. */
const hasRates = ({ money }: Described): boolean => money !== 'one' && money !== 'added';
/** Whether its sales come in two files, which are one table. */
const isInTwo = ({ rows }: Described): boolean => rows > 1 && rows % 3 === 0;

const FILTERS = ['shop', 'line', 'family'];

/** A company, with a page of the figures of these briefs. */
function companyOf(c: Described, briefs: readonly string[]): Company {
  const read = (grain: Grain) => {
    const said = c.calendarRead ? CALENDAR_READS[grain] : undefined;
    return said ? { columns: [{ name: grain, type: 'date', read: said }] } : {};
  };
  const { own, rest, ...years } = c.calendar;
  const currency = hasRates(c)
    ? {
        currency: {
          column: 'currency',
          rates: 'rates',
          to: 'EUR',
          at: c.money === 'fixed' ? '2024-05' : 'own',
          amounts: ['net'],
        },
      }
    : {};
  const report = checkReport({
    boldRuler: 1,
    name: 'A company',
    calendar: { ...years, ...rest, ...own },
    tables: [
      {
        id: 'sales',
        source: isInTwo(c) ? { files: ['sales.csv', 'later sales.csv'] } : { file: 'sales.csv' },
        date: c.salesBy,
        grain: c.salesBy,
        ...read(c.salesBy),
        ...(c.repeats ? { repeats: { by: 'row', keep: 'first' } } : {}),
        ...(c.isJoined ? { joins: [{ columns: ['product'], to: 'products', on: ['product'] }] } : {}),
        ...(c.isSame ? { same: { shop: Object.fromEntries(SHOPS.map((shop) => [`${shop} Ltd`, shop])) } } : {}),
        derived: [{ name: 'size', expression: "case when pieces > 5 then 'large' else 'small' end" }],
      },
      { id: 'goals', source: { file: 'goals.csv' }, date: c.goalsBy, grain: c.goalsBy, ...read(c.goalsBy) },
      ...(c.isJoined ? [{ id: 'products', source: { file: 'products.csv' } }] : []),
      { id: 'visits', source: { file: 'visits.csv' }, date: 'day' },
      ...(hasRates(c)
        ? [{ id: 'rates', source: { file: 'rates.csv' }, date: 'month', rates: { currency: 'currency', rate: 'rate' } }]
        : []),
    ],
    measures: [
      {
        name: 'net',
        table: 'sales',
        expression: 'sum(net)',
        format: { style: 'currency', currency: 'EUR' },
        ...currency,
      },
      { name: 'price', table: 'sales', expression: 'sum(net) / sum(pieces)', tolerance: 0.05, ...currency },
      { name: 'returns', table: 'sales', expression: 'count(*)', aim: 'cut' },
      { name: 'visits', table: 'visits', expression: 'sum(visits)' },
    ],
    benchmarks: [
      { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)', spread: c.spread, split: c.split },
      { name: 'quota', kind: 'fixed', value: 700, per: ['shop', 'month'] },
      { name: 'stretch', kind: 'scaled', of: 'goal', by: 0.1 },
      { name: 'outlook', kind: 'forecast', method: 'same period last year', growth: 0.04 },
    ],
    highlights: [
      {
        name: 'signs',
        on: 'value',
        rules: [
          { id: 'low', when: { to: 20 }, encode: { ink: '#B23A1E' }, on: true, reader: true },
          { id: 'high', when: { highest: 1 }, encode: { ink: '#14756A' }, on: false, reader: true },
        ],
      },
    ],
    ...(c.leveled ? { hierarchies: [['shop', 'line']] } : {}),
    figures: briefs.map((brief, i) => ({ id: `f${i}`, brief })),
    pages: [
      {
        id: 'p',
        title: 'A page',
        ...(c.offersPeriods ? { period: true } : {}),
        filters: FILTERS.slice(0, c.isJoined ? 3 : 2).map((field) => ({ field, choice: 'several' })),
        rows: briefs.map((_, i) => ({
          blocks: [
            { figure: `f${i}`, share: 8 },
            { text: 'It is {actual}, {gap} {ahead of|level with|behind} {benchmark value}.', about: `f${i}`, share: 4 },
          ],
        })),
      },
    ],
  });
  return { files: writtenFiles(c), report };
}

/** A figure's brief, also of the second table, by fields that are looked up or derived, lit by what a reader may switch. */
const brief = fc
  .record({
    q: question,
    view: fc.constantFrom(null, null, null, null, null, null, 'visits', 'net, visits'),
    by: fc.constantFrom(null, null, null, null, null, ' by family', ' by size', ' by product'),
    isLit: fc.boolean(),
    /** The form that fits, or any: that often cannot be drawn, which is a sentence on the page. */
    fits: fc.constantFrom(true, true, true, false),
  })
  .map(({ q, view, by, isLit, fits }) => {
    const whole = briefOf({ ...q, view: view ?? q.view, by: (by ?? q.by) as typeof q.by });
    return `${fits ? whole.replace(/ as \w+/, '') : whole}${isLit ? ' lit by signs' : ''}`;
  });

/** Companies with a page of one to three figures. */
export const companies: fc.Arbitrary<Company> = fc
  .tuple(company, fc.array(brief, { minLength: 1, maxLength: 3 }))
  .map(([c, briefs]) => companyOf(c, briefs));

/** Opens a company's report as every host does: from its files. */
export const openCompany = ({ files, report }: Company): Promise<OpenReport> =>
  openReportWith(report, (entry) => {
    if (isInDatabase(entry)) throw new Error('a company has files');
    return filesOf(entry).map((name) => fileOf(name, new TextEncoder().encode(files[name])));
  });
