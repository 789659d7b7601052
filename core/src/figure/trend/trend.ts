import { againstNothing, all, asItIs, plainly } from '../changes';
import { writeNumber, writingOf } from '../../format';
import { trendsOf, type Cells } from '../../query';
import type { Look } from '../../report';
import { wrap, type Mark, type Scene, type SceneRuler } from '../../scene';
import { bandEdgesAt } from '../bullet/bands';
import { trendForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { textMark } from '../shapes';
import { spoken } from '../names';
import { LABEL_SIZE } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { endLabels, endsWidth, type End } from '../time/ends';
import { PANEL, panelFieldOf, panelLines, panelsOf, slotsFor } from '../time/panels';
import { plotOf, sceneRuler, stripWidth } from '../time/plot';
import { lastValue, seriesOf, standingOut } from '../time/series';
import { trendLegend, type TrendDrawn } from './legend';
import { lastRow, MOST_DOTS, RULED, seriesMarks } from './marks';
import { trendBands } from './trendBands';

/** A measure over time, as lines, bars or both, held against its benchmark step by step. */
export const trend: FormDefinition = {
  ...trendForm,
  rulerValues,
  draw,
  fitting: (_, { steps }) => {
    const step = steps.at(-1) ?? asItIs;
    return [step, all(plainly, step), all(plainly, step, againstNothing)];
  },
  numbers: (cells) => {
    const trends = trendsOf(cells);
    return trends.length > 0 ? { lists: { trends } } : {};
  },
};

const HEIGHT = 420;
const LABEL_ROOM = 16;
/** A panel lower than this is left away. */
const LEAST_PANEL = 90;
const PANEL_HEIGHT = 170;
/** More lines than this are told apart by their labels only where some stand out. */
const MOST_ENDS = 0.3;

function rulerValues(cells: Cells, look: Look): number[] {
  const bands = trendBands(cells, look);
  const values: number[] = [];
  for (let row = 0; row < cells.count; row++)
    for (const value of [
      cells.actual[row]!,
      cells.benchmarks?.[row] ?? NaN,
      cells.low?.[row] ?? NaN,
      cells.high?.[row] ?? NaN,
      ...bandEdgesAt(bands, cells, row),
    ])
      if (!Number.isNaN(value)) values.push(value);
  return values;
}

function draw(request: FigureRequest): Scene {
  const { cells, look } = request;
  const writing = writingOf(cells);
  const width = look.width ?? DEFAULT_WIDTH;
  const field = panelFieldOf(cells, look);
  const series = seriesOf(cells, field);
  const panels = panelsOf(field, series);
  const steps = series[0] ? series[0].rows.map((row) => cells.steps![row]!) : [];
  const head = headOf(request, width, writing);
  const barred = look.draw !== undefined && look.draw !== 'line';
  const values = rulerValues(cells, look);
  const wish = {
    values: barred ? [...values, 0] : values,
    steps,
    writing,
    fit: barred && look.fit === 'tight' ? ('zero' as const) : (look.fit ?? 'zero'),
  };
  const strong = standingOut(series, look, (one) => lastValue(cells.actual, one));
  const endOf = (
    one: (typeof series)[number],
    y: (value: number) => number,
    x: (step: number) => number,
  ): End | null => {
    const row = lastRow(cells, one);
    if (row === null) return null;
    const value = cells.actual[row]!;
    return {
      x: x(row - one.rows[0]!),
      y: y(value),
      name: one.name,
      text: writeNumber(value, writing),
      of: { key: one.key, step: null },
      strong: strong.has(one.name),
      value,
    };
  };
  const several = panels.some((panel) => panel.series.length > 1);
  const inner = width - 2 * PAD;
  const labels = several
    ? endsWidth(
        series.map(({ name, rows }) => ({ name, text: writeNumber(cells.actual[rows[0]!]!, writing) })),
        inner * MOST_ENDS,
      )
    : 0;
  const strip = stripWidth(request, wish) + 8;
  const alone = panels.some((panel) => panel.series.length === 1);
  const drawn: TrendDrawn = {
    alone,
    dotted: alone && (!barred || look.draw === 'both') && steps.length <= MOST_DOTS && look.smooth === undefined,
    ruled: (inner - strip) / Math.max(1, steps.length) >= RULED,
    ends: series.flatMap((one) => lastRow(cells, one) ?? []),
  };
  const foot = footOf(request, width, trendLegend(request, writing, drawn));
  const lines = Math.max(1, panelLines(panels.length, inner, strip));
  const natural =
    field === null ? HEIGHT : head.bottom + lines * PANEL_HEIGHT + (lines - 1) * PANEL.down + 24 + foot.height;
  const height = heightOf(request, natural, head, foot, field === null ? 80 : LEAST_PANEL);
  const bottom = Math.max(head.bottom + 60, height - foot.height);
  const slots = slotsFor(
    panels.length,
    { x: PAD, y: head.bottom, width: inner, height: bottom - head.bottom },
    strip,
    LEAST_PANEL,
  );
  const marks: Mark[] = [...head.marks];
  const cellMarks: (Mark | undefined)[] = [];
  const rulers: SceneRuler[] = [];
  let dropped = 0;
  panels.forEach((panel, p) => {
    const slot = slots[p];
    if (!slot) {
      dropped++;
      return;
    }
    const { box, first, last } = slot;
    const named = panel.name === null ? 0 : PANEL.name;
    const ends = panel.series.length > 1 ? labels : 0;
    const plot = plotOf(request, {
      ...wish,
      // Above the highest value there is room for its label.
      box: {
        x: box.x,
        y: box.y + named + LABEL_ROOM,
        width: box.width - ends,
        height: box.height - named - LABEL_ROOM,
      },
      hasStrip: first,
      hasTime: last,
    });
    if (panel.name !== null)
      marks.push(
        textMark(
          'label',
          wrap(panel.name, plot.right - plot.left, LABEL_SIZE, 600, 1)[0] ?? '',
          plot.left,
          box.y + 13,
          LABEL_SIZE,
          {
            weight: 600,
          },
        ),
      );
    marks.push(...plot.marks);
    if (first) rulers.push(sceneRuler(plot, request.ruler?.entry.id ?? 'own'));
    for (const one of panel.series)
      dropped += seriesMarks(marks, cellMarks, request, writing, plot, one, {
        alone: panel.series.length === 1,
        strong: strong.has(one.name),
        marked: field === null,
      });
    if (panel.series.length > 1) {
      const found = panel.series.flatMap((one) => endOf(one, plot.y, plot.x) ?? []);
      dropped += endLabels(marks, found, plot.right, ends, [plot.top, plot.bottom]);
    }
  });
  marks.push(...foot.marks(bottom), ...cellMarks.filter((mark) => mark !== undefined));
  return { width, height, title: head.title, description: described(cells, look), rulers, marks, dropped };
}

/** The figure in words, its trend among them. */
function described(cells: Cells, look: Look): string {
  const said = spoken('Trend', cells);
  if (!look.trend) return said;
  const writing = writingOf(cells);
  const lines = trendsOf(cells).map(({ key, slope, rSquared }) => {
    const who = Object.values(key).join(' · ');
    return `${who ? `${who}: ` : ''}${writeNumber(slope, writing, true)} a ${cells.grain}, R² ${rSquared.toFixed(2)}.`;
  });
  return `${said} ${lines.join(' ')}`.trim();
}
