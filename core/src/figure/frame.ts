import { writtenDay } from '../calendar';
import { fittingTitle, liveTitle, type Writing } from '../format';
import { AHEAD, INK, QUIET } from '../highlight';
import type { Cells } from '../query';
import { PLAIN, textWidth, wrap, type Mark, type Paint, type Weight } from '../scene';
import type { FigureRequest } from './form';
import { periodWords } from './names';

export const PAD = 20;
const TITLE = { size: 18, leading: 23 } as const;
const SUBTITLE = { size: 12.5, leading: 17 } as const;
const CAPTION = { size: 11, leading: 14 } as const;
const LEGEND = { size: 11.5, leading: 20 } as const;

/** A text mark. `y` is its baseline. */
export function textMark(
  role: Mark['role'],
  text: string,
  x: number,
  y: number,
  size: number,
  more: { anchor?: 'start' | 'middle' | 'end'; weight?: Weight; paint?: Paint; rule?: string | null } = {},
): Mark {
  const { anchor = 'start', weight = 400, paint = { fill: INK }, rule = null } = more;
  return { ...PLAIN, shape: 'text', role, text, x, y, size, anchor, weight, paint, rule };
}

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
  for (const line of wrap(subtitleOf(cells, writing), inner, SUBTITLE.size, 400, 1)) {
    y += SUBTITLE.leading;
    marks.push(textMark('label', line, PAD, y - 5, SUBTITLE.size, { paint: { fill: QUIET } }));
  }
  return { title, marks, bottom: y + 10 };
}

function subtitleOf(cells: Cells, { before, after, unit: named }: Writing): string {
  const unit = `${before}${after} ${named}`.replaceAll('\u00a0', ' ').trim();
  const by = [...cells.fields, ...(cells.grain ? [cells.grain] : [])].join(' and ');
  const what = `${cells.measure.name}${by ? ` by ${by}` : ''}${unit ? `, ${unit}` : ''}`;
  return `${what} · ${periodWords(cells)}`;
}

/** One entry of a legend: a small sample and its words. */
export interface LegendEntry {
  readonly words: string;
  /** Marks of the sample in a box of 16 × 12 pixels whose left middle is given. */
  sample(x: number, y: number): Mark[];
}

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
  for (const entry of entries) {
    const room = 22 + textWidth(entry.words, LEGEND.size);
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
    2,
  );
  return {
    height: 14 + legend + lines.length * CAPTION.leading + PAD - 8,
    marks(top) {
      const legendMarks = places.flatMap(({ entry, x: left, line: at }) => {
        const y = top + 14 + at * LEGEND.leading + 8;
        return [
          ...entry.sample(PAD + left, y),
          textMark('legend', entry.words, PAD + left + 22, centred(y, LEGEND.size), LEGEND.size),
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

/** Where the numbers come from, up to when, and how a target was cut. */
function captionOf(cells: Cells, sources: readonly string[]): string {
  const notes = cells.checks
    .filter(({ code }) => code === 'spread' || code === 'split')
    .map(({ text }) => text.charAt(0).toUpperCase() + text.slice(1));
  const from = sources.length > 0 ? `From ${sources.join(' and ')}, ` : '';
  return [`${from}${from ? 'as' : 'As'} of ${writtenDay(cells.asOf)}`, ...notes]
    .map((sentence) => `${sentence}.`)
    .join(' ');
}

/** The badge of a standing, centred: a tag that points up, a bar, a tag that points down. Each has its own outline, so that colour is not needed. */
export function badgeMark(
  badge: 'up' | 'level' | 'down',
  x: number,
  y: number,
  ink: string = AHEAD,
  rule: string | null = null,
): Mark {
  const points: (readonly [number, number])[] =
    badge === 'level'
      ? [
          [-4.5, -1.75],
          [4.5, -1.75],
          [4.5, 1.75],
          [-4.5, 1.75],
        ]
      : (
          [
            [-4, 4.5],
            [-4, -0.5],
            [0, -4.5],
            [4, -0.5],
            [4, 4.5],
          ] as const
        ).map(([px, py]) => [px, badge === 'up' ? py : -py] as const);
  const placed = points.map(([px, py]) => [x + px, y + py] as const);
  const d = `M${placed.map(([px, py]) => `${Math.round(px * 100) / 100} ${Math.round(py * 100) / 100}`).join('L')}Z`;
  return {
    ...PLAIN,
    shape: 'path',
    role: 'badge',
    d,
    points: placed,
    paint: badge === 'down' ? { fill: '#FAFAF7', stroke: ink, strokeWidth: 1.75 } : { fill: ink },
    rule,
  };
}
