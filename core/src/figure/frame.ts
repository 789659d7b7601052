import { writeView, type Condition } from '../brief';
import { writtenDay } from '../calendar';
import { fittingTitle, liveTitle, selectionWords, shorterTitles, type Writing } from '../format';
import { QUIET } from '../highlight';
import { listed } from '../problem';
import type { Cells } from '../query';
import { wrap, wrapWhole, type Mark, type Weight } from '../scene';
import type { FigureRequest } from './form';
import { periodWords } from './names';
import { FULL_ROOM, PLOT_SHARE, refuseTooHigh, type Room } from './room';
import { legendKey, legendLines, type LegendEntry } from './legend';
import { NO_ROW, textMark, type Belonging } from './shapes';

/** The margin of the paper. */
export const PAD = 20;
const TITLE = { size: 18, leading: 23 } as const;
const SMALL_TITLE = { size: 15, leading: 19 } as const;
const SUBTITLE = { size: 12.5, leading: 17 } as const;
const CAPTION = { size: 11, leading: 14 } as const;

const TITLED: Belonging = { ...NO_ROW, part: { as: 'title', nth: 0 } };
const SUBTITLED: Belonging = { ...NO_ROW, part: { as: 'paragraph', nth: 0 } };

export interface Head {
  readonly title: string;
  readonly marks: readonly Mark[];
  /** Where the figure below may begin. */
  readonly bottom: number;
}

/** On paper narrower than this titles are set smaller. */
const NARROW = 340;

/**
 * Title and subtitle at the top of the paper. A title that writes itself says less where it would be cut, and so does a subtitle: each
 * fact whole or not at all.
 */
export function headOf({ cells, look, room = FULL_ROOM }: FigureRequest, width: number, writing: Writing): Head {
  const { words } = room;
  const inner = width - 2 * PAD;
  const { size, leading } = width < NARROW || words === 'bare' ? SMALL_TITLE : TITLE;
  const title = liveTitle(look.title ?? fittingTitle(cells), cells);
  const titles = look.title === undefined ? shorterTitles(cells).map((text) => liveTitle(text, cells)) : [title];
  const most = words === 'all' ? 2 : 1;
  const marks: Mark[] = [];
  let y = PAD - 2;
  for (const line of fitting(titles, inner, size, 600, look.title === undefined ? most : most + 1)) {
    y += leading;
    marks.push(textMark('label', line, PAD, y - 6, size, { weight: 600, row: TITLED }));
  }
  for (const line of fitting(
    subtitlesOf(cells, writing, words, look.title !== undefined),
    inner,
    SUBTITLE.size,
    400,
    words === 'all' ? 2 : 1,
  )) {
    y += SUBTITLE.leading;
    marks.push(textMark('label', line, PAD, y - 5, SUBTITLE.size, { paint: { fill: QUIET }, row: SUBTITLED }));
  }
  return { title, marks, bottom: y + 10 };
}

