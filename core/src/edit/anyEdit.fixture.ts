import fc from 'fast-check';
import { dayOf, isoDay } from '../calendar';
import type { Look } from '../report';
import type { Brief } from '../brief';
import type { Edit, EditData } from '.';
import { base } from './report.fixture';

const word = fc.constantFrom(
  'net',
  'pieces',
  'goal',
  'stretch',
  'further',
  'loud',
  'calm',
  'euros',
  'share',
  'last year',
  'by shop',
  'constructor',
  'Über 9',
  'visitors',
  'as bars',
);
/** Months from the 26th to the 25th. */
const LISTED = Array.from({ length: 25 }, (_, i) =>
  isoDay(dayOf(2023 + Math.floor((i + 11) / 12), ((i + 11) % 12) + 1, 26)),
);
const figureId = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f');
const pageId = fc.constantFrom('p', 'q');
const at = fc.tuple(fc.nat(4), fc.nat(2));
const text = fc.constantFrom('A word.', 'Alder leads.', '# Head\n- {gap of Alder}');
const table = fc.constantFrom('sales', 'goals', 'visits', 'shops');
const lookPart = fc.oneof(
  ...(
    [
      ['title', 'Alder leads'],
      ['references', ['average']],
      ['stops', { low: 1 }],
      ['emphasis', ['Alder']],
      ['bands', null],
      ['format', { scale: 'none', decimals: 0 }],
    ] as [keyof Look, Look[keyof Look]][]
  ).map(([part, value]) => fc.constantFrom({ part, value }, { part, value: undefined })),
);

