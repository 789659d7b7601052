import { againstNothing, all, alone, asItIs, viewed } from '../changes';
import { writtenDay } from '../../calendar';
import { writeNumber, writingOf, type Writing } from '../../format';
import { encodeRow, INK, QUIET } from '../../highlight';
import { Problem } from '../../problem';
import { landingsOf, type Cells, type Landing } from '../../query';
import type { Brief } from '../../brief';
import type { Look } from '../../report';
import { PAPER, shorten, textWidth, type Mark, type Paint, type Scene, type SceneRuler } from '../../scene';
import { paceForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import {
  footOf,
  headOf,
  heightOf,
  lineMark,
  NO_ROW,
  PAD,
  rectMark,
  textMark,
  type Belonging,
  type LegendEntry,
} from '../frame';
import { rowKey, spoken } from '../names';
import { add, areaMark, dotMark, pathMark, type Point } from '../path';
import { highlightEntries } from '../rows/legend';
import { cellMark, LABEL_SIZE } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { endLabels, endsWidth, type End } from '../time/ends';
import { PANEL, panelLines, panelsOf, panelFieldOf, slotsFor } from '../time/panels';
import { around, plotOf, sceneRuler, stripWidth, type PlotArea } from '../time/plot';
import { lastValue, seriesOf, standingOut, type Series } from '../time/series';
import { sampleLine } from '../trend/legend';
import { gapStrip, gapLabelWidth } from './gapStrip';
import { landingWithin, type Within } from './within';

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
const BENCHMARK: Paint = { stroke: QUIET, strokeWidth: 1.75 };
const AHEAD_OF_US: Paint = { stroke: QUIET, strokeWidth: 1.5, dash: [5, 4] };
const LANDING: Paint = { stroke: INK, strokeWidth: 1.25, dash: [1.5, 3] };

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
  const foot = footOf(request, width, legend(request, writing, landings, within, single));
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
  const height = heightOf(look.height, natural, head, foot, field === null ? 100 : LEAST_PANEL);
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
  const strong = standingOut(series, look, (one) => lastValue(cells.actual, one));
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

/** The place of the last step that has an actual. */
function lastStepOf(cells: Cells, { rows }: Series): number[] {
  const last = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
  return last < 0 ? [] : [last];
}

/** What is written beside a line's ends: where it is, what it is held against, where it will land. */
function endsOf(
  { cells }: FigureRequest,
  writing: Writing,
  { name, key, rows }: Series,
  landing: Landing | undefined,
  single: boolean,
): (End & { step: number })[] {
  const of: Belonging = { key, step: null };
  const last = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
  const ends: (End & { step: number })[] = [];
  const end = (called: string, step: number, value: number, strong: boolean, ink?: string) => {
    if (!Number.isNaN(value))
      ends.push({
        x: 0,
        y: 0,
        name: called,
        text: writeNumber(value, writing),
        of,
        strong,
        value,
        step,
        ...(ink ? { ink } : {}),
      });
  };
  if (!single) {
    if (last >= 0) end(name, last, cells.actual[rows[last]!]!, true);
    return ends;
  }
  const final = rows.length - 1;
  const benchmark = cells.benchmarks?.[rows[final]!] ?? NaN;
  if (landing && landing.daysLeft > 0) end('landing', final, landing.landing, true);
  if (cells.benchmark) end(cells.benchmark.name, final, benchmark, false);
  if (last === final) end('actual', final, cells.actual[rows[final]!]!, true);
  return ends;
}

/** The two lines: the actual up to its last step with a dot, the benchmark to the end, what is still to come of it broken. */
function lineMarks(
  marks: Mark[],
  request: FigureRequest,
  writing: Writing,
  plot: PlotArea,
  { key, rows }: Series,
  alone: boolean,
  strong: boolean,
): void {
  const { cells, highlight } = request;
  const of: Belonging = { key, step: null };
  const point = (values: ArrayLike<number>) =>
    rows.map((row, i): Point | null => (Number.isNaN(values[row]!) ? null : [plot.x(i), plot.y(values[row]!)]));
  const actual = point(cells.actual);
  const last = actual.findLastIndex((at) => at !== null);
  const { benchmarks } = cells;
  if (benchmarks && alone) {
    const held = point(benchmarks);
    const until = Math.max(0, last);
    add(
      marks,
      pathMark('benchmark', of, held.slice(0, until + 1), BENCHMARK),
      pathMark('forecast', of, held.slice(until), AHEAD_OF_US),
    );
  }
  add(
    marks,
    pathMark('path', of, actual, {
      stroke: strong ? INK : QUIET,
      strokeWidth: alone ? 2.5 : strong ? 2 : 1,
      ...(strong ? {} : { opacity: 0.7 }),
    }),
  );
  if (last < 0) return;
  const row = rows[last]!;
  const { ink, rule } = encodeRow(highlight, cells, row);
  marks.push(
    dotMark(
      'node',
      rowKey(cells, row),
      actual[last]!,
      alone ? 4.5 : 3.5,
      cells.actual[row]!,
      { fill: strong ? ink : QUIET },
      rule,
    ),
  );
  if (!alone) return;
  // The value where the actual ends, on the side where no line goes on.
  const text = writeNumber(cells.actual[row]!, writing);
  const [x, y] = actual[last]!;
  const wide = textWidth(text, 12.5, 600);
  const isBelow = (benchmarks?.[row] ?? -Infinity) > cells.actual[row]! && y + 22 < plot.bottom;
  const left = isBelow ? Math.min(x + 2, plot.right - wide) : Math.max(plot.left + 2, x - wide - 6);
  marks.push(
    textMark('value', text, left, isBelow ? y + 19 : Math.max(plot.top + 4, y - 8), 12.5, {
      weight: 600,
      row: rowKey(cells, row),
      value: cells.actual[row]!,
    }),
  );
}

/** From where it is to where it will land, with what holds it in 95 of 100 cases. */
function landingMarks(
  marks: Mark[],
  plot: PlotArea,
  cells: Cells,
  { key, rows }: Series,
  landing: Landing | undefined,
  within: Within | null,
): void {
  if (!landing || landing.daysLeft === 0 || Number.isNaN(landing.landing)) return;
  const of: Belonging = { key, step: null };
  const last = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
  if (last < 0) return;
  const final = rows.length - 1;
  const from: Point = [plot.x(last), plot.y(landing.toDate)];
  const held = (i: number) => cells.benchmarks![rows[i]!]!;
  // The way to the landing has the benchmark's own shape.
  const way = rows.slice(last).map((_, k): Point => {
    const i = last + k;
    const share = (held(i) - held(last)) / (held(final) - held(last));
    const value =
      landing.toDate +
      (landing.landing - landing.toDate) * (Number.isFinite(share) ? share : k / Math.max(1, final - last));
    return [plot.x(i), plot.y(value)];
  });
  if (within) {
    const cone = (edge: number) =>
      way.map(([x, y], k): Point => [
        x,
        y + ((plot.y(edge) - plot.y(landing.landing)) * k) / Math.max(1, way.length - 1),
      ]);
    add(marks, areaMark('interval', of, cone(within.high), cone(within.low), { fill: QUIET, opacity: 0.16 }));
  }
  add(marks, pathMark('forecast', of, [from, ...way.slice(1)], LANDING));
  marks.push(
    dotMark('node', of, way[way.length - 1]!, 4, landing.landing, { fill: PAPER, stroke: INK, strokeWidth: 1.75 }),
  );
}

/** A landing in words. */
function landingWords({ key, landing, daysLeft, neededPerDay }: Landing, cells: Cells, writing: Writing): string {
  if (daysLeft === 0 || Number.isNaN(landing)) return '';
  const who = Object.values(key).join(' · ');
  const needed = Number.isNaN(neededPerDay)
    ? ''
    : neededPerDay > 0
      ? `; ${perDay(neededPerDay, cells)} a day for ${daysLeft} ${daysLeft === 1 ? 'day' : 'days'} reaches ${cells.benchmark!.name}`
      : `; ${cells.benchmark!.name} is reached already`;
  return `${who ? `${who} ` : ''}lands at ${writeNumber(landing, writing)}${needed}.`;
}

function legend(
  request: FigureRequest,
  writing: Writing,
  landings: readonly Landing[],
  within: readonly (Within | null)[],
  single: boolean,
): LegendEntry[] {
  const { cells, look } = request;
  const name = cells.benchmark?.name ?? '';
  const entries: LegendEntry[] = [
    sampleLine(`${cells.measure.name}, up to ${writtenDay(cells.asOf)}`, { stroke: INK, strokeWidth: 2.5 }),
  ];
  if (cells.benchmarks && (single || request.look.panels)) {
    entries.push(sampleLine(name, BENCHMARK));
    if (cells.period.partial) entries.push(sampleLine(`${name} to come`, AHEAD_OF_US));
  }
  const [landing] = landings;
  if ((single || look.panels) && landing && landing.daysLeft > 0)
    entries.push(sampleLine(look.landing === 'as planned' ? 'the rest as planned' : 'at the pace so far', LANDING));
  if (within.some((one) => one))
    entries.push({
      words: 'holds 95 of 100 landings',
      sample: (x, y) => [
        rectMark('legend', NO_ROW, { x, y: y - 6, width: 16, height: 12 }, null, { fill: QUIET, opacity: 0.16 }),
      ],
    });
  if (single && landing && landing.daysLeft > 0 && !Number.isNaN(landing.neededPerDay)) {
    entries.push(
      sampleSlope(
        landing.neededPerDay > 0
          ? `${perDay(landing.neededPerDay, cells)} a day for ${landing.daysLeft} ${landing.daysLeft === 1 ? 'day' : 'days'} reaches ${name}`
          : `${name} is reached already`,
      ),
    );
  }
  return cells.benchmarks
    ? [...entries, ...(single || request.look.panels ? highlightEntries(request, writing) : [])]
    : entries;
}

/** What is needed a day, as a rise. */
function sampleSlope(words: string): LegendEntry {
  const paint = { stroke: INK, strokeWidth: 1.25 };
  return {
    words,
    sample: (x, y) => [lineMark('legend', NO_ROW, { x1: x + 2, y1: y + 4, x2: x + 14, y2: y - 4 }, null, paint)],
  };
}

/** An amount a day, in its own scale. */
function perDay(value: number, cells: Cells): string {
  return writeNumber(value, writingOf({ ...cells, actual: Float64Array.of(value), benchmarks: null, decimals: null }));
}
