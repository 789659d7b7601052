import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { forms } from '../form';
import { Problem } from '../problem';
import { GRAINS, type PeriodWords } from '../calendar';
import {
  SELECTIONS,
  SORT_KEYS,
  completeBrief,
  readBrief,
  writeBrief,
  type Brief,
  type Condition,
  type View,
  type Vocabulary,
} from '.';
import { tries } from '../proof/tries.fixture';

const pellwether: Vocabulary = {
  measures: ['net sales', 'net', 'quantity', 'share of market'],
  fields: ['territory', 'product line', 'channel', 'rep'],
  benchmarks: ['plan', 'last year', 'previous day', 'forecast'],
  highlights: ['standing'],
  rulers: ['euros'],
  members: (field) => (field === 'channel' ? ['Dealers', 'Schools', 'Web', 'Rentals'] : null),
};

function problemOf(text: string): Problem {
  try {
    readBrief(text, pellwether);
  } catch (error) {
    return error as Problem;
  }
  throw new Error(`“${text}” was read`);
}

describe('a brief is read', () => {
  test.each([
    'net sales by territory during fiscal 2026 to date against plan as bullet',
    'cumulative net sales each day during fiscal 2026 against forecast as pace',
    'rank of net sales by territory each month during fiscal 2026 as bump',
    'net sales during latest day against previous day as headline, only channel is Schools',
    'net sales by rep each month during fiscal 2026 Q3 as league, keep 5 highest and the rest',
    'net sales, share of net sales, smoothed 3 quantity by territory, channel as table, sorted by gap percent up',
    'net sales by rep during 2026-01-15 to 2026-02-28, only channel is not Web or blank and territory is Umber Hills and rep at least 3',
    'net during last 28 days as headline, lit by standing, on euros',
    'net during 2026-Q2',
  ])('%s', (text) => {
    expect(writeBrief(readBrief(text, pellwether), pellwether)).toBe(text);
  });

  test('clauses come in any order, case does not matter, and the canonical order is written back', () => {
    const brief = readBrief('Net Sales AGAINST Plan during last quarter BY Territory', pellwether);
    expect(writeBrief(brief, pellwether)).toBe('net sales by territory during previous quarter against plan');
  });

  test('the longest known name wins, and quotes settle doubts', () => {
    expect(readBrief('share of market', pellwether).views).toEqual([{ kind: 'plain', measure: 'share of market' }]);
    expect(readBrief('share of "net sales"', pellwether).views).toEqual([{ kind: 'share', measure: 'net sales' }]);
    expect(readBrief('net by rep', pellwether).views[0]!.measure).toBe('net');
  });
});

describe('a mistake is named with its place and the closest known names', () => {
  test.each<[string, string, [number, number], string]>([
    ['net sale by territory', 'unknown-measure', [0, 8], '“net sales”'],
    ['nett sales by territory', 'unknown-measure', [0, 10], '“net sales”'],
    ['net sales by teritory', 'unknown-field', [13, 21], '“territory”'],
    ['net sales agianst plan', 'brief-syntax', [10, 17], '“against”'],
    ['net sales against plam as bullet', 'unknown-benchmark', [18, 22], '“plan”'],
    ['net sales by rep, only channel is Scools', 'unknown-member', [34, 40], '“Schools”'],
    ['net sales as bulet', 'unknown-form', [13, 18], '“bullet”'],
    ['net sales during fiscal', 'brief-ends', [23, 23], '2026'],
    ['net sales during 2026-02-30 to 2026-03-01', 'not-a-day', [17, 27], 'YYYY-MM-DD'],
    ['net sales during 2026-03-02 to 2026-03-01', 'period-backwards', [17, 41], 'earlier'],
    ['net sales during 2026-03 to 2026-02', 'period-backwards', [17, 35], 'earlier'],
    ['net sales during 2026-03 to', 'brief-ends', [27, 27], '2026-12'],
    ['net sales during 2026', 'bare-year', [17, 21], 'fiscal 2026'],
    ['net sales by rep by channel', 'clause-twice', [17, 19], 'one of them'],
    ['net sales by "rep', 'open-quote', [13, 17], 'quote'],
    ['', 'missing-measure', [0, 0], ''],
  ])('%s', (text, code, span, remedy) => {
    const problem = problemOf(text);
    expect(problem.code.replace('missing-name', 'missing-measure')).toBe(code);
    expect(problem.place?.span).toEqual(span);
    expect(problem.remedy).toContain(remedy);
  });
});

// Names as tables really have them, among them the language's own words and characters that need quotes.
const name = fc.oneof(
  fc.constantFrom(
    'net',
    'net sales',
    'plan',
    'by',
    'share of',
    'share of net',
    'keep',
    'on time',
    'blank',
    'and',
    'x or y',
    'to date',
    '5',
    'a, b',
    'as "is"',
    'Größe',
    'net by plan',
    'cumulative',
  ),
  fc.string({ minLength: 1, maxLength: 12 }),
);
/** Names that differ by more than case: a report refuses others. */
const names = fc.uniqueArray(name, { minLength: 1, maxLength: 6, selector: (text) => text.toLowerCase() });
const pick = <T>(from: readonly T[]) => fc.constantFrom(...from);
const year = fc.integer({ min: 1900, max: 2999 });
const day = fc.integer({ min: 0, max: 40_000 });

