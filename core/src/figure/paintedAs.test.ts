import fc from 'fast-check';
import { expect, test } from 'vitest';
import { AHEAD, BEHIND, LEVEL } from '../highlight';
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
  form: fc.constantFrom('bars', 'bullet', 'pairs', 'dial'),
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
        expect(standing).not.toBeNull();
        expect(fillOf(mark)).toBe(INKS[standing!]);
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
