import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { addMonths, dayOf, isoDay } from '../../calendar';
import { forms, withNames, type Form } from '../../form';
import { isProblem } from '../../problem';
import { tries } from '../../proof/tries.fixture';
import { type Look, type LookNote } from '../../report';
import type { Mark, Scene } from '../../scene';
import { box, drawnFrom, FORM_BRIEFS } from '../drawn.fixture';
import type { Drawn } from '..';

const SHOPS = ['Nord', 'Süd', 'Larkmoor and the hills', 'Ö', 'constructor', 'Gorse Heath'];
const LINES = SHOPS.flatMap((shop, s) =>
  Array.from(
    { length: 12 },
    (_, m) => `2025-${String(m + 1).padStart(2, '0')}-15,${shop},${((s * 37 + m * 13) % 90) + 10},${40 + s * 3}`,
  ),
);
const isOverTime = (form: Form) => FORM_BRIEFS[form].includes('each month');
const hasShops = (form: Form) => FORM_BRIEFS[form].includes('by shop');

const drawnWith = (brief: string, look: Look, more: object = {}) =>
  drawnFrom(['day,shop,net,goal', ...LINES].join('\n'), brief, {
    look,
    date: 'day',
    calendar: { fiscalYearStart: 1, asOf: '2025-12-31' },
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    ...more,
  });

const TEXTS = [
  'price list changed',
  'strike',
  'a campaign that went on for longer than anybody had thought it would',
  'ß',
];
const written = ({ marks }: Scene) =>
  marks
    .flatMap((mark) => ((mark.role === 'note' || mark.role === 'legend') && mark.shape === 'text' ? [mark.text] : []))
    .join(' ');

const noteFor = (form: Form) =>
  fc.record({
    text: fc.constantFrom(...TEXTS),
    at: fc.record({
      ...(hasShops(form) ? { key: fc.constantFrom(...SHOPS).map((shop) => ({ shop })) } : {}),
      ...(isOverTime(form)
        ? { step: fc.integer({ min: 1, max: 12 }).map((m) => `2025-${String(m).padStart(2, '0')}`) }
        : {}),
    }),
  }) as fc.Arbitrary<LookNote>;

describe.each(forms().filter((form) => form in FORM_BRIEFS))('notes on a figure drawn as %s', (form) => {
  test('are written or lettered, each is heard, none lies on anything, and none moves what is drawn', () =>
    fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(noteFor(form), { minLength: 1, maxLength: 4, selector: (note) => JSON.stringify(note) }),
        fc.constantFrom([560, 340], [960, 540], [700, undefined]),
        async (notes, [width, height]) => {
          const size: Look = { width: width!, ...(height === undefined ? {} : { height }) };
          let drawn: Drawn;
          try {
            drawn = await drawnWith(FORM_BRIEFS[form], { ...size, notes });
          } catch (error) {
            if (!isProblem(error)) throw error;
            return;
          }
          const { scene, rows } = drawn;
          expect(rows.checks.filter(({ code }) => code === 'note-adrift')).toEqual([]);
          const letters = scene.marks.filter(({ role, shape }) => role === 'note' && shape === 'circle');
          const ofNotes = scene.marks.filter(
            (mark) => mark.role === 'note' && mark.shape !== 'line' && onPlot(mark, scene),
          );
          for (const { text } of notes) {
            expect(scene.description).toContain(`: ${text}.`);
            const isWritten = written(scene).includes(text);
            // Where a legend has no room, a letter says it to the pointer.
            if (!isWritten) expect(letters.some(({ words }) => words?.endsWith(text))).toBe(true);
          }
          for (const mark of ofNotes) {
            const a = box(mark);
            expect(a.x0).toBeGreaterThanOrEqual(-0.01);
            expect(a.x1).toBeLessThanOrEqual(scene.width + 0.01);
            if (mark.shape !== 'text' || /^[a-z]$/.test(mark.text)) continue;
            for (const other of scene.marks) {
              if (other === mark || other.role === 'note' || !['text', 'circle'].includes(other.shape)) continue;
              const b = box(other);
              if (a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1)
                throw new Error(`“${mark.text}” lies on ${JSON.stringify(other)}`);
            }
          }
          // A note that is written beside its mark takes nothing away.
          if (letters.length === 0) {
            const plain = await drawnWith(FORM_BRIEFS[form], size);
            expect(scene.marks.filter(({ role }) => role !== 'note')).toEqual(plain.scene.marks);
          }
        },
      ),
      { numRuns: tries(25) },
    ));
});

