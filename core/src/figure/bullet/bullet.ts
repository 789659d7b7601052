import { decimalsOf, tidy } from '../../number';
import { writeNumber, writePercent, writingOf, type Writing } from '../../format';
import { BAND_TINTS, encode, INK, QUIET } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import type { Bands, Look } from '../../report';
import { bandCentre, bandRuler, fitRuler, place, type LinearRuler, type TickStep } from '../../ruler';
import { MIN_SIZE, PLAIN, shorten, textWidth, wrap, type Mark, type Paint, type Scene } from '../../scene';
import { badgeMark, centred, footOf, headOf, PAD, textMark, type LegendEntry } from '../frame';
import type { FigureRequest, FormDefinition } from '../form';
import { rowKey, rowName, rowWords } from '../names';
import { bandName, bandRange, bandsOf, edgeValues, rowBands } from './bands';

/** One row a member: an actual bar, a reference rule, a thinner rule for what is due by now, and bands behind. */
export const bullet: FormDefinition = {
  form: 'bullet',
  purpose: 'how far each is from its benchmark',
  rulerValues,
  draw,
};

/** Width of a figure that names none. */
const DEFAULT_WIDTH = 760;
const LABEL_SIZE = 13;
const VALUE_SIZE = 13;
const GAP_SIZE = 12;
const TICK_SIZE = 11;
/** Height of the strip the ruler lies on, and the least room between its labels. */
const STRIP = 26;
const NATURAL = { few: 34, many: 26 } as const;
const INNER = 0.36;
const OUTER = 0.18;

function rulerValues(cells: Cells, look: Look): number[] {
  const values = [...cells.actual, ...(cells.benchmarks ?? []), ...(cells.due ?? [])];
  const bands = bandsOf(cells, look);
  if (bands?.of === 'benchmark')
    for (const benchmark of cells.benchmarks ?? []) values.push(...edgeValues(bands, benchmark, cells.measure.aim));
  else if (bands) values.push(...edgeValues(bands, cells.benchmarks?.[0] ?? NaN, cells.measure.aim));
  return values.filter((value) => !Number.isNaN(value));
}

/** What both orientations draw alike. */
interface Plan {
  readonly request: FigureRequest;
  readonly bands: Bands | null;
  readonly writing: Writing;
  readonly width: number;
  readonly names: readonly string[];
  readonly values: readonly string[];
  readonly gaps: readonly string[];
}

function draw(request: FigureRequest): Scene {
  const { cells, look } = request;
  const writing = writingOf(cells);
  const rows = Array.from({ length: cells.count }, (_, i) => i);
  const plan: Plan = {
    request,
    bands: bandsOf(cells, look),
    writing,
    width: look.width ?? DEFAULT_WIDTH,
    names: rows.map((i) => rowName(cells, i)),
    values: rows.map((i) => writeNumber(cells.actual[i]!, writing)),
    gaps: rows.map((i) =>
      Number.isNaN(judgementAt(cells, i).gapPercent) ? '' : writePercent(judgementAt(cells, i).gapPercent),
    ),
  };
  return look.orientation === 'vertical' ? vertical(plan) : horizontal(plan);
}

function fitted(
  { request, writing }: Plan,
  range: readonly [number, number],
  along: 'x' | 'y',
): { ruler: LinearRuler; label: (value: number) => string } {
  const { cells, look, ruler } = request;
  const values = [...rulerValues(cells, look), ...(ruler?.values ?? [])];
  // Zero is zero in every unit, and the heading names the unit.
  const written = (value: number, decimals: number) =>
    value === 0 ? '0' : writeNumber(value, { ...writing, decimals, unit: '' });
  // Decimals a step needs once its values are divided by the figure's scale.
  const shift = Math.round(Math.log10(writing.divisor));
  const decimals = ({ mantissa, exponent }: TickStep) => Math.max(0, shift - exponent + (mantissa === 2.5 ? 1 : 0));
  const fit = ruler?.entry.fit ?? 'zero';
  const fittedRuler = fitRuler({
    values: fit === 'tight' ? [0, ...values] : values,
    range,
    fit: fit === 'tight' ? 'zero' : fit,
    ...(ruler?.entry.domain ? { domain: ruler.entry.domain } : {}),
    extent: (value, step) => (along === 'x' ? textWidth(written(value, decimals(step)), TICK_SIZE) : TICK_SIZE),
    clearance: along === 'x' ? 22 : 18,
  });
  const needed = Math.max(0, ...fittedRuler.ticks.map((tick) => decimalsOf(tidy(tick / writing.divisor)) ?? 4));
  return { ruler: fittedRuler, label: (value) => written(value, needed) };
}

