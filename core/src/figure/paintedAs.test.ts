import fc from 'fast-check';
import { expect, test } from 'vitest';
import { AHEAD, BEHIND, INK, LEVEL } from '../highlight';
import { tries } from '../proof/tries.fixture';
import type { Mark } from '../scene';
import { numbersOf } from '.';
import { drawnFrom } from './drawn.fixture';

// A rule paints what it looks at: a gap has the ink and the badge of its standing, whatever its row's value, rank or name is lit
// by. And a legend is of what is painted: each badge on the paper is in it, and none that is not.

const RED = '#AA0000';
const RULE = { encode: { ink: RED, badge: 'down' }, on: true } as const;
const HIGHLIGHTS = {
  value: { on: 'value', rules: [{ id: 'much', when: { from: 100 }, ...RULE }] },
  rank: { on: 'rank', rules: [{ id: 'much', when: { to: 3 }, ...RULE }] },
  member: { on: 'member', rules: [{ id: 'much', when: { members: ['A', 'B'] }, ...RULE }] },
  share: { on: 'share', rules: [{ id: 'much', when: { from: 0.1 }, ...RULE }] },
};
const INKS = { ahead: AHEAD, level: LEVEL, behind: BEHIND };

const company = fc.record({
  rows: fc.array(
    fc.tuple(fc.integer({ min: 60, max: 140 }), fc.option(fc.integer({ min: 60, max: 140 }), { freq: 6 })),
    {
      minLength: 1,
      maxLength: 6,
    },
  ),
  aim: fc.constantFrom('raise', 'cut'),
  by: fc.constantFrom(...(Object.keys(HIGHLIGHTS) as (keyof typeof HIGHLIGHTS)[])),
  form: fc.constantFrom('bars', 'bullet', 'pairs', 'dial', 'table'),
});
const fillOf = ({ paint }: Mark) => ('stroke' in paint && paint.stroke ? paint.stroke : paint.fill);
const keyOf = (mark: Mark) => JSON.stringify(mark.key);

test('gaps are painted by their standing, and the legend tells of the badges there are', () =>
  fc.assert(
    fc.asyncProperty(company, async ({ rows, aim, by, form }) => {
      const csv = ['shop,net,goal', ...rows.map(([net, goal], i) => `${'ABCDEF'[i]},${net},${goal ?? ''}`)].join('\n');
      const { scene, cells } = await drawnFrom(csv, `net by shop against goal lit by mine as ${form}`, {
        types: [{ name: 'goal', type: 'number' }],
        measures: [{ name: 'net', table: 't', expression: 'sum(net)', aim, tolerance: 0.05 }],
        benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
        highlights: [{ name: 'mine', ...HIGHLIGHTS[by] }],
      });
      const standings = new Map(numbersOf(cells).rows.map(({ key, standing }) => [JSON.stringify(key), standing]));
      const isOfRow = ({ key }: Mark) => Object.keys(key ?? {}).length > 0;
      const ofRows = scene.marks.filter(isOfRow);
      for (const mark of ofRows.filter(({ role }) => role === 'gap' || role === 'badge')) {
        const standing = standings.get(keyOf(mark)) as keyof typeof INKS | null;
        if (standing === null) {
          expect([mark.role, mark.rule, fillOf(mark)]).toEqual(['gap', null, INK]);
          continue;
        }
        expect(fillOf(mark)).toBe(INKS[standing]);
        expect(mark.rule).toBe(standing);
      }
      for (const mark of ofRows.filter(({ role }) => role === 'actual' || role === 'rest'))
        expect(fillOf(mark) === RED).toBe(mark.rule === 'much');
      const inksOf = (marks: readonly Mark[]) =>
        [...new Set(marks.filter(({ role }) => role === 'badge').map(fillOf))].sort();
      const inLegend = scene.marks.filter((mark) => !isOfRow(mark));
      expect(inksOf(inLegend)).toEqual(inksOf(ofRows));
      expect(inLegend.some((mark) => mark.shape !== 'text' && fillOf(mark) === RED)).toBe(
        ofRows.some(({ rule }) => rule === 'much'),
      );
    }),
    { numRuns: tries(60) },
  ));

