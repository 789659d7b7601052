import { INK, QUIET } from '../../highlight';
import type { Cells, Note } from '../../query';
import type { Look } from '../../report';
import { PAPER, textWidth, wrapWhole, type Box, type Mark, type Scene } from '../../scene';
import type { LegendEntry } from '../legend';
import { rowKey } from '../names';
import type { Point } from '../path';
import { centred, lineMark, NO_ROW, rectMark, textMark, type Belonging } from '../shapes';
import { anchorsOf, type Adrift } from './anchors';
import { pointOf } from './points';
import { crosses, isFree, takenBy, type Taken } from './room';
import { markedIn, type Marked } from './spans';

const SIZE = 11.5;
const LEADING = 14;
const WIDEST = 150;
const MOST_LINES = 3;
/** Radius of a letter that stands for a note. */
const LETTER = 7.5;

/** A note in a figure: whose it is, where it points, and what it says by itself, without the place. */
interface Placed {
  readonly text: string;
  readonly said: string;
  readonly of: Belonging;
  readonly at: Point;
  /** The stretch it is the name of. */
  readonly stretch?: Marked;
}

/** A scene with its notes; those without room are letters, and what they say is for the legend. */
export interface Annotated {
  readonly scene: Scene;
  readonly lettered: ReadonlySet<number>;
  readonly entries: readonly LegendEntry[];
}

/** Whether a look has something to be written on the figure. */
export const hasNotes = ({ notes, spans }: Look): boolean => (notes?.length ?? 0) + (spans?.length ?? 0) > 0;

/** What of a look's notes and periods a figure does not show. */
export function adriftOf(scene: Scene, cells: Cells, { notes = [], spans = [] }: Look): Note[] {
  const { anchored, adrift: gone } = anchorsOf(cells, notes);
  const unseen = anchored.flatMap(({ text, row, name }): Adrift[] =>
    pointOf(scene, rowKey(cells, row)) ? [] : [{ text, why: `${name} has no room in the figure` }],
  );
  const adrift = [...gone, ...unseen, ...markedIn(scene, cells, spans).adrift];
  return adrift.map(({ text, why }) => ({
    code: 'note-adrift',
    severity: 'note',
    text: `the note “${text}” is not shown: ${why}`,
  }));
}

/**
 * The notes of a look, written on a scene: each beside what it hangs on, with a fine line, where that touches nothing; else a letter
 * there. Periods lie behind everything.
 * @param before places of those that had no room before: they are letters from the start
 */
export function annotated(
  scene: Scene,
  cells: Cells,
  { notes = [], spans = [] }: Look,
  before: ReadonlySet<number>,
): Annotated {
  const { stretches } = markedIn(scene, cells, spans);
  const marks: Mark[] = [...stretches.map(stretchMark), ...scene.marks];
  const taken = takenBy(scene);
  const { anchored } = anchorsOf(cells, notes);
  const placed: Placed[] = [
    ...anchored.flatMap(({ text, row, name }): Placed[] => {
      const of = rowKey(cells, row);
      const at = pointOf(scene, of);
      return at ? [{ text, said: `${name}: ${text}`, of, at }] : [];
    }),
    // In several panels a period is named once.
    ...stretches
      .filter(({ span }, i) => stretches.findIndex((one) => one.span === span) === i)
      .map((stretch): Placed => ({ text: stretch.text, said: stretch.text, of: NO_ROW, at: topOf(stretch), stretch })),
  ];
  // Where values lie across, a note has the rest of its row.
  const isAcross = scene.rulers.length > 0 && scene.rulers.every(({ axis }) => axis === 'x');
  const lettered = new Set<number>();
  for (const [i, one] of placed.entries()) {
    const written = before.has(i) ? null : writtenOut(one, taken, isAcross);
    if (written) marks.push(...written);
    else lettered.add(i);
  }
  const without = placed.filter((_, i) => lettered.has(i));
  without.forEach((one, i) => marks.push(...letterMarks(one, i + 1, taken)));
  // What hangs on a row that has no room is heard all the same.
  const heard = [
    ...anchored.map(({ name, text }) => `${name}: ${text}`),
    ...placed.flatMap((one) => (one.stretch ? [one.said] : [])),
  ];
  const words = heard.map((said) => ` Note: ${said}.`).join('');
  return {
    scene: { ...scene, marks, description: `${scene.description}${words}` },
    lettered,
    entries: without.map(({ said }, i) => ({
      words: said,
      sample: (x, y) => circled([x + 8, y], i + 1, said, NO_ROW),
    })),
  };
}

