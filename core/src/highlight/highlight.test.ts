import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { answerBrief } from '../query';
import { readCsv } from '../reading';
import { checkReport, type Highlight, type LitOn, type When } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import {
  AHEAD,
  BAND_TINTS,
  BEHIND,
  between,
  contrast,
  coverageOf,
  DARK_PAPER,
  difference2000,
  difference2000Lab,
  DIVERGING,
  edgeMoved,
  encodeRow,
  highlightFor,
  inDark,
  INK,
  inkFault,
  INKS,
  LEAST_DIFFERENCE,
  LINE_INKS,
  LEVEL,
  luminance,
  marksInDark,
  mended,
  QUIET,
  rampEnds,
  rampInk,
  seenWith,
  SEQUENTIAL,
  textOn,
  VISIONS,
} from '.';

/** The rules that paint some shops' amounts, held against their goals. */
async function painted(
  rows: readonly string[],
  on: LitOn,
  whens: readonly When[],
  encode: object = {},
): Promise<(string | null)[]> {
  const table = makeTable(await readCsv('t', ['shop,net,goal', ...rows].join('\n')), { id: 't' });
  const report = checkReport({
    boldRuler: 1,
    name: 'x',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    highlights: [{ name: 'own', on, rules: whens.map((when, i) => ({ id: `r${i}`, when, encode, on: true })) }],
  });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  const cells = await answerBrief({ source, report, vocabulary }, readBrief('net by shop against goal', vocabulary));
  const highlight = highlightFor(report, 'own');
  return rows.map((_, row) => {
    const { rule, faded } = encodeRow(highlight, cells, row);
    return faded ? 'faded' : rule;
  });
}
const shops = ['A,10,20', 'B,-5,5', 'C,30,30', 'D,30,', 'E,,8'];

describe('a rule paints', () => {
  test.each<[LitOn, When[], (string | null)[]]>([
    ['standing', [{ standing: 'behind' }, { standing: 'level' }], ['r0', 'r0', 'r1', null, null]],
    ['value', [{ to: 0 }, { from: 10, to: 30 }, { from: 30 }], ['r1', 'r0', 'r2', 'r2', null]],
    ['gap', [{ from: -10 }], ['r0', 'r0', 'r0', null, null]],
    ['gap percent', [{ to: -1 }, { to: 0 }], ['r1', 'r0', null, null, null]],
    ['value', [{ highest: 1 }], [null, null, 'r0', 'r0', null]],
    ['value', [{ lowest: 2 }], ['r0', 'r0', null, null, null]],
    ['rank', [{ to: 3 }], [null, null, 'r0', 'r0', null]],
    ['member', [{ members: ['E', 'A'] }], ['r0', null, null, null, 'r0']],
  ])('by %s: %j', async (on, whens, wanted) => expect(await painted(shops, on, whens)).toEqual(wanted));
  test('and lets the others step back, where it says so', async () =>
    expect(await painted(shops, 'member', [{ members: ['B'] }], { fadeOthers: true })).toEqual([
      'faded',
      'r0',
      'faded',
      'faded',
      'faded',
    ]));
});

test('what a highlight looks at decides which conditions it may have', () => {
  const report = (on: string, when: object) =>
    checkReport({ boldRuler: 1, name: 'x', highlights: [{ name: 'own', on, rules: [{ id: 'a', when, encode: {} }] }] });
  expect(() => report('standing', { from: 3 })).toThrow(/does not know: from/);
  expect(() => report('value', { standing: 'ahead' })).toThrow(/does not know: standing/);
  expect(() => report('gap', { highest: 0 })).toThrow(/must be 1 or more/);
});

