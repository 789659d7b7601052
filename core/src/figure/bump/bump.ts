import { againstNothing, all, asItIs, viewed } from '../changes';
import { writingOf } from '../../format';
import { encodeRow, HAIRLINE, INK, LINE_INKS, QUIET } from '../../highlight';
import type { Grain } from '../../calendar';
import { Problem } from '../../problem';
import type { Cells } from '../../query';
import { PAPER, shortenAll, type Mark, type Paint, type Scene } from '../../scene';
import { bumpForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import type { LegendEntry } from '../legend';
import { badgeMark, centred, lineMark, NO_ROW, textMark, type Belonging } from '../shapes';
import { leastOfRows } from '../room';
import { rowKey, spoken } from '../names';
import { add, dotMark, type Point } from '../path';
import { highlightEntries } from '../rows/legend';
import { cellMark, TICK_SIZE, widest } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { lastValue, seriesOf, standingOut, type Series } from '../time/series';
import { timeAxis, TIME_ROOM } from '../time/timeAxis';
import { lastOfAll, tiesOf, linkMark, sideLabels, NAME_SIZE, PITCH } from './sides';

/** Who stands where in each step: rank 1 on top, one line a member, those that matter in front. */
export const bump: FormDefinition = {
  ...bumpForm,
  rulerValues: (cells) => Array.from(cells.rank ?? []).filter((rank) => !Number.isNaN(rank)),
  furtherBriefs: (brief, look, cells) => {
    const grain = coarserGrain(cells, look.width ?? DEFAULT_WIDTH);
    return grain ? [{ ...brief, grain }] : [];
  },
  // Drawn again on wider paper, as on a slide, it has its own steps.
  shows: ({ cells, look, further: [coarser] }) =>
    coarser?.rank && coarserGrain(cells, look.width ?? DEFAULT_WIDTH) !== null ? coarser : cells,
  draw: (request) => draw({ ...request, cells: bump.shows!(request) }),
  fitting: (_, { steps, members }) => {
    const step = steps.at(-1) ?? asItIs;
    return [
      viewed('rank'),
      all(viewed('rank'), step),
      all(viewed('rank'), step, members),
      all(viewed('rank'), step, members, againstNothing),
    ];
  },
  valueAt: ({ at }) => String(at ?? '–'),
  reckoning: { ofRanks: true },
};

const STRIP = 34;
/** On paper narrower than this the lines have the room of the names at their beginning. */
const NARROW = 420;
/** Nodes bear their rank where steps and ranks have room for it. */
const NODE = { large: 9, small: 3.5, room: 22 } as const;
/** Steps nearer than this are a scribble; about so much of the paper is for them. */
const NEAREST = 8;
const STEPS_PART = 0.6;
/** Grains from fine to coarse, and about how many days they have. */
const GRAINS = [
  ['day', 1],
  ['week', 7],
  ['month', 30.4],
  ['quarter', 91.3],
  ['year', 365.25],
] as const;

/** The finest of the coarser grains whose steps have room on a paper; null where those of the brief have, or none has. */
function coarserGrain({ grain, steps }: Cells, width: number): Grain | null {
  const at = GRAINS.findIndex(([one]) => one === grain);
  const count = new Set(steps).size;
  const most = Math.floor((width * STEPS_PART) / NEAREST);
  if (at < 0 || count <= most) return null;
  const found = GRAINS.slice(at + 1).find(([, days]) => (count * GRAINS[at]![1]) / days <= most);
  return found && (count * GRAINS[at]![1]) / found[1] >= 2 ? found[0] : null;
}

function draw(request: FigureRequest): Scene {
  const { cells, look } = request;
  if (!cells.rank || cells.fields.length === 0)
    throw new Problem('needs-members', 'a bump ranks members', { in: 'brief' }, 'add a field, such as “by territory”');
  const rank = cells.rank;
  const series = seriesOf(cells);
  const steps = series[0] ? series[0].rows.map((row) => cells.steps![row]!) : [];
  const writing = writingOf(cells);
  const width = look.width ?? DEFAULT_WIDTH;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, legendOf(request, series));
  const most = Math.max(1, ...Array.from(rank).filter((one) => !Number.isNaN(one)));
  const pitch = most > 30 ? PITCH.least + 1 : most > 14 ? PITCH.many : PITCH.few;
  const natural = head.bottom + most * pitch + TIME_ROOM + 16 + foot.height;
  const least = leastOfRows(look.height, most - 1, TIME_ROOM + 26);
  const height = heightOf(request, natural, head, foot, least);
  const bottom = Math.max(head.bottom + 40, height - foot.height - TIME_ROOM);
  const top = head.bottom + 14;
  const y = (at: number) =>
    most === 1 ? (top + bottom - 12) / 2 : top + ((at - 1) * (bottom - 12 - top)) / (most - 1);
  const step = most === 1 ? bottom - top : (bottom - 12 - top) / (most - 1);

  // Rank 1 is the best.
  const strong = standingOut(series, look, (one) => -lastValue(rank, one));
  const isPicked = strong.size < series.length;
  const stands = (one: Series) => strong.has(one.name);
  const inks = inksOf(series.filter(stands), (one) => lastValue(rank, one));
  const ranksOf = ({ rows }: Series) => rows.map((row) => rank[row]!);
  const first = (one: Series) => ranksOf(one).findIndex((at) => !Number.isNaN(at));
  const last = (one: Series) => ranksOf(one).findLastIndex((at) => !Number.isNaN(at));
  const wanted =
    widest(
      series.map(({ name }) => name),
      NAME_SIZE,
      600,
    ) + 10;
  // On narrow paper names stand at the end only.
  const isNarrow = width < NARROW;
  const room = Math.min(wanted, width * (isNarrow ? 0.36 : 0.2));
  const names = shortenAll(
    series.map(({ name }) => name),
    room - 8,
    NAME_SIZE,
    600,
  );
  const changeRoom = 34;
  const left = PAD + STRIP + 6 + (isNarrow ? 0 : room);
  const right = width - PAD - room - changeRoom;
  const band = (right - left) / Math.max(1, steps.length);
  const x = (i: number) => left + band * (i + 0.5);
  const isLarge = band >= NODE.room && step >= NODE.room;
  const offsets = tiesOf(series, rank);
  const point = (one: Series, i: number): Point | null => {
    const at = rank[one.rows[i]!]!;
    return Number.isNaN(at) ? null : [x(i) + (offsets.get(one.rows[i]!) ?? 0), y(at)];
  };

  const marks: Mark[] = [...head.marks];
  const ticks = Array.from({ length: most }, (_, i) => i + 1);
  const every = Math.max(1, Math.ceil((TICK_SIZE + 3) / Math.max(step, 0.01)));
  for (const tick of ticks) {
    const at = y(tick);
    if ((tick - 1) % every !== 0) continue;
    marks.push(
      lineMark('tick', NO_ROW, { x1: PAD + STRIP - 6, y1: at, x2: PAD + STRIP, y2: at }, tick, {
        stroke: INK,
        strokeWidth: 1,
      }),
    );
    marks.push(
      textMark('ticklabel', String(tick), PAD + STRIP - 10, centred(at, TICK_SIZE), TICK_SIZE, {
        anchor: 'end',
        value: tick,
      }),
    );
  }
  if (cells.grain) marks.push(...timeAxis(cells.grain, steps, cells.calendar, x, [left, right], bottom));
  steps.forEach((_, i) => {
    if (band >= 8)
      marks.push(
        lineMark('tick', NO_ROW, { x1: x(i), y1: top - 8, x2: x(i), y2: bottom }, null, {
          stroke: HAIRLINE,
          strokeWidth: 0.5,
        }),
      );
  });

  const inkOf = (one: Series) => (stands(one) ? (cells.brief.lit === null && inks.get(one.name)) || INK : QUIET);
  // Those that stand out lie above the others.
  const layered = [...series].sort((a, b) => Number(stands(a)) - Number(stands(b)));
  const cellMarks: (Mark | undefined)[] = [];
  for (const one of layered) {
    const isStrong = stands(one);
    const of: Belonging = { key: one.key, step: null };
    const encoded = encodeRow(request.highlight, cells, one.rows[Math.max(0, last(one))]!);
    // A highlight that the brief names paints the lines; standings paint nodes only.
    const ink = cells.brief.lit !== null && encoded.rule ? encoded.ink : inkOf(one);
    const role = isPicked && isStrong ? 'emphasis' : 'link';
    const paint: Paint = isStrong
      ? { stroke: ink, strokeWidth: isPicked ? 3 : 2 }
      : { stroke: ink, strokeWidth: 1.25, opacity: 0.45 };
    add(
      marks,
      linkMark(
        role,
        of,
        one.rows.map((_, i) => point(one, i)),
        paint,
        cells.brief.lit === null ? null : encoded.rule,
      ),
    );
    one.rows.forEach((row, i) => {
      const at = point(one, i);
      cellMarks[row] = cellMark(
        cells,
        row,
        rowKey(cells, row),
        {
          x: (at?.[0] ?? x(i)) - Math.min(band / 2, 14),
          y: (at?.[1] ?? bottom - 4) - Math.min(step / 2, 11),
          width: Math.min(band, 28),
          height: at ? Math.min(step, 22) : 4,
        },
        at ? rank[row]! : null,
      );
      if (!at) return;
      const radius = isLarge && isStrong ? NODE.large : Math.min(NODE.small, step / 4 + 1, band / 4 + 1);
      // A ring where a member comes in or goes.
      const enters = i > 0 && i === first(one);
      const leaves = i < steps.length - 1 && i === last(one);
      const open = (enters || leaves) && !(isLarge && isStrong);
      const dot: Paint = open
        ? { fill: PAPER, stroke: ink, strokeWidth: 1.5 }
        : { fill: ink, ...(isStrong ? {} : { opacity: 0.6 }) };
      marks.push(
        dotMark(
          'node',
          rowKey(cells, row),
          at,
          radius,
          rank[row]!,
          dot,
          cells.brief.lit === null ? null : encoded.rule,
        ),
      );
      if (isLarge && isStrong)
        marks.push(
          textMark('value', String(rank[row]), at[0], centred(at[1], 11), 11, {
            anchor: 'middle',
            weight: 600,
            paint: { fill: PAPER },
            row: rowKey(cells, row),
            value: rank[row]!,
          }),
        );
    });
  }
  let dropped = 0;
  if (!isNarrow)
    dropped += sideLabels(marks, series, names, {
      at: (one) => (first(one) === 0 ? rank[one.rows[0]!]! : NaN),
      y,
      x: left + Math.min(band / 2 - 12, -4),
      anchor: 'end',
      range: [top - 6, bottom],
      strong: stands,
      ink: inkOf,
      change: null,
    });
  dropped += sideLabels(marks, series, names, {
    at: (one) =>
      last(one) === steps.length - 1 || last(one) === lastOfAll(series, last) ? rank[one.rows[last(one)]!]! : NaN,
    y,
    x: right + Math.max(8 - band / 2 + 8, 8),
    anchor: 'start',
    range: [top - 6, bottom],
    strong: stands,
    ink: inkOf,
    change: (one) => {
      const [from, to] = [first(one), last(one)];
      return from === to ? null : rank[one.rows[from]!]! - rank[one.rows[to]!]!;
    },
  });
  marks.push(...foot.marks(height - foot.height), ...cellMarks.filter((mark) => mark !== undefined));
  return {
    width,
    height,
    title: head.title,
    description: `${spoken('Ranks', cells)} ${changesInWords(series, rank, first, last)}`.trim(),
    rulers: [
      {
        id: request.ruler?.entry.id ?? 'own',
        axis: 'y',
        kind: 'rank',
        domain: [1, most],
        range: [y(1), y(most)],
        ticks,
        strip: { x: PAD, y: top - 12, width: STRIP, height: bottom - top + 12 },
      },
    ],
    marks,
    dropped,
  };
}

