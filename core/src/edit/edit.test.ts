import fc from 'fast-check';
import { apply } from 'mutative';
import { beforeAll, describe, expect, test } from 'vitest';
import { briefOrNull, type Brief } from '../brief';
import { isProblem } from '../problem';
import { readCsv } from '../reading';
import { checkReport, writeReport, type Look, type Report } from '../report';
import { makeTable, type Table } from '../table';
import { workspaceFor } from '../workspace';
import {
  EDIT_NAMES,
  edited,
  editedPlain,
  NO_HISTORY,
  redone,
  remembered,
  undone,
  type Remembering,
  type Edit,
  type EditData,
  type Names,
} from '.';
import { tries } from '../proof/tries.fixture';

// A small Pellwether report in which everything names something else, and any row of edits of it.

let tables: ReadonlyMap<string, Table>;
beforeAll(async () => {
  const read = async (id: string, text: string) => [id, makeTable(await readCsv(id, text), { id })] as const;
  tables = new Map(
    await Promise.all([
      read('sales', 'day,shop,line,net,pieces\n2025-01-02,Alder,brass,5,1\n2025-02-03,Birch,keys,7,2'),
      read('goals', 'month,shop,goal\n2025-01,Alder,4\n2025-02,Birch,9'),
      read('visits', 'day,door,visits\n2025-01-02,East,12'),
    ]),
  );
});

const base: Report = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [
    {
      id: 'sales',
      source: { file: 'sales.csv' },
      derived: [
        { name: 'price', expression: 'net / pieces' },
        { name: 'spare', expression: 'net + 1' },
      ],
    },
    { id: 'goals', source: { file: 'goals.csv' } },
    { id: 'visits', source: { file: 'visits.csv' } },
  ],
  measures: [
    { name: 'net', table: 'sales', expression: 'sum(net)' },
    { name: 'pieces', table: 'sales', expression: 'sum(pieces)' },
    { name: 'dearest', table: 'sales', expression: 'max(price)' },
    { name: 'visitors', table: 'visits', expression: 'sum(visits)' },
  ],
  benchmarks: [
    { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' },
    { name: 'stretch', kind: 'scaled', of: 'goal', by: 0.1 },
    { name: 'further', kind: 'scaled', of: 'stretch', by: 0.1 },
    { name: 'at each door', kind: 'fixed', value: 3, per: ['door'] },
  ],
  rulers: [{ id: 'euros', kind: 'linear' }],
  highlights: [
    { name: 'loud', on: 'value', rules: [{ id: 'high', when: { from: 5 }, encode: { ink: '#B4472F' } }] },
    { name: 'calm', on: 'standing', rules: [] },
  ],
  figures: [
    {
      id: 'a',
      brief: 'net, share of net by shop against goal as table',
      look: {
        columns: [
          { of: 'net', cell: 'bar' },
          { of: 'share of net', cell: 'share bar' },
          { of: 'goal', cell: 'number' },
        ],
        references: ['stretch', 'last year'],
        stops: { low: 0, high: 'further' },
      },
    },
    { id: 'b', brief: 'net by shop against stretch as bullet, lit by loud, on euros' },
    { id: 'c', brief: 'net by shop against goal as waterfall', look: { quantity: 'pieces' } },
    { id: 'd', brief: 'visitors by door against at each door as bullet' },
    { id: 'e', brief: 'no brief at all' },
  ],
  pages: [
    {
      id: 'p',
      title: 'How it goes',
      filters: [
        { field: 'shop', choice: 'one' },
        { field: 'door', choice: 'several' },
      ],
      rows: [
        { head: 'Sales' },
        {
          blocks: [
            { figure: 'a', share: 6 },
            { figure: 'd', share: 6 },
          ],
        },
        { blocks: [{ figure: 'd', share: 12 }] },
        {
          blocks: [
            {
              text: 'Alder leads.',
              about: 'b',
              claims: [{ kind: 'extreme member', member: 'Alder', text: 'Alder leads.' }],
              share: 8,
            },
          ],
        },
      ],
      dismissed: [{ figure: 'd', kind: 'lands' }],
    },
  ],
  accepted: [
    { code: 'rule-gap', about: 'highlight', id: 'loud', reason: 'as agreed' },
    { code: 'rates-added', about: 'measure', id: 'net', reason: 'as agreed' },
    { code: 'zoomed', about: 'figure', id: 'd', reason: 'as agreed' },
    { code: 'stale-finding', about: 'page', id: 'p', reason: 'as agreed' },
    { code: 'far-days', about: 'table', id: 'visits', reason: 'as agreed' },
  ],
});

