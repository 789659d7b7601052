import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { formOf } from '../brief';
import { forms, lookFor, type Form } from '../form';
import { QUIET } from '../highlight';
import { isProblem } from '../problem';
import { tries } from '../proof/tries.fixture';
import { check } from '../proof/world.fixture';
import { box, drawnFrom, FORM_BRIEFS } from './drawn.fixture';
import { PAD } from './frame';
import { formDefinition } from './registry';
import { fittedTo, PLOT_SHARE, ROOMS, type Room } from './room';
import type { Scene } from '../scene';
import type { Drawn } from '.';

// What holds for every form in every room: from 240 × 160 to 1600 × 900 pixels, with few members and many, short names and long ones.

const SIZES = [
  [240, 160],
  [300, 400],
  [320, 200],
  [420, 260],
  [560, 340],
  [960, 540],
  [1600, 900],
] as const;
const NAMES = ['Nord', 'Süd', 'Larkmoor and the hills behind it', 'Ö', 'Brackwater', 'Alder Coast', 'Gorse Heath'];
const AMOUNTS = { plain: 1, tiny: 0.0001, huge: 90_000_000, negative: -3 } as const;

const world = fc.record({
  count: fc.constantFrom(1, 3, 12, 60),
  long: fc.boolean(),
  amounts: fc.constantFrom(...(Object.keys(AMOUNTS) as (keyof typeof AMOUNTS)[])),
  seed: fc.nat(1000),
  size: fc.constantFrom(...SIZES),
  upright: fc.boolean(),
});
type World = typeof world extends fc.Arbitrary<infer W> ? W : never;

async function drawnAt(form: Form, { count, long, amounts, seed, size, upright }: World): Promise<Drawn | null> {
  const lines = Array.from({ length: count * 3 }, (_, i) => {
    const at = i % count;
    const name = long ? `${NAMES[at % NAMES.length]} ${at}` : `S${at}`;
    const net =
      (((at * 37 + seed + i * 11) % 100) + 1) * AMOUNTS[amounts] * (amounts === 'negative' && at % 2 ? -1 : 1);
    return `2025-0${Math.floor(i / count) + 1}-15,${name},${net},${Math.abs(net) * (0.7 + ((seed + at) % 7) / 10)}`;
  });
  try {
    return await drawnFrom(['day,shop,net,goal', ...lines].join('\n'), FORM_BRIEFS[form], {
      look: {
        width: size[0],
        height: size[1],
        ...(upright && ['bullet', 'bars', 'pairs', 'waterfall'].includes(form) ? { orientation: 'vertical' } : {}),
      },
      date: 'day',
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    });
  } catch (error) {
    if (!isProblem(error)) throw error;
    return null;
  }
}

const isSame = (a: Room, b: Room) => (['caption', 'legend', 'words', 'ticks'] as const).every((of) => a[of] === b[of]);

describe.each(forms().filter((form) => form in FORM_BRIEFS))('a figure for its room: %s', (form) => {
  const inWorlds = (law: (drawn: Drawn, world: World) => void) =>
    fc.assert(
      fc.asyncProperty(world, async (w) => {
        const drawn = await drawnAt(form, w);
        if (drawn) law(drawn, w);
      }),
      { numRuns: tries(40) },
    );

  test('is given up for a smaller room before its marks are made only where it would come out higher', () =>
    inWorlds(({ scene, cells, request }) => {
      const { form, draw } = formDefinition(formOf(cells.brief));
      const whole = (room: Room) => draw({ ...request, look: lookFor(form, request.look), room });
      const height = request.look.height!;
      const first = fittedTo(height, ({ isStrict: _, ...room }) => whole(room));
      expect(first.scene.marks).toEqual(scene.marks);
      for (const room of ROOMS) {
        const given = fittedTo(height, (one) => {
          // Only the room that is looked at may refuse.
          if (one.isStrict && !isSame(one, room)) return { ...scene, height: Infinity };
          return draw({ ...request, look: lookFor(form, request.look), room: one });
        });
        const drawn = whole(room);
        if (room !== ROOMS.at(-1)) expect(isSame(given.room, room)).toBe(drawn.height <= height + 0.5);
      }
    }));

  test('fits in it, with no text on another, none outside, none too small, and no fact cut in two', () =>
    inWorlds(({ scene, cells }, { size }) => {
      expect([scene.width, scene.height]).toEqual([...size]);
      const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [{ mark, ...box(mark) }] : []));
      const names = new Set(cells.members.flat());
      for (const { mark, x0, x1, y0, y1 } of texts) {
        expect(mark.size).toBeGreaterThanOrEqual(11);
        if (x0 < -0.01 || x1 > scene.width + 0.01 || y0 < -0.01 || y1 > scene.height + 0.01)
          throw new Error(`“${mark.text}” leaves ${scene.width} × ${scene.height}`);
        // Names may be shortened; what a figure says of itself is whole.
        if (mark.text.includes('…') && ![...names].some((name) => name.startsWith(mark.text.split('…')[0]!)))
          throw new Error(`“${mark.text}” is cut`);
      }
      const sorted = texts.sort((a, b) => a.y0 - b.y0);
      sorted.forEach((a, i) => {
        for (const b of sorted.slice(i + 1)) {
          if (b.y0 >= a.y1 - 0.01) break;
          if (a.x0 < b.x1 - 0.01 && b.x0 < a.x1 - 0.01)
            throw new Error(`“${a.mark.text}” touches “${b.mark.text}” at ${size.join(' × ')}`);
        }
      });
    }));

  test('has half of its height for its plot, and names each row that it shows', () =>
    inWorlds(({ scene, rows }, { size, count }) => {
      const foot = Math.min(
        scene.height,
        ...scene.marks.flatMap((mark) => (['legend', 'caption'].includes(mark.role) ? [box(mark).y0] : [])),
      );
      // On a page what must be known of a figure lies on a strip in its margin, 12 pixels high.
      for (const mark of scene.marks)
        if (mark.shape === 'text') expect(mark.y + mark.size / 4).toBeLessThanOrEqual(scene.height - 12);
      // Title and subtitle are set in sizes of their own, at the margin.
      const head = Math.max(
        0,
        ...scene.marks.flatMap((mark) =>
          mark.shape === 'text' && mark.x === PAD && [18, 15, 12.5].includes(mark.size) ? [box(mark).y1] : [],
        ),
      );
      expect(foot - head).toBeGreaterThanOrEqual(PLOT_SHARE * Math.min(size[1], scene.height));
      if (form === 'waterfall') stepsAreTold(scene, rows.count);
      if (!['bullet', 'bars', 'pairs', 'dial'].includes(form)) return;
      const shown = new Set(scene.marks.flatMap((mark) => (mark.role === 'cell' ? [mark.key['shop']] : [])));
      const named = new Set(
        scene.marks.flatMap((mark) =>
          mark.role === 'label' && mark.key['shop'] !== undefined ? [mark.key['shop']] : [],
        ),
      );
      expect([...named].sort()).toEqual([...shown].sort());
      const more = scene.marks.flatMap((mark) =>
        mark.shape === 'text' ? (/^(\d+) more/.exec(mark.text)?.[1] ?? []) : [],
      );
      expect(more.map(Number)).toEqual(shown.size < count ? [rows.count - shown.size] : []);
      const unseen = Array.from({ length: rows.count }, (_, row) => row).filter(
        (row) => !shown.has(rows.members[0]![row]!),
      );
      const sum = unseen.reduce((all, row) => all + rows.actual[row]!, 0);
      for (const mark of scene.marks)
        if (mark.shape === 'text' && / more: /.test(mark.text))
          check('further rows', mark.text.replace(/^\d+/, ''), [sum]);
    }));
});