/** Letters stand in the legend a second time. */
const onPlot = (mark: Mark, { marks }: Scene): boolean =>
  !marks.some((other) => other.role === 'legend' && Math.abs(box(other).y0 - box(mark).y0) < 6);

test('a note stays with its member and its step, whatever the order and the grain, and says when it hangs on nothing', async () => {
  const notes: LookNote[] = [{ text: 'strike', at: { key: { shop: 'Süd' } } }];
  for (const order of ['sorted by value down', 'sorted by name up']) {
    const { scene } = await drawnWith(`net by shop as bars, ${order}`, { notes });
    const bar = scene.marks.find(({ role, key }) => role === 'actual' && key['shop'] === 'Süd')!;
    const note = scene.marks.find((mark) => mark.role === 'note' && mark.key['shop'] !== undefined)!;
    expect(note.key).toEqual({ shop: 'Süd' });
    expect(Math.abs(box(note).y0 - box(bar).y0)).toBeLessThan(60);
  }
  // In a fiscal year from April its second quarter is July to September.
  const april = await drawnWith(
    'net each quarter as trend',
    { notes: [{ text: 'strike', at: { step: '2026-Q2' } }] },
    { calendar: { fiscalYearStart: 4, asOf: '2025-12-31' } },
  );
  const [noted] = april.scene.marks.filter(({ role }) => role === 'note');
  expect(noted!.step).toBe('2026-Q2');
  expect(april.scene.description).toContain('Note: Q2 2026: strike.');
  for (const grain of ['month', 'quarter', 'year']) {
    const drawn = await drawnWith(`net each ${grain} as trend`, {
      notes: [{ text: 'strike', at: { step: '2025-05' } }],
    });
    expect(drawn.rows.checks.filter(({ code }) => code === 'note-adrift')).toEqual([]);
    expect(written(drawn.scene)).toContain('strike');
  }
  const adrift: LookNote[] = [
    { text: 'gone', at: { key: { shop: 'West' } } },
    { text: 'later', at: { step: '2027-01' } },
    { text: 'no day', at: { key: { shop: 'Süd' }, step: 'some day' } },
  ];
  const { rows, scene } = await drawnWith('net by shop as bars', { notes: adrift });
  expect(rows.checks.flatMap(({ code, text }) => (code === 'note-adrift' ? [text] : []))).toEqual([
    'the note “gone” is not shown: it hangs on West, which the figure does not show',
    'the note “later” is not shown: it hangs on 2027-01, which the figure does not show',
    'the note “no day” is not shown: it hangs on Süd, some day, which the figure does not show',
  ]);
  expect(scene.marks.some(({ role }) => role === 'note')).toBe(false);
});

test('a note on a row that has no room is told and heard, and stands nowhere else', async () => {
  const lines = Array.from({ length: 40 }, (_, i) => `2025-01-15,S${i},${500 - i},10`);
  for (const form of ['bars', 'waterfall', 'table', 'dial']) {
    const brief = `net by shop${form === 'waterfall' ? '' : ' against goal'} as ${form}`;
    const { scene, rows } = await drawnFrom(['day,shop,net,goal', ...lines].join('\n'), brief, {
      look: { width: 320, height: 220, notes: [{ text: 'strike', at: { key: { shop: 'S39' } } }] },
      date: 'day',
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    });
    expect(rows.checks.flatMap(({ code, text }) => (code === 'note-adrift' ? [text] : []))).toEqual([
      'the note “strike” is not shown: S39 has no room in the figure',
    ]);
    expect(scene.description).toContain('Note: S39: strike.');
    expect(scene.marks.filter(({ role }) => role === 'note')).toEqual([]);
  }
});