test.each(['league', 'table'])(
  'in a %s small columns are told of as they are painted, by a rule or by their ends',
  (form) =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 3, maxLength: 3 }), {
          minLength: 1,
          maxLength: 4,
        }),
        fc.integer({ min: 1, max: 11 }),
        async (shops, from) => {
          const days = ['2025-01-31', '2025-02-28', '2025-03-31'];
          const lines = shops.flatMap((shop, i) => shop.map((net, m) => `${days[m]},${'ABCD'[i]},${net}`));
          const { scene } = await drawnFrom(
            ['day,shop,net', ...lines].join('\n'),
            `net by shop each month during fiscal 2025 to date lit by mine as ${form}`,
            {
              date: 'day',
              look: { columns: [{ of: 'net', cell: 'spark columns' }] },
              measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
              highlights: [{ name: 'mine', on: 'value', rules: [{ id: 'much', when: { from }, ...RULE }] }],
            },
          );
          const looks = (marks: readonly Mark[]) =>
            new Set(
              marks.map(({ paint }) => JSON.stringify([paint.fill, paint.stroke ?? null, paint.pattern ?? null])),
            );
          const isSpark = ({ shape, role, key }: Mark) =>
            shape === 'rect' && role === 'path' && Object.keys(key ?? {}).length > 0;
          const drawn = looks(scene.marks.filter(isSpark));
          drawn.delete(JSON.stringify(['#A79F8F', null, null]));
          const samples = scene.marks.filter(
            ({ shape, role, key }) => shape === 'rect' && role === 'legend' && Object.keys(key ?? {}).length === 0,
          );
          expect(drawn.size > 0 || samples.length === 0).toBe(true);
          for (const look of drawn) expect([...looks(samples)]).toContain(look);
          const red = JSON.stringify([RED, null, null]);
          expect(looks(samples).has(red)).toBe(drawn.has(red) || scene.marks.some(({ rule }) => rule === 'much'));
        },
      ),
      { numRuns: tries(25) },
    ),
);

const [FIRST, SECOND, THIRD] = ['#AA0000', '#00AA00', '#0000AA'];
const painted = (ink: string) => ({ encode: { ink }, on: true });
const LIT = {
  value: {
    on: 'value',
    rules: [
      { id: 'much', when: { from: 100 }, ...painted(FIRST) },
      { id: 'little', when: { to: 70 }, ...painted(SECOND) },
    ],
  },
  standing: {
    on: 'standing',
    rules: (['ahead', 'behind', 'level'] as const).map((standing, i) => ({
      id: standing,
      when: { standing },
      ...painted([FIRST, SECOND, THIRD][i]!),
    })),
  },
  member: { on: 'member', rules: [{ id: 'some', when: { members: ['A', 'B'] }, ...painted(FIRST) }] },
  'rank change': {
    on: 'rank change',
    rules: [
      { id: 'won', when: { from: 1 }, ...painted(FIRST) },
      { id: 'lost', when: { to: -1 }, ...painted(SECOND) },
    ],
  },
  gap: {
    on: 'gap percent',
    rules: [
      { id: 'over', when: { from: 0.1 }, ...painted(FIRST) },
      { id: 'under', when: { to: -0.1 }, ...painted(SECOND) },
    ],
  },
};

test.each([
  'net by shop each month during fiscal 2025 to date against goal lit by mine as trend',
  'net by shop each month during fiscal 2025 to date lit by mine as trend',
  'cumulative net by shop each month during fiscal 2025 against goal lit by mine as pace',
  'cumulative net by shop each month during fiscal 2025 lit by mine as pace',
  'rank of net by shop each month during fiscal 2025 to date lit by mine as bump',
  'net by shop during fiscal 2025 to date against goal lit by mine as waterfall',
  'net by shop during fiscal 2025 to date lit by mine as waterfall',
])('each ink that rules paint is in the legend, and no other: %s', (brief) =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(fc.integer({ min: 40, max: 140 }), { minLength: 3, maxLength: 3 }), {
        minLength: 1,
        maxLength: 5,
      }),
      fc.constantFrom(...(Object.keys(LIT) as (keyof typeof LIT)[])),
      fc.constantFrom('raise', 'cut'),
      async (shops, by, aim) => {
        fc.pre(brief.includes('against') || (by !== 'standing' && by !== 'gap'));
        const days = ['2025-01-31', '2025-02-28', '2025-03-31'];
        const lines = shops.flatMap((shop, i) => shop.map((net, m) => `${days[m]},${'ABCDE'[i]},${net},100`));
        const { scene } = await drawnFrom(['day,shop,net,goal', ...lines].join('\n'), brief, {
          date: 'day',
          measures: [{ name: 'net', table: 't', expression: 'sum(net)', aim, tolerance: 0.05 }],
          benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
          highlights: [{ name: 'mine', ...LIT[by] }],
        });
        const isOfRow = ({ key, step }: Mark) => Object.keys(key ?? {}).length > 0 || (step ?? null) !== null;
        const inksOf = (marks: readonly Mark[]) =>
          [FIRST, SECOND, THIRD].filter((ink) => marks.some(({ paint }) => paint.fill === ink || paint.stroke === ink));
        const inLegend = scene.marks.filter((mark) => !isOfRow(mark) && mark.shape !== 'text');
        expect(inksOf(inLegend)).toEqual(inksOf(scene.marks.filter(isOfRow)));
      },
    ),
    { numRuns: tries(40) },
  ),
);
