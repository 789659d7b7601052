import { againstNothing, all, alone, asItIs, viewed } from '../changes';
import { writingOf } from '../../format';
import { Problem } from '../../problem';
import { landingsOf, type Cells } from '../../query';
import type { Brief } from '../../brief';
import type { Look } from '../../report';
import { shorten, type Mark, type Scene, type SceneRuler } from '../../scene';
import { paceForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { textMark } from '../shapes';
import { rowKey, spoken } from '../names';
import { cellMark, LABEL_SIZE } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { endLabels, endsWidth, type End } from '../time/ends';
import { PANEL, panelLines, panelsOf, panelFieldOf, slotsFor } from '../time/panels';
import { around, plotOf, sceneRuler, stripWidth } from '../time/plot';
import { lastValue, seriesOf, standingOut } from '../time/series';
import { gapStrip, gapLabelWidth } from './gapStrip';
import { landingWithin } from './within';
import { lastStepOf, endsOf, lineMarks, landingMarks, landingWords, legend } from './marks';

/** Running sums against what they should be by then: the actual stops at the as-of date, the benchmark goes on to the end, the gap lies beneath. */
export const pace: FormDefinition = {
  ...paceForm,
  rulerValues,
  furtherBriefs,
  draw,
  fitting: (_, { steps: [step = asItIs] }) => [
    viewed('cumulative'),
    step,
    all(viewed('cumulative'), step),
    all(alone, viewed('cumulative'), step, againstNothing),
  ],
};

const HEIGHT = 460;
/** A panel lower than this is left away. */
const LEAST_PANEL = 110;
const PANEL_HEIGHT = 230;
const GAP_STRIP = { high: 78, panel: 44, room: 14 } as const;
/** The same steps one by one, for what holds a forecast of them. */
function furtherBriefs(brief: Brief, _look: Look, cells: Cells): Brief[] {
  if (cells.benchmark?.kind !== 'forecast' || cells.view.kind !== 'cumulative') return [];
  return [{ ...brief, views: [{ kind: 'plain', measure: cells.view.measure }], form: 'trend' }];
}

function rulerValues(cells: Cells, look: Look): number[] {
  const found = landingsOf(cells, look.landing ?? 'as so far');
  // Lines that share a plot have no landings.
  const landings = found.length > 1 && panelFieldOf(cells, look) === null ? [] : found.map(({ landing }) => landing);
  return [...cells.actual, ...(cells.benchmarks ?? []), ...landings].filter((value) => !Number.isNaN(value));
}

function draw(request: FigureRequest): Scene {
  const { cells, look, further } = request;
  if (cells.view.kind !== 'cumulative')
    throw new Problem(
      'needs-running-sum',
      'a pace adds up over time',
      { in: 'brief' },
      `begin the brief with “cumulative ${cells.measure.name}”, or draw it as trend`,
    );
  const writing = writingOf(cells);
  const width = look.width ?? DEFAULT_WIDTH;
  const field = panelFieldOf(cells, look);
  const series = seriesOf(cells, field);
  const panels = panelsOf(field, series);
  const steps = series[0] ? series[0].rows.map((row) => cells.steps![row]!) : [];
  const landings = landingsOf(cells, look.landing ?? 'as so far');
  const within = landings.map((landing, i) => landingWithin(landing, further[0] ?? null, series[i]!, cells));
  const single = series.length === 1;
  const head = headOf(request, width, writing);
  const strong = standingOut(series, look, (one) => lastValue(cells.actual, one));
  const lineEnds = series
    .filter(({ name }) => strong.has(name))
    .flatMap((one) => lastStepOf(cells, one).map((step) => one.rows[step]!));
  const foot = footOf(request, width, legend(request, writing, landings, within, single, lineEnds));
  const values = [...rulerValues(cells, look), ...within.flatMap((w) => (w ? [w.low, w.high] : []))];
  const wish = { values, steps, writing, fit: 'zero' as const };
  const inner = width - 2 * PAD;
  const strip = Math.max(stripWidth(request, wish), cells.benchmarks ? gapLabelWidth(cells, writing) : 0) + 8;
  const plain = panels.every((panel) => panel.series.length === 1);
  const labels = endsWidth(
    series.flatMap((one, i) => endsOf(request, writing, one, landings[i], single)),
    inner * (plain && field !== null ? 0 : 0.3),
  );
  // Where several lines end early there is room for their labels within the plot.
  const lastStep = Math.max(0, ...series.flatMap((one) => lastStepOf(cells, one)));
  const free = (inner - strip) * (1 - (lastStep + 0.5) / Math.max(1, steps.length));
  const endsInside = !single && free >= labels;
  const ends = field === null && !endsInside ? labels : 0;
  const lines = Math.max(1, panelLines(panels.length, inner - ends, strip));
  const natural = field === null ? HEIGHT : head.bottom + lines * (PANEL_HEIGHT + PANEL.down) + foot.height;
  const height = heightOf(request, natural, head, foot, field === null ? 84 : LEAST_PANEL);
  const bottom = Math.max(head.bottom + 90, height - foot.height);
  const slots = slotsFor(
    panels.length,
    { x: PAD, y: head.bottom, width: inner - ends, height: bottom - head.bottom },
    strip,
    LEAST_PANEL,
  );
  const gapHigh =
    !cells.benchmarks || (bottom - head.bottom) / lines < 150 ? 0 : field === null ? GAP_STRIP.high : GAP_STRIP.panel;
  const hasGap = gapHigh > 0 && plain;
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
    const beneath = hasGap ? gapHigh + GAP_STRIP.room : 0;
    const plot = plotOf(request, {
      ...wish,
      box: { x: box.x, y: box.y + named + 8, width: box.width, height: box.height - named - 8 - beneath },
      hasStrip: first,
      stripWidth: strip - 8,
      hasTime: !hasGap && last,
    });
    if (panel.name !== null) {
      const name = shorten(panel.name, plot.right - plot.left, LABEL_SIZE, 600);
      marks.push(textMark('label', name, plot.left, box.y + 13, LABEL_SIZE, { weight: 600 }));
    }
    marks.push(...plot.marks);
    if (first) rulers.push(sceneRuler(plot, request.ruler?.entry.id ?? 'own'));
    const found: End[] = [];
    for (const one of panel.series) {
      const at = series.indexOf(one);
      const alone = panel.series.length === 1;
      const stands = strong.has(one.name);
      lineMarks(marks, request, writing, plot, one, alone, stands);
      if (alone) landingMarks(marks, plot, cells, one, landings[at], within[at] ?? null);
      one.rows.forEach((row, i) => {
        const of = rowKey(cells, row);
        const value = cells.actual[row]!;
        const shown = Number.isNaN(value) ? (cells.benchmarks?.[row] ?? NaN) : value;
        const box = alone
          ? { x: plot.x(i) - plot.band / 2, y: plot.top, width: plot.band, height: plot.bottom - plot.top }
          : around(plot, plot.x(i), Number.isNaN(shown) ? plot.bottom : plot.y(shown), 16);
        cellMarks[row] = cellMark(cells, row, of, box);
      });
      for (const end of endsOf(request, writing, one, landings[at], single)) {
        const i = end.step;
        found.push({ ...end, x: plot.x(i), y: plot.y(end.value!), strong: end.strong && stands });
      }
    }
    if (field === null)
      dropped += endLabels(marks, found, endsInside ? plot.x(lastStep) - 4 : plot.right, labels, [
        plot.top,
        plot.bottom,
      ]);
    if (hasGap) {
      const gap = gapStrip(request, writing, plot, panel.series[0]!, {
        top: plot.bottom + GAP_STRIP.room,
        high: gapHigh - (last ? 24 : 0),
        left: first ? box.x : null,
        strip: strip - 8,
        hasTime: last,
        steps,
      });
      marks.push(...gap);
    }
  });
  marks.push(...foot.marks(bottom), ...cellMarks.filter((mark) => mark !== undefined));
  return {
    width,
    height,
    title: head.title,
    description: [spoken('Pace', cells), ...landings.map((one) => landingWords(one, cells, writing))].join(' '),
    rulers,
    marks,
    dropped,
  };
}