/** Every step of a waterfall has its name; those that have no room are one step, which is what they are together. */
function stepsAreTold({ marks }: Scene, count: number): void {
  const steps = marks.filter(({ role }) => ['rise', 'fall', 'rest'].includes(role) && role !== 'legend');
  const more = marks.flatMap((mark) =>
    mark.role === 'cell' ? (/^(\d+) more: /.exec(mark.words ?? '')?.[1] ?? []) : [],
  );
  expect(steps.length + Number(more[0] ?? 1) - 1).toBe(count);
  const [first, last] = marks.filter(({ role }) => role === 'total');
  const together = steps.reduce((sum, { value }) => sum + (value ?? 0), first!.value!);
  expect(together / (last!.value || 1)).toBeCloseTo(last!.value ? 1 : 0, 6);
  const named = marks.filter(
    (mark) =>
      mark.role === 'label' && mark.shape === 'text' && ![18, 15].includes(mark.size) && mark.paint.fill !== QUIET,
  );
  // Upright names may take two lines.
  expect(named.length).toBeGreaterThanOrEqual(steps.length + 2);
}

describe('what a small figure leaves away', () => {
  const shops = Array.from({ length: 12 }, (_, i) => `2025-01-15,S${i},${100 - i},${i === 3 ? '' : 90}`);
  const small = (brief: string, height: number) =>
    drawnFrom(['day,shop,net,goal', ...shops].join('\n'), brief, {
      look: { width: 320, height },
      date: 'day',
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
    });
  const texts = ({ scene }: Drawn) => scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));

  test('is told: its caption with its description, and the rest by its name beside those that are counted', async () => {
    const brief = 'net by shop as bars, keep 8 highest and the rest';
    expect(texts(await small(brief, 160))).toContain('3 more and the rest: 644 together');
    const steps = await small('net by shop against goal as waterfall, keep 8 highest and the rest', 190);
    const named = texts(steps).filter((text) => /^S\d+$/.test(text)).length;
    expect(texts(steps)).toContain(`${8 - named} more and the rest`);
    const large = await small(brief, 600);
    expect(texts(large).filter((text) => text.includes('more'))).toEqual([]);
    expect(texts(large)).toContain('From t.csv, as of 15 Jan 2025.');
    expect(large.scene.description).not.toContain('From t.csv');
    expect((await small(brief, 160)).scene.description).toMatch(/ From t\.csv, as of 15 Jan 2025\.$/);
  });

  test('of long names and of gaps is what bars to both sides of zero need, so that their lengths can be told', async () => {
    const name = (i: number) => `A shop whose name goes on for long, number ${i}`;
    const csv = ['day,shop,net,goal', ...shops.map((_, i) => `2025-01-15,"${name(i)}",${(i - 3) * 1000},4000`)];
    for (const form of ['bullet', 'bars', 'pairs']) {
      const { scene } = await drawnFrom(csv.join('\n'), `net by shop against goal as ${form}`, {
        look: { width: 270, height: 300 },
        date: 'day',
        measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
        benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
      });
      const [from, to] = scene.rulers[0]!.range;
      expect(to - from, form).toBeGreaterThan(32);
      const named = scene.marks.filter((mark) => mark.role === 'label' && mark.shape === 'text' && mark.key['shop']);
      expect(new Set(named.map((mark) => mark.shape === 'text' && mark.text)).size).toBe(named.length);
    }
  });

  test('a period that is yet to come is not said to end before it does', async () => {
    const ahead = await small('net by shop during fiscal 2026 against goal as bars', 200);
    for (const text of texts(ahead)) expect(text).not.toMatch(/to 1 Jan 2026|to 15 Jan 2025/);
  });
});
