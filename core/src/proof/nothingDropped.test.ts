import { describe, expect, test } from 'vitest';
import { drawnFrom } from '../figure/drawn.fixture';
import { forms } from '../form';
import { isProblem } from '../problem';

// Nothing of a brief is left out in silence: a view is in the figure, or a note names it, or the brief is refused.

const CSV = ['day,shop,line,net,pieces'];
for (let month = 1; month <= 6; month++)
  for (const [s, shop] of ['Alder', 'Birch'].entries())
    for (const [l, line] of ['keys', 'brass'].entries())
      CSV.push(`2025-0${month}-15,${shop},${line},${100 * month + 10 * s + l},${month + s + l}`);

const MEASURES = ['net', 'pieces'].map((name) => ({ name, table: 't', expression: `sum(${name})` }));

async function shown(brief: string) {
  try {
    const { scene, rows } = await drawnFrom(CSV.join('\n'), brief, {
      measures: MEASURES,
      benchmarks: [{ name: 'goal', kind: 'fixed', value: 900, per: ['member', 'month'] }],
    });
    return {
      texts: scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])).join('\n'),
      notes: rows.checks.map(({ text }) => text).join('\n'),
    };
  } catch (error) {
    if (!isProblem(error)) throw error;
    return null;
  }
}

const ASKED = ['', ' by shop', ' by shop, line', ' each month', ' by shop each month'].flatMap((by) =>
  ['', ' against goal', ' against last year'].map((against) => `${by} during year to date${against}`),
);

describe.each(['fitting', ...forms()])('a second measure in the form %s', (form) => {
  test('is in the figure, or a note names it', async () => {
    let figures = 0;
    const first = form === 'pace' ? 'cumulative net' : 'net';
    for (const asked of ASKED) {
      const as = form === 'fitting' ? '' : ` as ${form}`;
      const one = await shown(`${first}${asked}${as}`);
      const both = await shown(`${first}, pieces${asked}${as}`);
      if (!one || !both) continue;
      figures++;
      const isDrawn = both.texts.includes('pieces') && !one.texts.includes('pieces');
      expect([asked, isDrawn || both.notes.includes('“pieces” is not in this figure')]).toEqual([asked, true]);
    }
    expect(figures).toBeGreaterThan(0);
  });
});

test('a running sum without steps says that there is none', async () => {
  expect((await shown('cumulative net by shop as bars'))!.notes).toContain('“cumulative” adds up over steps of time');
  expect((await shown('cumulative net by shop each month'))!.notes).not.toContain('“cumulative” adds up');
});
