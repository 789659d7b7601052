import fc from 'fast-check';
import type { Form } from '../form';
import { readCsv } from '../reading';
import { checkReport, type Look } from '../report';
import { textWidth, type Mark, type Scene } from '../scene';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { drawFigure, type Drawn } from '.';

export interface Member {
  readonly name: string;
  readonly actual: number | null;
  readonly target: number | null;
}

/** A brief for each form, of rows with `net`, `shop`, `goal` and a day. */
export const FORM_BRIEFS: Readonly<Record<Form, string>> = {
  bullet: 'net by shop against goal as bullet',
  bars: 'net by shop against goal as bars',
  pairs: 'net by shop against goal as pairs',
  waterfall: 'net by shop against goal as waterfall',
  pace: 'cumulative net each month against goal as pace',
  bump: 'rank of net by shop each month as bump',
  headline: 'net against goal as headline',
  dial: 'net by shop against goal as dial',
  league: 'net by shop each month as league',
  table: 'net, share of net by shop against goal as table',
  trend: 'net each month against goal as trend',
};

/** What a figure is drawn from, beside its brief. */
export interface Drawing {
  readonly look?: Look;
  readonly measures?: readonly object[];
  readonly benchmarks?: readonly object[];
  readonly highlights?: readonly object[];
  readonly rulers?: readonly object[];
  readonly calendar?: object;
  readonly date?: string;
  readonly types?: Parameters<typeof readCsv>[2];
}

/** The figure of a brief over one table, `t`. */
export async function drawnFrom(
  csv: string,
  brief: string,
  { look = {}, types, date, ...parts }: Drawing = {},
): Promise<Drawn> {
  const table = makeTable(await readCsv('t', csv, types), { id: 't', ...(date ? { date } : {}) });
  const report = checkReport({
    boldRuler: 1,
    name: 't',
    tables: [{ id: 't', source: { file: 't.csv' }, ...(date ? { date } : {}) }],
    figures: [{ id: 'f', brief, look }],
    ...parts,
  });
  const desk = workspaceFor(report, new Map([['t', table]]));
  return drawFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, report.figures[0]!);
}

/** The figure of some members' actuals and targets. */
export async function drawn(
  members: readonly Member[],
  look: Look = {},
  aim = 'raise',
  brief = 'actual by member against target',
): Promise<Scene> {
  const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
  const text = [
    'member,actual,target',
    ...members.map((m) => `${quoted(m.name)},${m.actual ?? ''},${m.target ?? ''}`),
  ].join('\n');
  const { scene } = await drawnFrom(text, brief, {
    look,
    types: [
      { name: 'member', type: 'text' },
      { name: 'actual', type: 'number' },
      { name: 'target', type: 'number' },
    ],
    measures: [{ name: 'actual', table: 't', expression: 'sum(actual)', aim }],
    benchmarks: [{ name: 'target', kind: 'expression', expression: 'sum(target)' }],
  });
  return scene;
}

const amount = fc
  .oneof(fc.integer({ min: -500, max: 5000 }), fc.double({ min: -1e7, max: 1e8, noNaN: true }), fc.constant(0))
  .map((x) => (Math.abs(x) < 1e-9 ? 0 : Number(x.toPrecision(6))));
const member = fc.record<Member>({
  name: fc.oneof(
    fc.constantFrom('Nord', 'A territory with a name that goes on for quite a while and then some', 'Ö'),
    fc.string({ minLength: 1, maxLength: 30 }),
  ),
  actual: fc.option(amount, { freq: 6 }),
  target: fc.option(amount, { freq: 6 }),
});
export const members = fc
  .oneof(
    { weight: 4, arbitrary: fc.array(member, { minLength: 1, maxLength: 14 }) },
    { weight: 1, arbitrary: fc.array(member, { minLength: 80, maxLength: 300 }) },
  )
  .map((list) => list.map((m, i) => ({ ...m, name: `${m.name.replace(/[\s\p{Cc}]+/gu, ' ').trim() || 'x'} ${i}` })));
const look = fc.record<Look>(
  {
    width: fc.integer({ min: 420, max: 1600 }),
    orientation: fc.constantFrom('horizontal', 'vertical'),
  },
  { requiredKeys: ['width', 'orientation'] },
);
export const sized = fc
  .tuple(look, fc.option(fc.integer({ min: 80, max: 1200 }), { nil: undefined }))
  .map(([l, height]): Look => (height === undefined ? l : { ...l, height }));
export const aim = fc.constantFrom('raise', 'cut', 'hold');

/** The box a mark takes. */
export function box(mark: Mark): { x0: number; x1: number; y0: number; y1: number } {
  switch (mark.shape) {
    case 'rect':
      return { x0: mark.x, x1: mark.x + mark.width, y0: mark.y, y1: mark.y + mark.height };
    case 'line':
      return {
        x0: Math.min(mark.x1, mark.x2),
        x1: Math.max(mark.x1, mark.x2),
        y0: Math.min(mark.y1, mark.y2),
        y1: Math.max(mark.y1, mark.y2),
      };
    case 'text': {
      const width = textWidth(mark.text, mark.size, mark.weight);
      const x0 = mark.anchor === 'start' ? mark.x : mark.anchor === 'middle' ? mark.x - width / 2 : mark.x - width;
      return { x0, x1: x0 + width, y0: mark.y - mark.size * 0.72, y1: mark.y + mark.size * 0.2 };
    }
    case 'path': {
      const xs = mark.points.map(([x]) => x);
      const ys = mark.points.map(([, y]) => y);
      return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
    }
    case 'circle':
      return { x0: mark.cx - mark.r, x1: mark.cx + mark.r, y0: mark.cy - mark.r, y1: mark.cy + mark.r };
    case 'arc': {
      // The outer corners and the extremes the arc passes.
      const angles = [mark.a0, mark.a1, ...[-4, -3, -2, -1, 0, 1, 2, 3, 4].map((n) => (n * Math.PI) / 2)].filter(
        (a) => a >= mark.a0 && a <= mark.a1,
      );
      const xs = angles.map((a) => mark.cx + mark.r1 * Math.sin(a));
      const ys = angles.map((a) => mark.cy - mark.r1 * Math.cos(a));
      return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
    }
  }
}