describe('coverage', () => {
  const rule = (id: string, when: When) => ({ id, when, encode: {}, on: true });
  test('lists gaps, overlaps and rules that are never reached', () => {
    const found = coverageOf({
      rules: [
        rule('low', { to: 10 }),
        rule('mid', { from: 5, to: 20 }),
        rule('in', { from: 6, to: 9 }),
        rule('high', { from: 30 }),
      ],
    });
    expect(found.gaps).toEqual([{ from: 20, to: 30 }]);
    expect(found.overlaps.map(({ from, to, rules }) => [from, to, ...rules])).toEqual([
      [5, 10, 'low', 'mid'],
      [6, 9, 'low', 'in'],
    ]);
    expect(found.unreached).toEqual(['in']);
  });
  test('an edge that is moved takes along every rule that begins or ends there', () => {
    const highlight: Highlight = {
      name: 'x',
      on: 'value',
      rules: [rule('low', { to: 10 }), rule('mid', { from: 10, to: 20 })],
    };
    expect(edgeMoved(highlight, 10, 12).rules.map(({ when }) => when)).toEqual([{ to: 12 }, { from: 12, to: 20 }]);
  });
  const edge = fc.option(fc.integer({ min: -20, max: 20 }), { nil: undefined });
  const rules = fc
    .array(fc.tuple(edge, edge), { minLength: 1, maxLength: 6 })
    .map((list) =>
      list.map(([from, to], i) =>
        rule(`r${i}`, { ...(from === undefined ? {} : { from }), ...(to === undefined ? {} : { to }) }),
      ),
    );
  test('agrees with trying every number, and the painted stretches cover all numbers once', () =>
    fc.assert(
      fc.property(rules, (list) => {
        const { painted: stretches, gaps, unreached } = coverageOf({ rules: list });
        const seen = new Set<string>();
        for (let value = -22.5; value <= 22.5; value += 0.5) {
          const first = list.find(({ when }) =>
            'from' in when || 'to' in when || Object.keys(when).length === 0
              ? value >= ((when as { from?: number }).from ?? -Infinity) &&
                value < ((when as { to?: number }).to ?? Infinity)
              : false,
          );
          if (first) seen.add(first.id);
          const at = stretches.filter(({ from, to }) => value >= from && value < to);
          expect(at.map((one) => one.rule)).toEqual([first?.id ?? null]);
          expect(gaps.some(({ from, to }) => value >= from && value < to)).toBe(first === undefined);
        }
        expect(new Set(unreached)).toEqual(new Set(list.map(({ id }) => id).filter((id) => !seen.has(id))));
      }),
    ));
  test('is mended by one action: no gap between rules and no overlap is left', () =>
    fc.assert(
      fc.property(rules, (list) => {
        const highlight: Highlight = { name: 'x', on: 'value', rules: list };
        const after = coverageOf({
          rules: mended(highlight).rules.filter(({ id }) => !coverageOf(highlight).unreached.includes(id)),
        });
        expect(after.overlaps).toEqual([]);
        expect(after.gaps.filter(({ from, to }) => from !== -Infinity && to !== Infinity)).toEqual([]);
      }),
    ));
});