function namesOf(report: Report): Names {
  const { vocabulary, tables: read } = workspaceFor(
    report,
    new Map([...tables].filter(([id]) => report.tables.some((one) => one.id === id))),
  );
  return {
    vocabulary,
    columns: new Map([...read].map(([id, table]) => [id, table.columns.map(({ name }) => name)])),
  };
}

/** Everything in a report that names a figure, a page, a table, a measure, a benchmark, a highlight or a ruler. */
function dangling(report: Report): string[] {
  const { vocabulary } = namesOf(report);
  const figures = new Set(report.figures.map(({ id }) => id));
  const tableIds = new Set(report.tables.map(({ id }) => id));
  const benchmarks = new Set(vocabulary.benchmarks);
  const measures = new Set(vocabulary.measures);
  const found: string[] = [];
  const say = (isThere: boolean, what: string) => isThere || found.push(what);
  for (const { measures: list, kind } of [{ measures: report.measures, kind: 'measure' }])
    for (const { name, table } of list) say(tableIds.has(table), `${kind} ${name} of table ${table}`);
  for (const one of report.benchmarks) {
    if (one.kind === 'table') say(tableIds.has(one.table), `benchmark ${one.name} of table ${one.table}`);
    if (one.kind === 'scaled')
      say(one.of === 'measure' || benchmarks.has(one.of), `benchmark ${one.name} of ${one.of}`);
  }
  for (const { id, brief: text, look } of report.figures) {
    if (text !== 'no brief at all') say(briefOrNull(text, vocabulary) !== null, `brief of ${id}: ${text}`);
    say(look.quantity === undefined || measures.has(look.quantity), `quantity of ${id}`);
    for (const name of look.references ?? []) say(benchmarks.has(name), `reference of ${id}: ${name}`);
    for (const stop of [look.stops?.low, look.stops?.high])
      say(typeof stop !== 'string' || benchmarks.has(stop), `stop of ${id}: ${stop}`);
    for (const { of } of look.columns ?? [])
      say(benchmarks.has(of) || measures.has(of.replace(/^share of /, '')), `cells of ${id}: ${of}`);
  }
  for (const page of report.pages) {
    for (const { figure } of page.dismissed ?? []) say(figures.has(figure), `dismissed: ${figure}`);
    for (const row of page.rows)
      for (const block of 'blocks' in row ? row.blocks : []) {
        if ('figure' in block) say(figures.has(block.figure), `block of ${block.figure}`);
        else say(block.about === undefined || figures.has(block.about), `text about ${block.about}`);
      }
  }
  const ids = {
    figure: figures,
    page: new Set(report.pages.map(({ id }) => id)),
    table: tableIds,
    measure: measures,
    highlight: new Set(report.highlights.map(({ name }) => name)),
  };
  for (const { about, id } of report.accepted ?? []) say(ids[about].has(id), `accepted: ${about} ${id}`);
  return found;
}

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
const figureId = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f');
const pageId = fc.constantFrom('p', 'q');
const at = fc.tuple(fc.nat(4), fc.nat(2));
const text = fc.constantFrom('A word.', 'Alder leads.', '# Head\n- {gap of Alder}');
const table = fc.constantFrom('sales', 'goals', 'visits');
const lookPart = fc.oneof(
  ...(
    [
      ['title', 'Alder leads'],
      ['references', ['average']],
      ['stops', { low: 1 }],
      ['emphasis', ['Alder']],
      ['bands', null],
    ] as [keyof Look, Look[keyof Look]][]
  ).map(([part, value]) => fc.constantFrom({ part, value }, { part, value: undefined })),
);