/** A line each of a few: in the order in which they end, so that neighbours there differ most. */
function inksOf(strong: readonly Series[], last: (one: Series) => number): ReadonlyMap<string, string> {
  if (strong.length < 2 || strong.length > LINE_INKS.length) return new Map();
  const ended = [...strong].sort((a, b) => (last(a) || Infinity) - (last(b) || Infinity));
  return new Map(ended.map(({ name }, i) => [name, LINE_INKS[i]!]));
}

function legendOf(request: FigureRequest, series: readonly Series[]): LegendEntry[] {
  const entries: LegendEntry[] = [
    { words: 'places won since the first step', sample: (x, y) => [badgeMark('up', x + 8, y, INK)] },
    { words: 'places lost', sample: (x, y) => [badgeMark('down', x + 8, y, INK)] },
  ];
  const { cells } = request;
  if (cells.brief.lit === null) return entries;
  // A line is painted as its last rank is.
  const ends = series.map(({ rows }) => rows.findLast((row) => !Number.isNaN(cells.rank![row]!)) ?? rows[0]!);
  return [...entries, ...highlightEntries(request, writingOf(cells), 'badges', ends)];
}

function changesInWords(
  series: readonly Series[],
  rank: Float64Array,
  first: (one: Series) => number,
  last: (one: Series) => number,
): string {
  return series
    .flatMap((one) => {
      const [from, to] = [first(one), last(one)];
      if (from < 0) return [];
      return [`${one.name} from ${rank[one.rows[from]!]} to ${rank[one.rows[to]!]}.`];
    })
    .join(' ');
}
