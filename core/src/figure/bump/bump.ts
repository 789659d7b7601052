import { againstNothing, all, asItIs, viewed } from '../changes';
import { writingOf } from '../../format';
import { encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { Problem } from '../../problem';
import { PAPER, rounded, shortenAll, textWidth, type Mark, type Paint, type Scene } from '../../scene';
import { bumpForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import {
  badgeMark,
  centred,
  footOf,
  headOf,
  heightOf,
  lineMark,
  NO_ROW,
  PAD,
  textMark,
  type Belonging,
  type LegendEntry,
} from '../frame';
import { rowKey, spoken } from '../names';
import { add, dotMark, type Point } from '../path';
import { highlightEntries } from '../rows/legend';
import { cellMark, TICK_SIZE, widest } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { spread, withRoom } from '../time/endLabels';
import { lastValue, seriesOf, standingOut, type Series } from '../time/series';
import { timeAxis, TIME_ROOM } from '../time/timeAxis';

/** Who stands where in each step: rank 1 on top, one line a member, those that matter in front. */
export const bump: FormDefinition = {
  ...bumpForm,
  rulerValues: (cells) => Array.from(cells.rank ?? []).filter((rank) => !Number.isNaN(rank)),
  draw,
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

const NAME_SIZE = 12;
const PITCH = { few: 34, many: 17, least: 13 } as const;
const STRIP = 34;
/** Nodes bear their rank where steps and ranks have room for it. */
const NODE = { large: 9, small: 3.5, room: 22 } as const;
/** Members of one rank in one step lie this far beside one another. */
const TIED = 5;

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
  const foot = footOf(request, width, legendOf(request));
  const most = Math.max(1, ...Array.from(rank).filter((one) => !Number.isNaN(one)));
  const pitch = most > 30 ? PITCH.least + 1 : most > 14 ? PITCH.many : PITCH.few;
  const natural = head.bottom + most * pitch + TIME_ROOM + 16 + foot.height;
  const height = heightOf(look.height, natural, head, foot, TIME_ROOM + 60);
  const bottom = Math.max(head.bottom + 40, height - foot.height - TIME_ROOM);
  const top = head.bottom + 14;
  const y = (at: number) =>
    most === 1 ? (top + bottom - 12) / 2 : top + ((at - 1) * (bottom - 12 - top)) / (most - 1);
  const step = most === 1 ? bottom - top : (bottom - 12 - top) / (most - 1);

  // Rank 1 is the best.
  const strong = standingOut(series, look, (one) => -lastValue(rank, one));
  const isPicked = strong.size < series.length;
  const stands = (one: Series) => strong.has(one.name);
  const ranksOf = ({ rows }: Series) => rows.map((row) => rank[row]!);
  const first = (one: Series) => ranksOf(one).findIndex((at) => !Number.isNaN(at));
  const last = (one: Series) => ranksOf(one).findLastIndex((at) => !Number.isNaN(at));
  const room = Math.min(
    widest(
      series.map(({ name }) => name),
      NAME_SIZE,
      600,
    ) + 10,
    width * 0.2,
  );
  const names = shortenAll(
    series.map(({ name }) => name),
    room - 8,
    NAME_SIZE,
    600,
  );
  const changeRoom = 34;
  const left = PAD + STRIP + 6 + room;
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

  // Those that stand out lie above the others.
  const layered = [...series].sort((a, b) => Number(stands(a)) - Number(stands(b)));
  const cellMarks: (Mark | undefined)[] = [];
  for (const one of layered) {
    const isStrong = stands(one);
    const of: Belonging = { key: one.key, step: null };
    const encoded = encodeRow(request.highlight, cells, one.rows[Math.max(0, last(one))]!);
    // A highlight that the brief names paints the lines; standings paint nodes only.
    const ink = cells.brief.lit !== null && encoded.rule ? encoded.ink : isStrong ? INK : QUIET;
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
  dropped += sideLabels(marks, series, names, {
    at: (one) => (first(one) === 0 ? rank[one.rows[0]!]! : NaN),
    y,
    x: left + Math.min(band / 2 - 12, -4),
    anchor: 'end',
    range: [top - 6, bottom],
    strong: stands,
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

function lastOfAll(series: readonly Series[], last: (one: Series) => number): number {
  return Math.max(0, ...series.map(last));
}

/** Members of one rank in one step stand beside one another, in their order. */
function tiesOf(series: readonly Series[], rank: Float64Array): ReadonlyMap<number, number> {
  const offsets = new Map<number, number>();
  const length = series[0]?.rows.length ?? 0;
  for (let i = 0; i < length; i++) {
    const byRank = new Map<number, number[]>();
    for (const { rows } of series) {
      const at = rank[rows[i]!]!;
      if (!Number.isNaN(at)) byRank.set(at, [...(byRank.get(at) ?? []), rows[i]!]);
    }
    for (const rows of byRank.values())
      if (rows.length > 1)
        rows.forEach((row, k) => offsets.set(row, (k - (rows.length - 1) / 2) * Math.min(TIED, 20 / rows.length)));
  }
  return offsets;
}

/** A curve that is level at each node; a member without a rank breaks it. */
function linkMark(
  role: Mark['role'],
  of: Belonging,
  points: readonly (Point | null)[],
  paint: Paint,
  rule: string | null,
): Mark | null {
  const kept: Point[] = [];
  let d = '';
  let before: Point | null = null;
  for (const point of points) {
    if (point) {
      const at = `${rounded(point[0])} ${rounded(point[1])}`;
      if (before) {
        const middle = rounded((before[0] + point[0]) / 2);
        d += `C${middle} ${rounded(before[1])} ${middle} ${rounded(point[1])} ${at}`;
      } else d += `M${at}`;
      kept.push(point);
    }
    before = point;
  }
  return kept.length === 0 ? null : { shape: 'path', role, ...of, value: null, d, points: kept, paint, rule };
}

interface Side {
  /** The rank a name stands at; NaN for none. */
  at(one: Series): number;
  y(rank: number): number;
  readonly x: number;
  readonly anchor: 'start' | 'end';
  readonly range: readonly [number, number];
  strong(one: Series): boolean;
  /** Places won since the first step; null where no change is told. */
  readonly change: ((one: Series) => number | null) | null;
}

/** Names at one end of the lines, apart from one another. */
function sideLabels(marks: Mark[], series: readonly Series[], names: readonly string[], side: Side): number {
  const there = series
    .map((one, i) => ({ one, name: names[i]!, at: side.at(one) }))
    .filter(({ at }) => !Number.isNaN(at));
  const shown = withRoom(there, ({ one }) => side.strong(one), PITCH.least, side.range);
  const heights = spread(
    shown.map(({ at }) => ({ y: side.y(at) })),
    PITCH.least,
    side.range,
  );
  let dropped = there.length - shown.length;
  shown.forEach(({ one, name }, i) => {
    const height = heights[i];
    if (height === null || height === undefined) {
      dropped++;
      return;
    }
    const fill = side.strong(one) ? INK : QUIET;
    const of: Belonging = { key: one.key, step: null };
    marks.push(
      textMark('label', name, side.x, centred(height, NAME_SIZE), NAME_SIZE, {
        anchor: side.anchor,
        weight: side.strong(one) ? 600 : 400,
        paint: { fill },
        row: of,
      }),
    );
    const change = side.change?.(one) ?? null;
    if (change === null) return;
    const from = side.x + textWidth(name, NAME_SIZE, 600) + 11;
    if (change !== 0) marks.push(badgeMark(change > 0 ? 'up' : 'down', from, height, fill, null, of));
    else marks.push(badgeMark('level', from, height, fill, null, of));
    if (change !== 0)
      marks.push(
        textMark('value', String(Math.abs(change)), from + 8, centred(height, NAME_SIZE), 11, {
          paint: { fill },
          row: of,
          value: change,
        }),
      );
  });
  return dropped;
}

function legendOf(request: FigureRequest): LegendEntry[] {
  const entries: LegendEntry[] = [
    { words: 'places won since the first step', sample: (x, y) => [badgeMark('up', x + 8, y, INK)] },
    { words: 'places lost', sample: (x, y) => [badgeMark('down', x + 8, y, INK)] },
  ];
  if (request.cells.brief.lit === null) return entries;
  return [...entries, ...highlightEntries(request, writingOf(request.cells))];
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