/** Any data for each kind of edit, also of what is not there. */
const DATA: { [K in keyof EditData]: fc.Arbitrary<EditData[K]> } = {
  'rename-report': fc.record({ name: word }),
  'accept-finding': fc.record({
    of: fc.constantFrom(
      { code: 'zoomed', about: 'figure' as const, id: 'a' },
      { code: 'rule-gap', about: 'highlight' as const, id: 'loud' },
    ),
    reason: fc.constantFrom('so it is', null),
  }),
  'restore-state': fc.constant({ state: base }),
  'put-back': fc.constantFrom(
    { kind: 'figures' as const, content: base.figures[4]! },
    { kind: 'pages' as const, content: base.pages[0]! },
  ),
  'set-calendar': fc.record({
    part: fc.constantFrom({ fiscalYearStart: 4 }, { asOf: '2025-02-01' }, { weekStart: 'sunday' as const }),
  }),
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
  'remove-column': fc.record({ table, column: fc.constantFrom('price', 'spare') }),
  'remove-table': fc.record({ table }),
  'add-measure': fc.record({ measure: fc.constant({ ...base.measures[0]!, name: 'extra' }) }),
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

const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  ...Object.entries(DATA).map(([edit, data]) =>
    (data as fc.Arbitrary<object>).map((one) => ({ edit, ...one }) as Edit),
  ),
);

/** The report after an edit; an edit that cannot be done says so and changes nothing. */
function tried(report: Report, edit: Edit) {
  try {
    return edited(report, edit, namesOf(report));
  } catch (error) {
    if (!isProblem(error)) throw error;
    expect(error.message).not.toBe('');
    return null;
  }
}

const valid = (report: Report) => expect(() => checkReport(JSON.parse(JSON.stringify(report)))).not.toThrow();

describe('any row of edits', () => {
  test('names every edit there is', () => {
    expect(Object.keys(DATA).sort()).toEqual([...EDIT_NAMES].sort());
    expect(dangling(base)).toEqual([]);
  });

  test('leaves a valid report in which nothing names what is gone, says what it does, and can be taken back exactly', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 12 }), (edits) => {
        const states: Report[] = [base];
        let history = NO_HISTORY;
        for (const edit of edits) {
          const before = states.at(-1)!;
          const frozen = JSON.stringify(before);
          const done = tried(before, edit);
          expect(JSON.stringify(before)).toBe(frozen);
          if (!done) continue;
          expect(done.name).toMatch(/^\S.*\S$/);
          valid(done.report);
          expect(dangling(done.report)).toEqual([]);
          expect(apply(done.report, done.back)).toEqual(before);
          expect(apply(before, done.forward)).toEqual(done.report);
          expect(done.report === before).toBe(JSON.stringify(done.report) === frozen);
          expect(done.forward.length === 0).toBe(done.report === before);
          if (done.report === before) continue;
          history = remembered(history, done);
          states.push(done.report);
        }
        let now: Remembering = { report: states.at(-1)!, ...history };
        for (const state of [...states].reverse().slice(1)) {
          now = undone(now)!;
          expect(now.report).toEqual(state);
        }
        expect(undone(now)).toBeNull();
        for (const state of states.slice(1)) {
          now = redone(now)!;
          expect(now.report).toEqual(state);
        }
        expect(redone(now)).toBeNull();
      }),
      { numRuns: tries(40) },
    );
  });

  test('renaming there and back is the very report', () => {
    fc.assert(
      fc.property(DATA.rename, (rename) => {
        // A measure and a benchmark of one name are one column of a table, so they are not told apart.
        const isBoth = [rename.from, rename.to].every((name) =>
          base.measures.concat(base.benchmarks as never).some((one) => one.name === name),
        );
        if (isBoth) return;
        const there = tried(base, { edit: 'rename', ...rename });
        if (!there) return;
        const back = tried(there.report, { edit: 'rename', kind: rename.kind, from: rename.to, to: rename.from })!;
        expect(writeReport(back.report)).toBe(writeReport(base));
      }),
      { numRuns: tries(150) },
    );
  });
});

const after = (edit: Edit, report = base) => edited(report, edit, namesOf(report)).report;