function stretchMark({ along, from, to, low, high, isDay }: Marked): Mark {
  if (isDay) {
    const at = (from + to) / 2;
    const ends = along === 'x' ? { x1: at, y1: low, x2: at, y2: high } : { x1: low, y1: at, x2: high, y2: at };
    return lineMark('span', NO_ROW, ends, null, { stroke: QUIET, strokeWidth: 1, dash: [3, 2.5] });
  }
  const [box, width] = [
    { along: from, across: low },
    { along: to - from, across: high - low },
  ];
  return rectMark(
    'span',
    NO_ROW,
    along === 'x'
      ? { x: box.along, y: box.across, width: width.along, height: width.across }
      : { x: box.across, y: box.along, width: width.across, height: width.along },
    null,
    { fill: INK, opacity: 0.07 },
  );
}

/** Where the name of a period hangs: at the top of its middle. */
const topOf = ({ along, from, to, low, high }: Marked): Point =>
  along === 'x' ? [(from + to) / 2, low + 2] : [high - 2, (from + to) / 2];

const FAR = [8, 14, 22, 34, 48, 66, 90];
/** Directions from what a note hangs on to its text: beside it first, then above and beneath. */
const WAYS = [
  [1, -0.6],
  [-1, -0.6],
  [0, -1],
  [1, 0.6],
  [-1, 0.6],
  [0, 1],
  [1, 0],
  [-1, 0],
] as const;

/** A note in words: in its stretch, in its row, or beside its place; null where it would touch something. */
function writtenOut(one: Placed, taken: Taken, isAcross: boolean): Mark[] | null {
  if (one.stretch) return atStretch(one, one.stretch, taken);
  return (isAcross ? behind(one, taken) : null) ?? beside(one, taken);
}

/** The name of a period at the top of its stretch: in its middle where it is narrower, else from its beginning on, or up to its end. */
function atStretch({ text, said }: Placed, { along, from, to, low, high, isDay }: Marked, taken: Taken): Mark[] | null {
  const width = textWidth(text, SIZE);
  const middle = (from + to) / 2;
  const fits = !isDay && width + 8 <= to - from;
  const lefts =
    along === 'y'
      ? [high - width - 4]
      : [...(fits ? [middle - width / 2] : []), (isDay ? middle : from) + 4, (isDay ? middle : to) - 4 - width];
  const tops =
    along === 'y' ? [middle - LEADING / 2] : [low + 2, low + 2 + LEADING, low + 2 + 2 * LEADING, high - LEADING - 2];
  for (const top of tops)
    for (const left of lefts) {
      const box = { x: left - 2, y: top, width: width + 4, height: LEADING };
      if (!isFree(box, taken)) continue;
      taken.boxes.push(box);
      return [{ ...textMark('note', text, left, top + SIZE - 0.5, SIZE, { paint: { fill: INK } }), words: said }];
    }
  return null;
}

/** The text beside its place, with a line to it; null where it would touch something. */
function beside({ text, said, of, at: [x, y] }: Placed, taken: Taken): Mark[] | null {
  const lines = wrapWhole(text, WIDEST, SIZE, 400, MOST_LINES);
  if (!lines) return null;
  const width = Math.max(...lines.map((line) => textWidth(line, SIZE)));
  const height = lines.length * LEADING;
  for (const far of FAR)
    for (const [right, down] of WAYS) {
      const box: Box = {
        x: right === 0 ? x - width / 2 : right > 0 ? x + far * right : x + far * right - width,
        y: down === 0 ? y - height / 2 : down > 0 ? y + far * down : y + far * down - height,
        width,
        height,
      };
      const roomy = { x: box.x - 3, y: box.y - 1, width: width + 6, height: height + 2 };
      if (!isFree(roomy, taken)) continue;
      const end = nearest(box, [x, y]);
      const leader = { x1: x, y1: y, x2: end[0], y2: end[1] };
      // The line may leave its own mark, and goes through no other text or bar.
      const others = taken.boxes.filter((one) => !contains(one, [x, y], 4));
      if (others.some((one) => crosses([x, y], end, one))) continue;
      taken.boxes.push(roomy);
      const isFar = Math.hypot(end[0] - x, end[1] - y) > 5;
      return [
        ...(isFar ? [lineMark('note', of, leader, null, { stroke: QUIET, strokeWidth: 0.75 })] : []),
        ...lines.map((line, i) => ({
          ...textMark('note', line, box.x, box.y + i * LEADING + SIZE - 1, SIZE, { paint: { fill: INK }, row: of }),
          ...(i === 0 ? { words: said } : {}),
        })),
      ];
    }
  return null;
}