/** Positions along the value axis and across it, turned into x and y. */
interface Axes {
  readonly ruler: LinearRuler;
  readonly rect: (
    v0: number,
    v1: number,
    centre: number,
    thickness: number,
  ) => { x: number; y: number; width: number; height: number };
  /** A rule across a row at a value. */
  readonly across: (
    value: number,
    centre: number,
    length: number,
  ) => { x1: number; y1: number; x2: number; y2: number };
}

function axesFor(ruler: LinearRuler, along: 'x' | 'y'): Axes {
  const at = (value: number) => place(ruler, value);
  return {
    ruler,
    rect(v0, v1, centre, thickness) {
      const [a, b] = [Math.min(at(v0), at(v1)), Math.max(at(v0), at(v1))];
      const half = thickness / 2;
      return along === 'x'
        ? { x: a, y: centre - half, width: b - a, height: thickness }
        : { x: centre - half, y: a, width: thickness, height: b - a };
    },
    across(value, centre, length) {
      const p = at(value);
      const [c0, c1] = [centre - length / 2, centre + length / 2];
      return along === 'x' ? { x1: p, y1: c0, x2: p, y2: c1 } : { x1: c0, y1: p, x2: c1, y2: p };
    },
  };
}

/** Bands, bar, rule and due rule of a row. */
function rowMarks({ request, bands }: Plan, axes: Axes, row: number, centre: number, thickness: number): Mark[] {
  const { cells, highlight } = request;
  const common = { ...PLAIN, ...rowKey(cells, row) };
  const marks: Mark[] = [];
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  if (bands) {
    for (const band of rowBands(bands, benchmark, cells.measure.aim, axes.ruler.domain)) {
      marks.push({
        ...common,
        shape: 'rect',
        role: 'band',
        value: band.to,
        ...axes.rect(band.from, band.to, centre, thickness),
        paint: { fill: band.tint },
      });
    }
  }
  const actual = cells.actual[row]!;
  const { ink, rule } = encode(highlight, judgementAt(cells, row).standing);
  if (!Number.isNaN(actual)) {
    const zero = Math.min(Math.max(0, axes.ruler.domain[0]), axes.ruler.domain[1]);
    marks.push({
      ...common,
      shape: 'rect',
      role: cells.isRest[row] ? 'rest' : 'actual',
      value: actual,
      ...axes.rect(zero, actual, centre, thickness / 3),
      paint: { fill: ink },
      rule,
    });
  }
  const due = cells.due?.[row] ?? NaN;
  if (!Number.isNaN(due)) {
    marks.push({
      ...common,
      shape: 'line',
      role: 'due',
      value: due,
      ...axes.across(due, centre, 0.6 * thickness),
      paint: { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] },
    });
  }
  if (!Number.isNaN(benchmark)) {
    marks.push({
      ...common,
      shape: 'line',
      role: 'benchmark',
      value: benchmark,
      ...axes.across(benchmark, centre, 0.6 * thickness),
      paint: { stroke: INK, strokeWidth: 3 },
    });
  }
  return marks;
}