describe('colours', () => {
  test('differ as in the published pairs of CIEDE2000', () => {
    // Sharma, Wu and Dalal 2005, table 1: pairs 1, 7, 13, 17, 25.
    const pairs = [
      [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
      [[50, 0, 0], [50, -1, 2], 2.3669],
      [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195],
      [[50, 2.5, 0], [73, 25, -18], 27.1492],
      [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
    ] as const;
    for (const [a, b, wanted] of pairs) expect(difference2000Lab(a, b)).toBeCloseTo(wanted, 4);
  });
  test('between two colours lie colours ever farther from the first', () => {
    expect([between('#147560', '#C8452B', 0), between('#147560', '#C8452B', 1)]).toEqual(['#147560', '#C8452B']);
    const steps = [0.2, 0.4, 0.6, 0.8].map((share) => difference2000('#FFFFFF', between('#FFFFFF', INK, share)));
    expect([...steps].sort((a, b) => a - b)).toEqual(steps);
  });
  test('a ramp grows steadily; one with a middle parts there, equally far on both sides', () => {
    const steps = Array.from({ length: 21 }, (_, i) => i / 20);
    const light = (ink: string) => contrast(ink, '#000000');
    const grown = steps.map((value) => light(rampInk(SEQUENTIAL, { low: 0, high: 1, middle: null }, value)));
    expect([...grown].sort((a, b) => b - a)).toEqual(grown);
    const ends = rampEnds(DIVERGING, [-2, 8, NaN])!;
    expect(ends).toEqual({ low: -8, high: 8, middle: 0 });
    expect([-9, -8, 0, 8].map((value) => rampInk(DIVERGING, ends, value))).toEqual([BEHIND, BEHIND, '#E2DDD1', AHEAD]);
    for (const vision of VISIONS)
      expect(difference2000(seenWith(vision, DIVERGING.low), seenWith(vision, DIVERGING.high))).toBeGreaterThan(10);
  });
  test('each side of a ramp ends in its own ink, as far from a middle that is not zero as the other', () => {
    const ramp = { low: '#B4472F', high: '#0A4638', middle: { ink: '#E2DDD1', at: 3 } };
    for (const values of [
      [-1, 10],
      [7, -4, 2],
    ]) {
      const ends = rampEnds(ramp, values)!;
      expect(ends).toEqual({ low: -4, high: 10, middle: 3 });
      expect([-4, 3, 10].map((value) => rampInk(ramp, ends, value).toUpperCase())).toEqual([
        ramp.low,
        ramp.middle.ink,
        ramp.high,
      ]);
      expect(rampInk(ramp, ends, -0.5)).toBe(between(ramp.low, ramp.middle.ink, 0.5));
      expect(rampInk(ramp, ends, 6.5)).toBe(between(ramp.middle.ink, ramp.high, 0.5));
    }
    // Of one value alone the ink is that of the middle.
    const plain = { low: '#C6D3CA', high: '#0A4638' };
    expect(rampInk(plain, rampEnds(plain, [7])!, 7)).toBe(between(plain.low, plain.high, 0.5));
  });

  test('grey is grey with every vision, and red, green and blue are as the published matrices have them', () => {
    for (let level = 0; level < 256; level++) {
      const grey = `#${level.toString(16).padStart(2, '0').toUpperCase().repeat(3)}`;
      for (const vision of VISIONS) expect(seenWith(vision, grey)).toBe(grey);
    }
    /** A share of light as two hexadecimal digits of sRGB (IEC 61966-2-1). */
    const written = (light: number) => {
      const part = Math.min(1, Math.max(0, light));
      const coded = part <= 0.0031308 ? 12.92 * part : 1.055 * part ** (1 / 2.4) - 0.055;
      return Math.round(coded * 255)
        .toString(16)
        .padStart(2, '0')
        .toUpperCase();
    };
    // Machado, Oliveira and Fernandes 2009, severity 1: what red, green and blue light become.
    const published = {
      protanopia: [
        [0.152286, 0.114503, -0.003882],
        [1.052583, 0.786281, -0.048116],
        [-0.204868, 0.099216, 1.051998],
      ],
      deuteranopia: [
        [0.367322, 0.280085, -0.01182],
        [0.860646, 0.672501, 0.04294],
        [-0.227968, 0.047413, 0.968881],
      ],
      tritanopia: [
        [1.255528, -0.078411, 0.004733],
        [-0.076749, 0.930809, 0.691367],
        [-0.178779, 0.147602, 0.3039],
      ],
    };
    for (const [vision, lights] of Object.entries(published))
      for (const [i, ink] of ['#FF0000', '#00FF00', '#0000FF'].entries())
        expect(seenWith(vision as keyof typeof published, ink)).toBe(`#${lights[i]!.map(written).join('')}`);
  });

  test('our inks write on paper and can be told apart with every vision', () => {
    for (const { ink } of INKS) expect(contrast(ink, '#FAFAF7')).toBeGreaterThanOrEqual(4.5);
    for (const [i, one] of INKS.entries())
      for (const other of INKS.slice(i + 1))
        for (const vision of VISIONS)
          expect(
            difference2000(seenWith(vision, one.ink), seenWith(vision, other.ink)),
            `${one.name}, ${other.name}, ${vision}`,
          ).toBeGreaterThanOrEqual(LEAST_DIFFERENCE[vision]);
  });
  test('inks of lines write on paper, can be told apart with every vision, and say neither ahead nor behind', () => {
    for (const [i, one] of LINE_INKS.entries()) {
      expect(contrast(one, '#FAFAF7')).toBeGreaterThanOrEqual(4.5);
      for (const meant of [AHEAD, BEHIND]) expect(difference2000(one, meant)).toBeGreaterThanOrEqual(18);
      for (const other of LINE_INKS.slice(i + 1))
        for (const vision of VISIONS)
          expect(
            difference2000(seenWith(vision, one), seenWith(vision, other)),
            `${one}, ${other}, ${vision}`,
          ).toBeGreaterThanOrEqual(LEAST_DIFFERENCE[vision]);
    }
  });
  test('an ink that fails is named, with the nearest one that passes', () => {
    expect(inkFault(AHEAD, [BEHIND, INK])).toBeNull();
    const faint = inkFault('#F2C14E');
    expect(faint!.sentence).toContain('contrast');
    expect(inkFault(faint!.instead!)).toBeNull();
    const alike = inkFault('#157A70', [AHEAD]);
    expect(alike!.sentence).toContain('told apart');
    expect(inkFault(alike!.instead!, [AHEAD])).toBeNull();
  });
  test('bands grow lighter toward the best', () => {
    for (const ink of [INK, QUIET, AHEAD, BEHIND, LEVEL]) expect(contrast(ink, '#FAFAF7')).toBeGreaterThanOrEqual(4.5);
    for (const tints of Object.values(BAND_TINTS))
      for (let i = 1; i < tints.length; i++)
        expect(contrast(INK, tints[i]!)).toBeGreaterThan(contrast(INK, tints[i - 1]!));
  });
});

describe('paper in the dark', () => {
  const colour = fc
    .integer({ min: 0, max: 0xffffff })
    .map((value) => `#${value.toString(16).padStart(6, '0').toUpperCase()}`);

  test('law: what could be read on light paper can be read on dark paper, and what steps back steps back', () => {
    fc.assert(
      fc.property(colour, (ink) => {
        const [light, dark] = [contrast(ink, '#FAFAF7'), contrast(inDark(ink), DARK_PAPER)];
        // A colour has 256 steps of light; a step in the dark is a larger part of it.
        if (light <= 7 && !OWN_INKS.includes(ink)) expect(Math.abs(dark - light)).toBeLessThan(0.08 * light);
        else expect(dark).toBeGreaterThan(4.5);
      }),
    );
  });

  test('law: of two inks the one that stands out more by day does by night', () => {
    fc.assert(
      fc.property(colour, colour, (one, other) => {
        fc.pre(!OWN_INKS.includes(one) && !OWN_INKS.includes(other));
        const more = luminance(one) < luminance(other) - 0.01;
        if (more) expect(luminance(inDark(one))).toBeGreaterThanOrEqual(luminance(inDark(other)) - 0.002);
      }),
    );
  });

  test('our inks write on dark paper, those of lines too, and are told apart with every vision', () => {
    for (const set of [INKS.map(({ ink }) => ink), LINE_INKS])
      for (const [i, one] of set.entries()) {
        expect(contrast(inDark(one), DARK_PAPER)).toBeGreaterThanOrEqual(4.5);
        for (const other of set.slice(i + 1))
          for (const vision of VISIONS)
            expect(
              difference2000(seenWith(vision, inDark(one)), seenWith(vision, inDark(other))),
              `${one}, ${other}, ${vision}`,
            ).toBeGreaterThanOrEqual(LEAST_DIFFERENCE[vision]);
      }
    for (const line of LINE_INKS)
      for (const meant of [AHEAD, BEHIND])
        expect(difference2000(inDark(line), inDark(meant))).toBeGreaterThanOrEqual(18);
    expect(contrast(inDark(QUIET), DARK_PAPER)).toBeGreaterThanOrEqual(4.5);
  });

  test('letters on a tint or a ramp are read there as well', () => {
    const grounds = [
      ...Object.values(BAND_TINTS).flat(),
      ...[0, 0.25, 0.5, 0.75, 1].map((share) => between(SEQUENTIAL.low, SEQUENTIAL.high, share)),
    ];
    for (const ground of grounds) {
      const letters = textOn(ground);
      const by = { day: contrast(letters, ground), night: contrast(inDark(letters), inDark(ground)) };
      expect(by.night, `${letters} on ${ground}`).toBeGreaterThanOrEqual(Math.min(4.5, 0.75 * by.day));
    }
    // Paper is paper: a hole in a mark is one in the dark.
    expect(inDark('#FAFAF7')).toBe(DARK_PAPER);
  });

  test('a picture’s marks change their colours and nothing else', () => {
    const svg =
      '<g><rect x="1" fill="#16202B" stroke="#147560"/><text fill="#5B6873">fill=&quot;#16202B&quot; #16202B</text></g>';
    expect(marksInDark(svg)).toBe(
      `<g><rect x="1" fill="${inDark(INK)}" stroke="${inDark(AHEAD)}"/><text fill="${inDark(QUIET)}">fill=&quot;#16202B&quot; #16202B</text></g>`,
    );
  });
});

const OWN_INKS = [INK, AHEAD, BEHIND, LEVEL, ...LINE_INKS];
