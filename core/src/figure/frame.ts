import { writeView, type Condition } from '../brief';
import { writtenDay } from '../calendar';
import { fittingTitle, liveTitle, type Writing } from '../format';
import { INK, QUIET, type Encoding } from '../highlight';
import { listed } from '../problem';
import type { Cells } from '../query';
import { PAPER, rounded, shorten, textWidth, wrap, type Mark, type Paint, type Weight } from '../scene';
import type { FigureRequest } from './form';
import { periodWords } from './names';

export const PAD = 20;
const TITLE = { size: 18, leading: 23 } as const;
const SUBTITLE = { size: 12.5, leading: 17 } as const;
const CAPTION = { size: 11, leading: 14 } as const;
const LEGEND = { size: 11.5, leading: 20 } as const;

/** What a mark belongs to: a row, or nothing. */
export interface Belonging {
  readonly key: Mark['key'];
  readonly step: string | null;
}

/** For marks of the frame, which belong to no row. */
export const NO_ROW: Belonging = { key: {}, step: null };

interface TextMore {
  readonly anchor?: 'start' | 'middle' | 'end';
  readonly weight?: Weight;
  readonly paint?: Paint;
  readonly rule?: string | null;
  readonly row?: Belonging;
  readonly value?: number | null;
}

const INKED: Paint = { fill: INK };

// Marks are made by the thousand: their objects are written out whole, all of one shape.

/** A text mark. `y` is its baseline. */
export function textMark(
  role: Mark['role'],
  text: string,
  x: number,
  y: number,
  size: number,
  more: TextMore = {},
): Mark {
  const { anchor = 'start', weight = 400, paint = INKED, rule = null, row = NO_ROW, value = null } = more;
  return { shape: 'text', role, key: row.key, step: row.step, value, text, x, y, size, anchor, weight, paint, rule };
}

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export function rectMark(
  role: Mark['role'],
  row: Belonging,
  { x, y, width, height }: Box,
  value: number | null,
  paint: Paint,
  rule: string | null = null,
): Mark {
  return { shape: 'rect', role, key: row.key, step: row.step, value, x, y, width, height, paint, rule };
}