function horizontal(plan: Plan): Scene {
  const { request, width, writing, names, values, gaps } = plan;
  const { cells, highlight, look } = request;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, legendOf(plan));
  const heads = { value: 'actual', gap: cells.benchmark ? `to ${cells.due ? 'due' : cells.benchmark.name}` : '' };
  const valueWidth = Math.max(widest(values, VALUE_SIZE, 600), textWidth(heads.value, TICK_SIZE));
  const gapWidth = cells.benchmarks
    ? Math.max(18 + widest(gaps, GAP_SIZE), Math.min(90, textWidth(heads.gap, TICK_SIZE)))
    : 0;
  const labelWidth = Math.min(widest(names, LABEL_SIZE), width * 0.3);
  const left = PAD + labelWidth + 22;
  const right = width - PAD - valueWidth - (gapWidth > 0 ? gapWidth + 16 : 0) - 34;
  const top = head.bottom + STRIP + 4;
  const pitch = cells.count > 20 ? NATURAL.many : NATURAL.few;
  const height = look.height ?? top + Math.max(1, cells.count) * pitch + foot.height;
  const bottom = Math.max(top + 8, height - foot.height);

  const { ruler, label } = fitted(plan, [left, Math.max(left + 20, right)], 'x');
  const axes = axesFor(ruler, 'x');
  const rows = bandRuler(cells.count, [top, bottom], INNER, OUTER);
  const marks: Mark[] = [...head.marks];
  for (const tick of ruler.ticks) {
    const x = place(ruler, tick);
    marks.push({
      ...PLAIN,
      shape: 'line',
      role: 'tick',
      value: tick,
      x1: x,
      y1: head.bottom + STRIP - 6,
      x2: x,
      y2: head.bottom + STRIP,
      paint: { stroke: INK, strokeWidth: 1 },
    });
    marks.push({
      ...textMark('ticklabel', label(tick), x, head.bottom + STRIP - 10, TICK_SIZE, { anchor: 'middle' }),
      value: tick,
    });
  }
  const valueEnd = right + 34 + valueWidth;
  const gapEnd = valueEnd + 16 + gapWidth;
  if (cells.count > 0) {
    marks.push(
      textMark('label', heads.value, valueEnd, head.bottom + STRIP - 10, TICK_SIZE, {
        anchor: 'end',
        paint: { fill: QUIET },
      }),
    );
    if (gapWidth > 0)
      marks.push(
        textMark('label', shorten(heads.gap, gapWidth, TICK_SIZE), gapEnd, head.bottom + STRIP - 10, TICK_SIZE, {
          anchor: 'end',
          paint: { fill: QUIET },
        }),
      );
  }
  let dropped = 0;
  const size = labelSize(LABEL_SIZE, rows.step);
  const every = Math.max(1, Math.ceil((MIN_SIZE + 1) / Math.max(rows.step, 0.01)));
  const cellsOnTop: Mark[] = [];
  for (let row = 0; row < cells.count; row++) {
    const centre = bandCentre(rows, row);
    marks.push(...rowMarks(plan, axes, row, centre, rows.thickness));
    cellsOnTop.push(
      cellMark(plan, row, { x: PAD - 6, y: centre - rows.step / 2, width: width - 2 * PAD + 12, height: rows.step }),
    );
    if (row % every !== 0) {
      dropped += 1 + 1 + (gaps[row] ? 1 : 0);
      continue;
    }
    const key = rowKey(cells, row);
    const y = centred(centre, size);
    marks.push({ ...textMark('label', shorten(names[row]!, labelWidth, size), PAD, y, size), ...key });
    marks.push({
      ...textMark('value', values[row]!, valueEnd, y, Math.min(size, VALUE_SIZE), { anchor: 'end', weight: 600 }),
      ...key,
      value: nullIfBlank(cells.actual[row]!),
    });
    if (gaps[row]) {
      const { ink, badge, rule } = encode(highlight, judgementAt(cells, row).standing);
      if (badge && rows.step >= 12)
        marks.push({ ...badgeMark(badge, gapEnd - gapWidth + 5, centre, ink, rule), ...key });
      marks.push({
        ...textMark('gap', gaps[row]!, gapEnd, centred(centre, Math.min(size, GAP_SIZE)), Math.min(size, GAP_SIZE), {
          anchor: 'end',
          paint: { fill: ink },
          rule,
        }),
        ...key,
        value: nullIfBlank(judgementAt(cells, row).gapPercent),
      });
    }
  }
  marks.push(...zeroLine(ruler, (x) => ({ x1: x, y1: top - 2, x2: x, y2: bottom })));
  marks.push(...foot.marks(bottom), ...cellsOnTop);
  return sceneOf(plan, head.title, { width, height }, marks, dropped, ruler, 'x', {
    x: left - 18,
    y: head.bottom,
    width: ruler.range[1] - left + 36,
    height: STRIP,
  });
}

