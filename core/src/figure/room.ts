import type { Scene } from '../scene';

/** What the texts around a plot say: they yield to it, one after the other. */
export interface Room {
  /** Where the numbers come from, and what is to be known of them; without it the description says it. */
  readonly caption: boolean;
  /** Of the legend what bands mean, or all of it. */
  readonly legend: 'all' | 'without bands' | 'none';
  /** How much title and subtitle tell. */
  readonly words: 'all' | 'short' | 'bare';
  /** Ticks of a ruler over rows that bear their values. */
  readonly ticks: boolean;
  /** There is a smaller room: a figure that comes out higher than it may be is given up by `refuseTooHigh`, before its marks are made. */
  readonly isStrict?: boolean;
}

/** From a large figure to a small one: what is given up, in this order. */
export const ROOMS: readonly Room[] = [
  { caption: true, legend: 'all', words: 'all', ticks: true },
  { caption: false, legend: 'all', words: 'all', ticks: true },
  { caption: false, legend: 'without bands', words: 'all', ticks: true },
  { caption: false, legend: 'none', words: 'all', ticks: true },
  { caption: false, legend: 'none', words: 'short', ticks: true },
  { caption: false, legend: 'none', words: 'bare', ticks: true },
  { caption: false, legend: 'none', words: 'bare', ticks: false },
];

export const FULL_ROOM = ROOMS[0]!;

/** The part of a figure's height that its plot has at least, while there are texts to give up. */
export const PLOT_SHARE = 0.5;

/**
 * A figure as large as it can be told for its height: the first of the rooms in which it fits.
 * @param draw in the last one it may come out higher
 */
export function fittedTo(height: number | undefined, draw: (room: Room) => Scene): { scene: Scene; room: Room } {
  for (const room of height === undefined ? [] : ROOMS.slice(0, -1)) {
    try {
      const scene = draw({ ...room, isStrict: true });
      if (scene.height <= height! + SLACK) return { scene, room };
    } catch (thrown) {
      if (thrown !== TOO_HIGH) throw thrown;
    }
  }
  const room = height === undefined ? FULL_ROOM : ROOMS.at(-1)!;
  return { scene: draw(room), room };
}

/** A figure may come out so much higher than it may be. */
const SLACK = 0.5;

/** Thrown where it is known that a figure does not fit in its room. */
const TOO_HIGH = Symbol('too high');

/** Ends the drawing of a figure that comes out higher than it may be, where it is tried in a smaller room next. */
export function refuseTooHigh(height: number, given: number, { isStrict }: Room): void {
  if (isStrict && height > given + SLACK) throw TOO_HIGH;
}

/** Rows with names are at least this high. */
export const LEAST_PITCH = 14;

/** What title and foot take where they say the least. */
export const BARE = 62;

/**
 * The least height of a plot of rows. Where all of them have room in a figure that says the least, texts yield to them; else what is
 * there is for as many of them as it holds, and for the line that tells of the others.
 * @param taken beside the rows
 * @param more how high rows are at least, and what of `taken` is spared where nothing else is left to give up
 */
export function leastOfRows(
  given: number | undefined,
  rows: number,
  taken: number,
  { pitch = LEAST_PITCH, spared = 0 }: { readonly pitch?: number; readonly spared?: number } = {},
): number {
  if (given === undefined) return taken;
  const free = given - BARE - taken + spared;
  if (rows * pitch <= free) return taken + rows * pitch;
  return taken + MORE + pitch * Math.max(1, Math.floor((free - MORE) / pitch));
}

/** Pixels of the line that tells of further rows. */
export const MORE = 16;

/** On lower paper what would stand upright lies across. */
export const isHighEnough = (given: number | undefined): boolean => given === undefined || given >= 240;