const period: fc.Arbitrary<PeriodWords> = fc.oneof(
  fc.constant({ kind: 'all time' } as const),
  pick(GRAINS).chain((grain) =>
    fc.constantFrom(
      { kind: 'latest', grain } as const,
      { kind: 'previous', grain } as const,
      { kind: 'to date', grain } as const,
    ),
  ),
  fc.record({ kind: fc.constant('last' as const), count: fc.integer({ min: 1, max: 999 }), grain: pick(GRAINS) }),
  year.map((y) => ({ kind: 'fiscal', year: y }) as const),
  year.map((y) => ({ kind: 'fiscal', year: y, toDate: true }) as const),
  fc
    .tuple(year, fc.integer({ min: 1, max: 4 }))
    .map(([y, quarter]) => ({ kind: 'fiscal', year: y, quarter, toDate: true }) as const),
  fc
    .tuple(year, fc.integer({ min: 1, max: 4 }))
    .map(([y, quarter]) => ({ kind: 'quarter', year: y, quarter }) as const),
  fc.tuple(year, fc.integer({ min: 1, max: 12 })).map(([y, month]) => ({ kind: 'month', year: y, month }) as const),
  fc
    .tuple(year, fc.integer({ min: 1, max: 12 }), fc.nat(40))
    .map(
      ([y, month, more]) => ({ kind: 'months', from: { year: y, month }, to: monthsAfter(y, month, more) }) as const,
    ),
  fc.tuple(day, fc.nat(900)).map(([from, more]) => ({ kind: 'days', from, to: from + more }) as const),
);

function monthsAfter(year: number, month: number, more: number) {
  const place = year * 12 + month - 1 + more;
  return { year: Math.floor(place / 12), month: (place % 12) + 1 };
}

const world = fc
  .record({
    measures: names,
    fields: names,
    benchmarks: names,
    highlights: names,
    rulers: names,
    members: names,
    knowsMembers: fc.boolean(),
  })
  .chain((v) => {
    const vocabulary: Vocabulary = { ...v, members: () => (v.knowsMembers ? v.members : null) };
    const view: fc.Arbitrary<View> = fc.oneof(
      fc.record({ kind: fc.constantFrom('plain', 'cumulative', 'share', 'rank', 'change'), measure: pick(v.measures) }),
      fc.record({
        kind: fc.constant('smoothed' as const),
        steps: fc.integer({ min: 1, max: 99 }),
        measure: pick(v.measures),
      }),
    );
    const condition: fc.Arbitrary<Condition> = fc.oneof(
      fc.record({
        kind: fc.constantFrom('is', 'is not'),
        field: pick(v.fields),
        members: fc.array(fc.option(pick(v.members)), { minLength: 1, maxLength: 3 }),
      }),
      fc.record({
        kind: fc.constantFrom('at least', 'below'),
        field: pick(v.fields),
        value: fc.double({ noNaN: true, noDefaultInfinity: true }).map((x) => x + 0),
      }),
    );
    const brief: fc.Arbitrary<Brief> = fc.record({
      views: fc.array(view, { minLength: 1, maxLength: 3 }),
      by: fc.shuffledSubarray([...v.fields], { maxLength: Math.min(3, v.fields.length) }),
      grain: fc.option(pick(GRAINS)),
      period,
      against: fc.option(pick(v.benchmarks)),
      form: fc.option(pick(forms())),
      keep: fc.option(
        fc.record({ count: fc.integer({ min: 1, max: 300 }), order: pick(SELECTIONS), rest: fc.boolean() }),
      ),
      sort: fc.option(fc.record({ key: pick(SORT_KEYS), direction: fc.constantFrom('up', 'down') })),
      only: fc.array(condition, { maxLength: 3 }),
      lit: fc.option(pick(v.highlights)),
      ruler: fc.option(pick(v.rulers)),
    });
    return fc.record({ vocabulary: fc.constant(vocabulary), brief });
  });

test('every brief there can be is read back as it was written, and its text is canonical', () => {
  fc.assert(
    fc.property(world, ({ vocabulary, brief }) => {
      const text = writeBrief(brief, vocabulary);
      const back = readBrief(text, vocabulary);
      expect(back).toEqual(brief);
      expect(writeBrief(back, vocabulary)).toBe(text);
    }),
    { numRuns: tries(800) },
  );
});

test('any text at all is read or refused with a place inside it', () => {
  const words = fc.constantFrom(
    'net',
    'sales',
    'by',
    'territory',
    'during',
    'fiscal',
    '2026',
    'keep',
    '5',
    'highest',
    ',',
    '"',
    'only',
    'channel',
    'is',
    'Web',
    'and',
    'or',
    'as',
  );
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.array(words, { maxLength: 12 }).map((w) => w.join(' ')),
      ),
      (text) => {
        try {
          readBrief(text, pellwether);
        } catch (error) {
          expect(error).toBeInstanceOf(Problem);
          const [from, to] = (error as Problem).place!.span!;
          expect(from).toBeGreaterThanOrEqual(0);
          expect(to).toBeLessThanOrEqual(text.length);
        }
      },
    ),
  );
});

describe('completion offers what can come next', () => {
  const offered = (text: string) => completeBrief(text, text.length, pellwether, 40).map((c) => c.text);
  test('at the beginning: measures and ways of looking', () =>
    expect(offered('')).toEqual(expect.arrayContaining(['net sales', 'rank of'])));
  test('in the middle of a name of two words', () => expect(offered('net sa')).toContain('net sales'));
  test('behind a measure: the clauses', () =>
    expect(offered('net sales ')).toEqual(expect.arrayContaining(['by', 'during', 'against', 'as'])));
  test('not the clause that is already there', () => expect(offered('net sales by rep ')).not.toContain('by'));
  test('members of the field of a condition', () =>
    expect(offered('net sales, only channel is S')).toEqual(['Schools']));
});