function vertical(plan: Plan): Scene {
  const { request, width, writing, names, values, gaps } = plan;
  const { cells, highlight, look } = request;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, legendOf(plan));
  const height = look.height ?? 460;
  const top = head.bottom + 10;
  // The strip is as wide as the widest label it may bear.
  const rough = fitted(plan, [1000, 0], 'y');
  const strip = Math.max(44, widest(rough.ruler.ticks.map(rough.label), TICK_SIZE) + 20);
  const left = PAD + strip + 6;
  const columns = bandRuler(cells.count, [left, width - PAD], cells.count > 14 ? 0.3 : 0.46, 0.23);
  const room = columns.step - 8;
  const lines = names.map((name) => wrap(name, room, LABEL_SIZE, 400, 2));
  const every = Math.max(1, Math.ceil((Math.min(widest(names, LABEL_SIZE), 26) + 6) / Math.max(columns.step, 0.01)));
  const valueEvery = Math.max(1, Math.ceil((widest(values, VALUE_SIZE, 600) + 6) / Math.max(columns.step, 0.01)));
  const gapEvery = Math.max(1, Math.ceil((18 + widest(gaps, GAP_SIZE)) / Math.max(columns.step, 0.01)));
  const labelRows = Math.max(1, ...lines.map((list) => list.length));
  const under = 8 + labelRows * 15 + 18 + (cells.benchmarks ? 17 : 0);
  const bottom = Math.max(top + 20, height - foot.height - under);
  const { ruler, label } = fitted(plan, [bottom, top], 'y');
  const axes = axesFor(ruler, 'y');

  const marks: Mark[] = [...head.marks];
  for (const tick of ruler.ticks) {
    const y = place(ruler, tick);
    marks.push({
      ...PLAIN,
      shape: 'line',
      role: 'tick',
      value: tick,
      x1: PAD + strip - 6,
      y1: y,
      x2: PAD + strip,
      y2: y,
      paint: { stroke: INK, strokeWidth: 1 },
    });
    marks.push({
      ...textMark('ticklabel', label(tick), PAD + strip - 10, centred(y, TICK_SIZE), TICK_SIZE, { anchor: 'end' }),
      value: tick,
    });
  }
  let dropped = 0;
  const cellsOnTop: Mark[] = [];
  for (let row = 0; row < cells.count; row++) {
    const centre = bandCentre(columns, row);
    marks.push(...rowMarks(plan, axes, row, centre, columns.thickness));
    cellsOnTop.push(
      cellMark(plan, row, { x: centre - columns.step / 2, y: top, width: columns.step, height: bottom + under - top }),
    );
    const key = rowKey(cells, row);
    let y = bottom + 8;
    if (row % every === 0 && lines[row]!.every((line) => line !== '')) {
      lines[row]!.forEach((line, l) =>
        marks.push({ ...textMark('label', line, centre, y + 12 + l * 15, LABEL_SIZE, { anchor: 'middle' }), ...key }),
      );
    } else dropped++;
    y += labelRows * 15 + 4;
    if (row % valueEvery === 0)
      marks.push({
        ...textMark('value', values[row]!, centre, y + 11, VALUE_SIZE, { anchor: 'middle', weight: 600 }),
        ...key,
        value: nullIfBlank(cells.actual[row]!),
      });
    else dropped++;
    if (!gaps[row]) continue;
    if (row % gapEvery !== 0) {
      dropped++;
      continue;
    }
    const { ink, badge, rule } = encode(highlight, judgementAt(cells, row).standing);
    const wide = textWidth(gaps[row]!, GAP_SIZE) + (badge ? 14 : 0);
    if (badge) marks.push({ ...badgeMark(badge, centre - wide / 2 + 5, y + 23, ink, rule), ...key });
    marks.push({
      ...textMark('gap', gaps[row]!, centre + wide / 2, y + 27, GAP_SIZE, {
        anchor: 'end',
        paint: { fill: ink },
        rule,
      }),
      ...key,
      value: nullIfBlank(judgementAt(cells, row).gapPercent),
    });
  }
  marks.push(...zeroLine(ruler, (y) => ({ x1: left - 2, y1: y, x2: width - PAD, y2: y })));
  marks.push(...foot.marks(bottom + under), ...cellsOnTop);
  return sceneOf(plan, head.title, { width, height }, marks, dropped, ruler, 'y', {
    x: PAD,
    y: top - 10,
    width: strip,
    height: bottom - top + 20,
  });
}

/** Labels shrink with their rows, down to the least size. */
function labelSize(size: number, pitch: number): number {
  return Math.max(MIN_SIZE, Math.min(size, pitch - 1));
}

function widest(texts: readonly string[], size: number, weight: 400 | 600 = 400): number {
  return texts.reduce((most, text) => Math.max(most, textWidth(text, size, weight)), 0);
}

function nullIfBlank(value: number): number | null {
  return Number.isNaN(value) ? null : value;
}