/** Any data for each kind of edit, also of what is not there. */
export const DATA: { [K in keyof EditData]: fc.Arbitrary<EditData[K]> } = {
  'rename-report': fc.record({ name: word }),
  'accept-finding': fc.record({
    of: fc.constantFrom(
      { code: 'zoomed', about: 'figure' as const, id: 'a' },
      { code: 'rule-gap', about: 'highlight' as const, id: 'loud' },
    ),
    reason: fc.constantFrom('so it is', null),
  }),
  several: fc.record({
    edits: fc.array(
      fc.record({
        edit: fc.constant('accept-finding' as const),
        of: fc.constantFrom(
          { code: 'zoomed', about: 'figure' as const, id: 'a' },
          { code: 'zoomed', about: 'figure' as const, id: 'f' },
          { code: 'left-away', about: 'report' as const, id: 'members are left away' },
        ),
        reason: fc.constantFrom('so it is', null),
      }),
      { maxLength: 3 },
    ),
  }),
  'restore-state': fc.constant({ state: base }),
  'put-back': fc.constantFrom(
    { kind: 'figures' as const, content: base.figures[4]! },
    { kind: 'pages' as const, content: base.pages[0]! },
  ),
  'set-calendar': fc.record({
    part: fc.constantFrom(
      { fiscalYearStart: 4 },
      { weeks: { pattern: '4-4-5', ends: 'sunday', on: 'last', of: 12 } },
      { weeks: undefined },
      { months: { first: '2024-01', from: LISTED } },
      { months: undefined },
      { asOf: '2025-02-01' },
      { weekStart: 'sunday' as const },
      { holidays: ['2025-01-01'] },
      { holidays: [] as string[] },
      { workweek: ['monday' as const] },
    ),
  }),
  'set-hierarchies': fc.record({
    hierarchies: fc.constantFrom(
      [],
      [['line', 'shop']],
      [
        ['shop', 'line'],
        ['line', 'color'],
      ],
    ),
  }),
  'rename-table': fc.record({ table: fc.constantFrom('sales', 'goals', 'nothing'), name: word }),
  'add-tables': fc.constant({
    tables: [{ id: 'more', source: { file: 'more.csv' } }],
    benchmarks: [
      {
        name: 'more',
        kind: 'table' as const,
        table: 'more',
        expression: 'sum(x)',
        spread: 'even' as const,
        split: 'none' as const,
      },
    ],
  }),
  'read-table': fc.record({
    entry: fc.constantFrom(base.tables[0]!, { id: 'goals', source: { file: 'newer.csv' } }),
    columns: fc.constantFrom(
      { lost: [], newNumbers: [] },
      { lost: ['goal'], newNumbers: [{ name: 'target' }] },
      { lost: ['pieces'], newNumbers: [{ name: 'cost', unit: 'EUR' }] },
    ),
  }),
  'date-rows': fc.record({ table: fc.constantFrom('sales', 'visits'), column: fc.constant('day') }),
  'order-members': fc.record({
    table: fc.constant('sales'),
    column: fc.constantFrom('shop', 'line'),
    order: fc.constant(['Birch', 'Alder']),
  }),
  'derive-column': fc.record({
    table: fc.constant('sales'),
    old: fc.constantFrom('price', null),
    column: fc.constant({ name: 'price', expression: 'net / pieces / 2' }),
  }),
  'rename-column': fc.record({
    table,
    column: fc.constantFrom('shop', 'price', 'net', 'goal', 'day', 'door'),
    to: fc.constantFrom('store', 'net', 'as bars', 'Über 9', 'constructor'),
  }),
  'add-lookup': fc.record({
    table: fc.constantFrom('sales', 'goals'),
    join: fc.constantFrom(
      { columns: ['shop'], to: 'shops', on: ['shop'] },
      { columns: ['line'], to: 'nowhere', on: ['line'] },
    ),
  }),
  'remove-lookup': fc.record({
    table: fc.constantFrom('sales', 'goals'),
    join: fc.constant({ columns: ['shop'], to: 'shops' }),
  }),
  'use-table': fc.record({
    table: fc.constantFrom('sales', 'goals', 'visits', 'shops'),
    use: fc.constantFrom('rows' as const, 'targets' as const, 'lookup' as const, 'other' as const),
  }),
  'read-as': fc.record({
    table: fc.constantFrom('sales', 'goals'),
    column: fc.constantFrom('shop', 'line', 'constructor'),
    same: fc.constantFrom({ Alder: 'Birch' }, { Alder: null }, { Birch: 'Alders', Alder: 'Alders' }),
  }),
  'put-together': fc.record({
    entry: fc.constantFrom(base.tables[0]!, base.tables[1]!),
    gone: fc.constantFrom(['visits'], ['goals'], ['visits', 'goals'], []),
  }),
  'remove-column': fc.record({ table, column: fc.constantFrom('price', 'spare', 'pieces', 'place', 'kind') }),
  'put-column-back': fc.record({ table, column: fc.constantFrom('pieces', 'place', 'kind') }),
  'remove-table': fc.record({ table }),
  'add-measure': fc.record({ measure: fc.constant({ ...base.measures[0]!, name: 'extra' }) }),
  'convert-amounts': fc.record({
    amounts: fc.array(
      fc.record({
        kind: fc.constantFrom('measure' as const, 'benchmark' as const),
        name: fc.constantFrom('net', 'goal', 'nothing'),
        currency: fc.constantFrom(null, { column: 'shop', rates: 'visits', to: 'EUR', at: 'own' }),
      }),
      { minLength: 1, maxLength: 2 },
    ),
    rates: fc.constantFrom({ currency: 'door', rate: 'visits' }),
  }),
  'change-measure': fc.record({
    measure: word,
    part: fc.constantFrom({ aim: 'cut' as const }, { expression: 'count(*)' }, { tolerance: 0.1 }),
  }),
  'add-benchmark': fc.record({
    benchmark: fc.constant({ name: 'more', kind: 'fixed' as const, value: 1, per: [] }),
  }),
  'change-benchmark': fc.record({
    benchmark: fc.constant({ name: 'stretch', kind: 'scaled' as const, of: 'measure', by: 0.2 }),
  }),
  'match-field': fc.record({
    targets: fc.constant('goals'),
    field: fc.constant('shop'),
    column: fc.constantFrom('shop', 'month', null),
  }),
  rename: fc.record({
    kind: fc.constantFrom('measure' as const, 'benchmark' as const, 'highlight' as const, 'ruler' as const),
    from: word,
    to: word,
  }),
  remove: fc.record({
    kind: fc.constantFrom('measure' as const, 'benchmark' as const, 'highlight' as const, 'ruler' as const),
    name: word,
  }),
  'add-highlight': fc.record({ highlight: fc.constant({ ...base.highlights[1]!, name: 'third' }) }),
  'change-highlight': fc.record({ highlight: fc.constant({ ...base.highlights[0]!, rules: [] }) }),
  'add-ruler': fc.record({ ruler: fc.constant({ id: 'other', kind: 'linear' as const, fit: 'zero' as const }) }),
  'change-ruler': fc.record({
    ruler: fc.constant({ id: 'euros', kind: 'linear' as const, fit: 'fixed' as const, domain: [0, 9] as const }),
  }),
  'add-figure': fc.record({
    figure: fc.record({ id: fc.constantFrom('f', 'a'), brief: fc.constant('no brief at all'), look: fc.constant({}) }),
    behind: figureId,
  }),
  'remove-figure': fc.record({ figure: figureId }),
  'set-brief': fc.record({
    figure: figureId,
    brief: fc.constant('no brief at all'),
  }),
  'name-figure': fc.record({ figure: figureId, name: fc.oneof(word, fc.constant(null)) }),
  'move-figure': fc.record({ figure: figureId, to: fc.integer({ min: -1, max: 6 }) }),
  'set-look': fc
    .record({ figure: figureId, of: lookPart })
    .map(({ figure, of }) => ({ figure, ...of }) as EditData['set-look']),
  'set-clauses': fc.record({
    figure: figureId,
    clauses: fc.constantFrom<Partial<Brief>[]>(
      { by: ['line'] },
      { lit: 'calm' },
      { ruler: null, against: 'last year' },
    ),
  }),
  'narrow-figures': fc.record({
    only: fc.constantFrom([], [{ kind: 'is' as const, field: 'shop', members: ['Alder'] }]),
  }),
  'add-page': fc.record({
    page: fc.record({
      id: fc.constantFrom('q', 'p'),
      title: fc.constant('More'),
      filters: fc.constant([]),
      rows: fc.constant([]),
    }),
  }),
  'remove-page': fc.record({ page: pageId }),
  'set-title': fc.record({ page: pageId, title: word }),
  'set-filters': fc.record({
    page: pageId,
    filters: fc.constantFrom([], [{ field: 'line', choice: 'one' as const }]),
    period: fc.boolean(),
  }),
  'add-head': fc.record({ page: pageId, head: word }),
  'set-head': fc.record({ page: pageId, row: fc.nat(4), head: word }),
  'move-row': fc.record({ page: pageId, from: fc.nat(4), to: fc.nat(4) }),
  'remove-row': fc.record({ page: pageId, row: fc.nat(4) }),
  'set-height': fc.record({ page: pageId, row: fc.nat(4), height: fc.constantFrom(240, null) }),
  'add-block': fc
    .record({
      page: pageId,
      block: fc.constantFrom({ figure: 'b', share: 12 }, { text: 'A word.', share: 4 }),
      own: fc.boolean(),
    })
    .map(({ own, ...rest }) => ({ ...rest, ...(own ? { own: true as const } : {}) })),
  'remove-block': fc.record({ page: pageId, at }),
  'widen-block': fc.record({ page: pageId, at, by: fc.integer({ min: -13, max: 13 }) }),
  'step-block': fc.record({ page: pageId, at, by: fc.constantFrom<-1 | 1>(-1, 1) }),
  'move-block': fc.record({ page: pageId, from: at, to: at }),
  'swap-blocks': fc.record({ page: pageId, from: at, to: at }),
  'set-text': fc.record({ page: pageId, at, text, about: fc.constantFrom('a', 'b', null) }),
  'take-finding': fc.record({
    page: pageId,
    figure: fc.constantFrom('a', 'b'),
    claim: fc.constant({ kind: 'extreme member' as const, member: 'Alder' }),
    template: fc.constant('Alder leads'),
  }),
  'dismiss-finding': fc.record({ page: pageId, figure: figureId, kind: fc.constant('lands' as const) }),
  'drop-claim': fc.record({
    page: pageId,
    claim: fc.constant({ kind: 'extreme member' as const, member: 'Alder', text: 'Alder leads.' }),
  }),
};

/** Any edit of the small report. */
export const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  ...Object.entries(DATA).map(([edit, data]) =>
    (data as fc.Arbitrary<object>).map((one) => ({ edit, ...one }) as Edit),
  ),
);