export interface Ends {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

export function lineMark(
  role: Mark['role'],
  row: Belonging,
  { x1, y1, x2, y2 }: Ends,
  value: number | null,
  paint: Paint,
): Mark {
  return { shape: 'line', role, key: row.key, step: row.step, value, x1, y1, x2, y2, paint, rule: null };
}

/** How a bar of that encoding is painted. */
export function barPaint({ ink, edge, pattern, faded }: Encoding): Paint {
  const [line, width] = edge === null && pattern ? [ink, 1] : [edge, 1.5];
  return {
    fill: ink,
    ...(pattern ? { pattern } : {}),
    ...(line === null ? {} : { stroke: line, strokeWidth: width }),
    ...(faded ? { opacity: FADED } : {}),
  };
}

/** What is left of a row that steps back. */
const FADED = 0.35;

/** Baseline that centres the digits of a size on a line. */
export function centred(y: number, size: number): number {
  return y + size * 0.345;
}

export interface Head {
  readonly title: string;
  readonly marks: readonly Mark[];
  /** Where the figure below may begin. */
  readonly bottom: number;
}

/** Title and subtitle at the top of the paper. */
export function headOf({ cells, look }: FigureRequest, width: number, writing: Writing): Head {
  const title = liveTitle(look.title ?? fittingTitle(cells), cells);
  const inner = width - 2 * PAD;
  const marks: Mark[] = [];
  let y = PAD - 2;
  for (const line of wrap(title, inner, TITLE.size, 600)) {
    y += TITLE.leading;
    marks.push(textMark('label', line, PAD, y - 6, TITLE.size, { weight: 600 }));
  }
  // What is left out of a figure is not cut off.
  const lines = cells.brief.only.length > 0 ? 2 : 1;
  for (const line of wrap(subtitleOf(cells, writing), inner, SUBTITLE.size, 400, lines)) {
    y += SUBTITLE.leading;
    marks.push(textMark('label', line, PAD, y - 5, SUBTITLE.size, { paint: { fill: QUIET } }));
  }
  return { title, marks, bottom: y + 10 };
}

/** More members than these are counted. */
const MOST_NAMED = 3;

/** A condition in words: `only Alder Coast`, `without Keys and Brass`, `net from 100`. */
function conditionWords(condition: Condition): string {
  const { field } = condition;
  if (condition.kind === 'at least') return `${field} from ${condition.value}`;
  if (condition.kind === 'below') return `${field} below ${condition.value}`;
  if (!('members' in condition)) return '';
  // A number, or yes and no, says nothing without its field.
  const bare = /^(?:[\d.,:-]+|yes|no|true|false)$/i;
  const names = condition.members.map((member) =>
    member === null ? `blank ${field}` : bare.test(member) ? `${field} ${member}` : member,
  );
  const named = names.length > MOST_NAMED ? `${names.length} of ${field}` : listed(names, 'and');
  return `${condition.kind === 'is' ? 'only' : 'without'} ${named}`;
}

function subtitleOf(cells: Cells, { before, after, unit: written }: Writing): string {
  const only = cells.brief.only.map(conditionWords).join(', ');
  if (cells.stacked) return [only, periodWords(cells)].filter((part) => part !== '').join(' · ');
  const unit = `${before}${after} ${written}`.replaceAll('\u00a0', ' ').trim();
  const by = [...cells.fields, ...(cells.grain ? [cells.grain] : [])].join(' and ');
  const { kind } = cells.view;
  const named = kind === 'plain' || kind === 'cumulative' ? cells.measure.name : writeView(cells.view);
  const what = `${named}${by ? ` by ${by}` : ''}${unit ? `, ${unit}` : ''}`;
  return [what, only, periodWords(cells)].filter((part) => part !== '').join(' · ');
}

/** One entry of a legend: a small sample and its words. */
export interface LegendEntry {
  readonly words: string;
  /** Width of a sample that is wider than the others. */
  readonly wide?: number;
  /** Marks of the sample in a box of 16 × 12 pixels whose left middle is given. */
  sample(x: number, y: number): Mark[];
}

const sampleRoom = ({ wide = 16 }: LegendEntry) => (wide === 0 ? 0 : wide + 6);

export interface Foot {
  /** Marks, for a foot that begins at y = 0. */
  marks(top: number): Mark[];
  readonly height: number;
}

/** Legend and caption at the bottom of the paper. */
export function footOf({ cells, look, sources }: FigureRequest, width: number, entries: readonly LegendEntry[]): Foot {
  const inner = width - 2 * PAD;
  const places: { entry: LegendEntry; x: number; line: number }[] = [];
  let x = 0;
  let line = 0;
  for (const given of entries) {
    const words = shorten(given.words, inner - sampleRoom(given), LEGEND.size);
    const entry = words === given.words ? given : { ...given, words };
    const room = sampleRoom(entry) + textWidth(entry.words, LEGEND.size);
    if (x > 0 && x + room > inner) {
      x = 0;
      line++;
    }
    places.push({ entry, x, line });
    x += room + 18;
  }
  const legend = entries.length === 0 ? 0 : (line + 1) * LEGEND.leading + 2;
  const lines = wrap(
    look.caption === undefined ? captionOf(cells, sources) : liveTitle(look.caption, cells),
    inner,
    CAPTION.size,
    400,
    MOST_CAPTION,
  );
  return {
    height: 14 + legend + lines.length * CAPTION.leading + PAD - 8,
    marks(top) {
      const legendMarks = places.flatMap(({ entry, x: left, line: at }) => {
        const y = top + 14 + at * LEGEND.leading + 8;
        return [
          ...entry.sample(PAD + left, y),
          textMark('legend', entry.words, PAD + left + sampleRoom(entry), centred(y, LEGEND.size), LEGEND.size),
        ];
      });
      const captions = lines.map((text, i) =>
        textMark('caption', text, PAD, top + 14 + legend + CAPTION.size + i * CAPTION.leading, CAPTION.size, {
          paint: { fill: QUIET },
        }),
      );
      return [...legendMarks, ...captions];
    },
  };
}

/**
 * The height of a figure: what its look gives, else what it needs; never less than its texts and `least` pixels for its marks,
 * so that nothing leaves the paper.
 */
export function heightOf(
  given: number | undefined,
  natural: number,
  { bottom }: Head,
  { height }: Foot,
  least: number,
): number {
  return given === undefined ? natural : Math.max(given, bottom + least + height);
}

/** Lines of a caption: what is said of the numbers stands in full. */
const MOST_CAPTION = 8;

/** What a reader of a figure must know of its numbers, in this order. */
const TOLD = [
  'more-than-drawn',
  'far-days',
  'filter-not-followed',
  'partly-covered',
  'members-without-target',
  'per-which-member',
  'not-exact',
  'periods-out-of-step',
  'running-step',
  'forecast-rests-on',
  'spread',
  'due-spread',
  'split',
];

/** Where the numbers come from, up to when, what is lacking, and how a target was cut. */
function captionOf(cells: Cells, sources: readonly string[]): string {
  const notes = TOLD.flatMap((told) => cells.checks.filter(({ code }) => code === told).map(({ text }) => text));
  const from = sources.length > 0 ? `from ${sources.join(' and ')}` : '';
  const until = cells.dated ? `as of ${writtenDay(cells.asOf)}` : '';
  return [[from, until].filter((part) => part !== '').join(', '), ...notes]
    .filter((sentence) => sentence !== '')
    .map((sentence) => `${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}.`)
    .join(' ');
}

const UP = outline([
  [-4, 4.5],
  [-4, -0.5],
  [0, -4.5],
  [4, -0.5],
  [4, 4.5],
]);
const BADGES = {
  up: UP,
  level: outline([
    [-4.5, -1.75],
    [4.5, -1.75],
    [4.5, 1.75],
    [-4.5, 1.75],
  ]),
  down: outline(UP.corners.map(([x, y]) => [x, -y] as const)),
};

/** A closed outline around a centre: its corners, and how the path goes on from the first of them. */
function outline(corners: readonly (readonly [number, number])[]) {
  const rest = corners
    .slice(1)
    .map(([x, y], i) => `l${rounded(x - corners[i]![0])} ${rounded(y - corners[i]![1])}`)
    .join('');
  return { corners, rest: `${rest}Z` };
}

/** The badge of a standing, centred: a tag that points up, a bar, a tag that points down. Each has its own outline, so that colour is not needed. */
export function badgeMark(
  badge: 'up' | 'level' | 'down',
  x: number,
  y: number,
  ink: string,
  rule: string | null = null,
  row: Belonging = NO_ROW,
): Mark {
  const { corners, rest } = BADGES[badge];
  const points: [number, number][] = [];
  for (const [px, py] of corners) points.push([x + px, y + py]);
  const d = `M${rounded(points[0]![0])} ${rounded(points[0]![1])}${rest}`;
  const paint: Paint = badge === 'down' ? { fill: PAPER, stroke: ink, strokeWidth: 1.75 } : { fill: ink };
  return { shape: 'path', role: 'badge', key: row.key, step: row.step, value: null, d, points, paint, rule };
}