/** The place of a row that answers to the pointer, with the row in words. */
function cellMark(
  { request, writing }: Plan,
  row: number,
  place_: { x: number; y: number; width: number; height: number },
): Mark {
  const { cells } = request;
  return {
    ...PLAIN,
    ...rowKey(cells, row),
    shape: 'rect',
    role: 'cell',
    value: nullIfBlank(cells.actual[row]!),
    ...place_,
    paint: {},
    words: rowWords(cells, row, writing),
  };
}

function zeroLine(
  ruler: LinearRuler,
  line: (at: number) => { x1: number; y1: number; x2: number; y2: number },
): Mark[] {
  if (ruler.domain[0] > 0 || ruler.domain[1] < 0) return [];
  return [
    {
      ...PLAIN,
      shape: 'line',
      role: 'zero',
      value: 0,
      ...line(place(ruler, 0)),
      paint: { stroke: INK, strokeWidth: 1 },
    },
  ];
}

/** What the samples mean, from the marks that are there. */
function legendOf({ request, bands, writing }: Plan): LegendEntry[] {
  const { cells, highlight } = request;
  const name = cells.benchmark?.name ?? '';
  const entries: LegendEntry[] = [];
  const standings = (['ahead', 'level', 'behind'] as const).filter((standing) =>
    cells.actual.some((_, i) => judgementAt(cells, i).standing === standing),
  );
  const due = cells.due?.some((value) => !Number.isNaN(value)) ?? false;
  const against = due && !cells.grain ? `the ${name} due by now` : name;
  if (!cells.benchmarks) entries.push({ words: cells.measure.name, sample: (x, y) => [sampleRect(x, y, 6, INK)] });
  for (const standing of standings) {
    const { ink, badge, rule } = encode(highlight, standing);
    const words =
      cells.measure.aim === 'hold'
        ? { ahead: 'near', level: `near ${against}`, behind: `away from ${against}` }
        : { ahead: `ahead of ${against}`, level: `level with ${against}`, behind: `behind ${against}` };
    entries.push({
      words: words[standing],
      sample: (x, y) => (badge ? [badgeMark(badge, x + 8, y, ink, rule)] : [sampleRect(x, y, 6, ink)]),
    });
  }
  if (cells.benchmarks)
    entries.push({ words: name, sample: (x, y) => [sampleRule(x, y, request.look, { stroke: INK, strokeWidth: 3 })] });
  if (due)
    entries.push({
      words: `${name} due by now`,
      sample: (x, y) => [sampleRule(x, y, request.look, { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] })],
    });
  if (bands) {
    BAND_TINTS[bands.edges.length + 1]!.forEach((tint, i) => {
      const range = bandRange(bands, i, cells.measure.aim, name, (value) => writeNumber(value, writing));
      entries.push({ words: `${bandName(bands, i)}: ${range}`, sample: (x, y) => [sampleRect(x, y, 12, tint)] });
    });
  }
  return entries;
}

function sampleRule(x: number, y: number, { orientation }: Look, paint: Paint): Mark {
  const ends =
    orientation === 'vertical'
      ? { x1: x + 1, y1: y, x2: x + 15, y2: y }
      : { x1: x + 8, y1: y - 6, x2: x + 8, y2: y + 6 };
  return { ...PLAIN, shape: 'line', role: 'legend', ...ends, paint };
}

function sampleRect(x: number, y: number, height: number, fill: string): Mark {
  return { ...PLAIN, shape: 'rect', role: 'legend', x, y: y - height / 2, width: 16, height, paint: { fill } };
}

function sceneOf(
  { request }: Plan,
  title: string,
  { width, height }: { width: number; height: number },
  marks: Mark[],
  dropped: number,
  ruler: LinearRuler,
  axis: 'x' | 'y',
  strip: { x: number; y: number; width: number; height: number },
): Scene {
  const { cells } = request;
  const description = `Bullet bars: ${cells.text}. ${cells.count} ${cells.count === 1 ? 'row' : 'rows'}${cells.count > 0 && cells.count <= 40 ? `. ${Array.from({ length: cells.count }, (_, i) => rowWords(cells, i)).join('. ')}.` : '.'}`;
  const id = request.ruler?.entry.id ?? 'own';
  return {
    width,
    height,
    title,
    description,
    rulers: [{ id, axis, kind: 'linear', domain: ruler.domain, range: ruler.range, ticks: ruler.ticks, strip }],
    marks,
    dropped,
  };
}