describe('a period on a figure over time', () => {
  const day = fc.integer({ min: 0, max: 364 }).map((n) => dayOf(2025, 1, 1) + n);
  test('covers its days in proportion, in bars, lines and running sums', () =>
    fc.assert(
      fc.asyncProperty(day, day, fc.constantFrom('trend', 'bars', 'pace', 'bullet'), async (a, b, how) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const spans = [{ text: 'campaign', from: isoDay(from), to: isoDay(to) }];
        const { scene } = await drawnWith(
          how === 'pace'
            ? 'cumulative net each month during fiscal 2025 against goal as pace'
            : `net each month during fiscal 2025 as ${how === 'bars' ? 'trend' : how}`,
          {
            width: 900,
            spans,
            ...(how === 'bars' ? { draw: 'bars' } : how === 'bullet' ? { orientation: 'vertical' } : {}),
          },
        );
        const [span, ...others] = scene.marks.filter(({ role }) => role === 'span');
        expect(others).toEqual([]);
        const cells = scene.marks.flatMap((mark) => (mark.role === 'cell' && mark.shape === 'rect' ? [mark] : []));
        const centres = cells.map(({ x, width }) => x + width / 2).sort((p, q) => p - q);
        const band = centres[1]! - centres[0]!;
        const placeOf = (at: number): number => {
          const month = Array.from({ length: 12 }, (_, i) => addMonths(dayOf(2025, 1, 1), i)).findLastIndex(
            (start) => start <= at,
          );
          const start = addMonths(dayOf(2025, 1, 1), month);
          return centres[0]! - band / 2 + band * (month + (at - start) / (addMonths(start, 1) - start));
        };
        const { x0, x1 } = box(span!);
        if (from === to) expect(x0).toBeCloseTo((placeOf(from) + placeOf(to + 1)) / 2, 3);
        else {
          expect(x0).toBeCloseTo(placeOf(from), 3);
          expect(x1).toBeCloseTo(to + 1 > dayOf(2025, 12, 31) ? centres[0]! + band * 11.5 : placeOf(to + 1), 3);
        }
        expect(scene.marks.indexOf(span!)).toBe(0);
        expect(written(scene)).toContain('campaign');
        expect(scene.description).toContain('Note: campaign.');
      }),
      { numRuns: tries(25) },
    ));

  test('lies in each panel, is written once, and is told where it cannot be shown', async () => {
    const spans = [{ text: 'fair', from: '2025-03' }];
    const { scene } = await drawnWith('net by shop each month as trend', { width: 900, panels: 'shop', spans });
    expect(scene.marks.filter(({ role }) => role === 'span')).toHaveLength(SHOPS.length);
    expect(written(scene).split('fair')).toHaveLength(2);
    const told = async (brief: string, span: object) =>
      (await drawnWith(brief, { spans: [{ text: 'fair', from: '2025-03', ...span }] })).rows.checks.flatMap(
        ({ code, text }) => (code === 'note-adrift' ? [text] : []),
      );
    expect(await told('net by shop as bars', {})).toEqual([
      'the note “fair” is not shown: the figure does not go over time',
    ]);
    expect(await told('net each month as trend', { from: '2031' })).toEqual([
      'the note “fair” is not shown: it lies outside of what the figure shows',
    ]);
    expect(await told('net each month as trend', { to: '2025-01' })).toEqual([
      'the note “fair” is not shown: it ends (2025-01) before it begins (2025-03)',
    ]);
    const twice = [
      { text: 'fair', from: '2025-02' },
      { text: 'fair', from: '2025-08' },
    ];
    const both = await drawnWith('net each month as trend', { width: 900, spans: twice });
    expect(written(both.scene).split('fair')).toHaveLength(3);
    expect(await told('net each month as trend', { to: 'soon' })).toEqual([
      'the note “fair” is not shown: “soon” is no day and no period',
    ]);
  });
});

test('a note follows a field that gets another name, and goes with one that goes', () => {
  const look: Look = { title: 'T', notes: [{ text: 'strike', at: { key: { shop: 'Süd' }, step: '2025-03' } }] };
  const renamed = withNames(look, (name, of) => (of === 'field' && name === 'shop' ? 'branch' : name));
  expect(renamed.notes).toEqual([{ text: 'strike', at: { key: { branch: 'Süd' }, step: '2025-03' } }]);
  expect(withNames(look, (name, of) => (of === 'field' && name === 'shop' ? null : name))).toEqual({ title: 'T' });
  expect(withNames(look, (name) => name)).toBe(look);
});