/** The first of some texts that fits whole; the last one is cut where none does. */
function fitting(texts: readonly string[], width: number, size: number, weight: Weight, most: number): string[] {
  for (const text of texts) {
    const set = wrapWhole(text, width, size, weight, most);
    if (set) return set;
  }
  return wrap(texts.at(-1) ?? '', width, size, weight, most);
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

/** What a figure shows, from all of it to what cannot be left away: the longest first. What is left out of it is always said. */
function subtitlesOf(
  cells: Cells,
  { before, after, unit: written }: Writing,
  words: Room['words'],
  isTitled: boolean,
): string[] {
  // A title that writes itself says who is selected.
  const whose = isTitled ? (selectionWords(cells) ?? []) : [];
  const only = [...cells.brief.only.map(conditionWords), whose].flat().join(', ');
  const joined = (...parts: string[]) => parts.filter((part) => part !== '').join(' · ');
  const [period, compared] = [periodWords(cells, false), periodWords(cells)];
  if (words === 'bare') return [only];
  if (cells.stacked) return [joined(only, compared), joined(only, period), only];
  const unit = `${before}${after} ${written}`.replaceAll('\u00a0', ' ').trim();
  const by = [...cells.fields, ...(cells.grain ? [cells.grain] : [])].join(' and ');
  const { kind } = cells.view;
  const named = kind === 'plain' || kind === 'cumulative' ? cells.measure.name : writeView(cells.view);
  const what = `${named}${by ? ` by ${by}` : ''}${unit ? `, ${unit}` : ''}`;
  const all = [
    joined(what, only, compared),
    joined(what, only, period),
    joined(only, period),
    joined(only, sayUntil(cells)),
    only,
  ];
  return words === 'short' ? all.slice(2) : all;
}

/** The end of a period, where all of it has no room: while it runs, the day up to which it is known. */
function sayUntil({ dated, period: { from, to }, asOf }: Cells): string {
  return dated ? `to ${writtenDay(asOf >= from && asOf < to ? asOf : to)}` : '';
}

export interface Foot {
  /** Marks, for a foot that begins at y = 0. */
  marks(top: number): Mark[];
  readonly height: number;
}

/** Legend and caption at the bottom of the paper. */
export function footOf(
  { cells, look, sources, shared, watch, noted = [], room: { caption, legend: told } = FULL_ROOM }: FigureRequest,
  width: number,
  given: readonly LegendEntry[],
): Foot {
  const inner = width - 2 * PAD;
  const shown = given.filter((entry) => {
    const key = shared || watch ? legendKey(entry) : null;
    const isElsewhere = key !== null && shared?.has(key) === true;
    const isTold = told === 'all' || (told === 'without bands' && !entry.isBand);
    if (key !== null) watch?.(key, entry, isTold || isElsewhere);
    return isTold && !isElsewhere;
  });
  const { height: legend, marks: legendMarks } = legendLines([...shown, ...noted], inner);
  const lines = caption ? wrap(captionText({ cells, look, sources }), inner, CAPTION.size, 400, MOST_CAPTION) : [];
  return {
    height: (legend + lines.length > 0 ? 14 : 2) + legend + lines.length * CAPTION.leading + PAD - 8,
    marks(top) {
      const captions = lines.map((text, i) =>
        textMark('caption', text, PAD, top + 14 + legend + CAPTION.size + i * CAPTION.leading, CAPTION.size, {
          paint: { fill: QUIET },
        }),
      );
      return [...legendMarks(PAD, top + 14), ...captions];
    },
  };
}

/**
 * The height of a figure: what its look gives, else what it needs; never less than its texts and, for its marks, `least` pixels and half
 * of what is given, so that nothing leaves the paper and texts yield to the plot.
 */
export function heightOf(
  { look: { height: given }, room = FULL_ROOM }: Pick<FigureRequest, 'look' | 'room'>,
  natural: number,
  { bottom }: Head,
  { height }: Foot,
  least: number,
): number {
  if (given === undefined) return natural;
  const needed = Math.max(given, bottom + Math.max(least, PLOT_SHARE * given) + height);
  refuseTooHigh(needed, given, room);
  return needed;
}

/** Lines of a caption: what is said of the numbers stands in full. */
const MOST_CAPTION = 8;

/** What a reader of a figure must know of its numbers, in this order. */
const TOLD = [
  'currencies-added',
  'rate-missing',
  'more-than-drawn',
  'far-days',
  'filter-not-followed',
  'partly-covered',
  'due-not-known',
  'members-without-target',
  'per-which-member',
  'not-exact',
  'periods-out-of-step',
  'running-step',
  'history-too-short',
  'forecast-rests-on',
  'spread',
  'due-spread',
  'split',
];

/** The caption as a look words it, or as it writes itself. */
export const captionText = ({ cells, look, sources }: Pick<FigureRequest, 'cells' | 'look' | 'sources'>): string =>
  look.caption === undefined ? captionOf(cells, sources) : liveTitle(look.caption, cells);

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