describe('what rests on a name goes with it', () => {
  test('a measure takes its figures along, and these their blocks, texts and what was let stand of them', () => {
    const { figures, pages, accepted } = after({ edit: 'remove', kind: 'measure', name: 'visitors' });
    expect(figures.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'e']);
    expect(pages[0]!.rows.map((row) => ('head' in row ? row.head : row.blocks.length))).toEqual(['Sales', 1, 1]);
    expect(pages[0]!.dismissed).toBeUndefined();
    expect(accepted!.map(({ id }) => id)).toEqual(['loud', 'net', 'p', 'visits']);
  });

  test('a text about a figure that goes tells of none, and keeps its words', () => {
    const { pages } = after({ edit: 'remove-figure', figure: 'b' });
    expect(pages[0]!.rows[3]).toEqual({ blocks: [{ text: 'Alder leads.', share: 8 }] });
  });

  test('a table takes its measures, their figures, benchmarks of its fields and filters along', () => {
    const report = after({ edit: 'remove-table', table: 'visits' });
    expect(report.measures.map(({ name }) => name)).toEqual(['net', 'pieces', 'dearest']);
    expect(report.benchmarks.map(({ name }) => name)).toEqual(['goal', 'stretch', 'further']);
    expect(report.figures.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'e']);
    expect(report.pages[0]!.filters).toEqual([{ field: 'shop', choice: 'one' }]);
    const bare = after({ edit: 'remove-table', table: 'goals' });
    expect(bare.benchmarks.map(({ name }) => name)).toEqual(['at each door']);
    expect(bare.figures[0]).toEqual({
      id: 'a',
      brief: 'net, share of net by shop as table',
      look: {
        columns: [
          { of: 'net', cell: 'bar' },
          { of: 'share of net', cell: 'share bar' },
        ],
        references: ['last year'],
        stops: { low: 0 },
      },
    });
  });

  test('a derived column is kept while something reads it, and whoever asks is told what', () => {
    expect(() => after({ edit: 'remove-column', table: 'sales', column: 'price' })).toThrow('the measure dearest');
    expect(after({ edit: 'remove-column', table: 'sales', column: 'spare' }).tables[0]!.derived).toHaveLength(1);
  });
});

describe('a new name is followed', () => {
  test('by cells of tables and by what is let stand', () => {
    const { figures, accepted } = after({ edit: 'rename', kind: 'measure', from: 'net', to: 'net sales' });
    expect(figures[0]!.look.columns!.map(({ of }) => of)).toEqual(['net sales', 'share of net sales', 'goal']);
    expect(accepted!.find(({ about }) => about === 'measure')!.id).toBe('net sales');
    const held = after({ edit: 'rename', kind: 'benchmark', from: 'goal', to: 'plan' });
    expect(held.figures[0]!.look.columns![2]!.of).toBe('plan');
    const lit = after({ edit: 'rename', kind: 'highlight', from: 'loud', to: 'bold' });
    expect(lit.accepted![0]!.id).toBe('bold');
  });

  test('but not where it belongs to another already', () => {
    const rename = (kind: 'measure' | 'benchmark', from: string, to: string) => () =>
      after({ edit: 'rename', kind, from, to });
    expect(rename('measure', 'net', 'Pieces')).toThrow('another measure is called “Pieces”');
    expect(rename('benchmark', 'goal', 'last year')).toThrow('another benchmark is called “last year”');
    expect(rename('measure', 'gone', 'x')).toThrow('there is no measure “gone” any more');
    expect(after({ edit: 'rename', kind: 'measure', from: 'net', to: 'Net' }).measures[0]!.name).toBe('Net');
  });
});

test('what is written in one place is one step to take back', () => {
  const first = editedPlain(base, { edit: 'rename-report', name: 'P' });
  const second = editedPlain(first.report, { edit: 'rename-report', name: 'Pe' });
  const history = remembered(remembered(NO_HISTORY, first, 'x'), second, 'x');
  expect(history.past).toHaveLength(1);
  expect(undone({ report: second.report, ...history })!.report).toEqual(base);
});