/** The text in the row of what it hangs on, behind all that stands there; null where there is no room for it. */
function behind({ text, said, of, at: [x, y] }: Placed, taken: Taken): Mark[] | null {
  const width = textWidth(text, SIZE);
  const { area } = taken;
  const row = { y: y - LEADING / 2 - 1, height: LEADING + 2 };
  for (let from = x + 8; from + width + 3 <= area.x + area.width; from += 4) {
    const roomy = { x: from - 3, width: width + 6, ...row };
    if (!isFree(roomy, taken)) continue;
    // A line leads to it from the last thing in its row.
    const before = taken.boxes.filter((box) => box.y < y && box.y + box.height > y && box.x < from);
    const start = Math.max(x, ...before.map((box) => box.x + box.width)) + 4;
    taken.boxes.push(roomy);
    return [
      ...(from - start > 8
        ? [lineMark('note', of, { x1: start, y1: y, x2: from - 4, y2: y }, null, { stroke: QUIET, strokeWidth: 0.75 })]
        : []),
      { ...textMark('note', text, from, centred(y, SIZE), SIZE, { paint: { fill: INK }, row: of }), words: said },
    ];
  }
  return null;
}

const contains = ({ x, y, width, height }: Box, [px, py]: Point, room: number): boolean =>
  px > x - room && px < x + width + room && py > y - room && py < y + height + room;

const nearest = ({ x, y, width, height }: Box, [px, py]: Point): Point => [
  Math.min(Math.max(px, x), x + width),
  Math.min(Math.max(py, y), y + height),
];

/** A letter near to what it stands for, where it touches nothing but lines; else on its corner. */
function letterMarks({ said, of, at: [x, y] }: Placed, number: number, taken: Taken): Mark[] {
  const around = [0, 12, 17, 24, 32, 42].flatMap((far) =>
    (far === 0 ? [[0, 0] as const] : WAYS).map(([right, down]): Point => [x + far * right, y + far * down]),
  );
  const boxAt = ([cx, cy]: Point): Box => ({ x: cx - LETTER, y: cy - LETTER, width: 2 * LETTER, height: 2 * LETTER });
  const place =
    around.find((point) => isFree(boxAt(point), { ...taken, lines: [] })) ?? inside([x + 8, y - 8], taken.area);
  taken.boxes.push(boxAt(place));
  return circled(place, number, said, of);
}

/** The nearest place at which a letter lies in the plot. */
const inside = ([x, y]: Point, area: Box): Point => [
  Math.min(Math.max(x, area.x + LETTER), area.x + area.width - LETTER),
  Math.min(Math.max(y, area.y + LETTER), area.y + area.height - LETTER),
];

/** a, b, … z, aa: numbers would be taken for ranks and values. */
const letterOf = (number: number): string =>
  (number > 26 ? letterOf(Math.floor((number - 1) / 26)) : '') + String.fromCharCode(97 + ((number - 1) % 26));

function circled([cx, cy]: Point, number: number, said: string, of: Belonging): Mark[] {
  const paint = { fill: PAPER, stroke: INK, strokeWidth: 1 };
  return [
    {
      shape: 'circle',
      role: 'note',
      key: of.key,
      step: of.step,
      value: null,
      cx,
      cy,
      r: LETTER,
      paint,
      rule: null,
      words: said,
    },
    textMark('note', letterOf(number), cx, centred(cy, 11), 11, { anchor: 'middle', weight: 600, row: of }),
  ];
}
