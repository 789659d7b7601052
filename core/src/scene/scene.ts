import type { Weight } from './text';

export type Role =
  | 'actual'
  | 'benchmark'
  | 'due'
  | 'band'
  | 'rise'
  | 'fall'
  | 'total'
  | 'subtotal'
  | 'rest'
  | 'connector'
  | 'node'
  | 'link'
  | 'emphasis'
  | 'path'
  | 'forecast'
  | 'smoothed'
  | 'trend'
  | 'interval'
  | 'gap'
  | 'tick'
  | 'ticklabel'
  | 'zero'
  | 'label'
  | 'value'
  | 'caption'
  | 'legend'
  | 'cell'
  | 'badge'
  | 'break'
  /** What an analyst has written on the figure, and the periods they marked. */
  | 'note'
  | 'span';

/** How a mark is painted; colours are hexadecimal, widths in pixels. */
export interface Paint {
  readonly fill?: string;
  readonly stroke?: string;
  readonly strokeWidth?: number;
  readonly dash?: readonly number[];
  readonly opacity?: number;
  /** What the fill is laid in; solid when left out. */
  readonly pattern?: 'hatch' | 'dots';
}

interface Common {
  readonly role: Role;
  readonly key: Readonly<Record<string, string | null>>;
  readonly step: string | null;
  readonly value: number | null;
  readonly paint: Paint;
  /** The highlight rule that painted it. */
  readonly rule: string | null;
  /** What a screen reader says, and what hovering shows. */
  readonly words?: string;
  /** Where it stands on its ruler, if that is not its value. */
  readonly at?: number;
  /** The heading of a column by which the rows can be sorted. */
  readonly sorts?: 'value' | 'gap percent';
  /** The heading of a table's column, by the name a look calls it. */
  readonly column?: string;
  /** What it is a part of for those who hear a page. */
  readonly part?: Part | undefined;
}

/**
 * What a mark is to whoever hears a page instead of seeing it: lines of one number say one thing together; a cell stands in a line of a
 * table (−1 for its headings) and a column.
 */
export type Part =
  | { readonly as: 'title' | 'heading' | 'paragraph' | 'item'; readonly nth: number }
  | { readonly as: 'cell'; readonly line: number; readonly column: number; readonly isName?: true };

/** One drawn thing. Coordinates are CSS pixels, y grows downward; angles are radians, clockwise from twelve o'clock. */
export type Mark = Common &
  (
    | {
        readonly shape: 'rect';
        readonly x: number;
        readonly y: number;
        readonly width: number;
        readonly height: number;
      }
    | { readonly shape: 'line'; readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number }
    | { readonly shape: 'path'; readonly d: string; readonly points: readonly (readonly [number, number])[] }
    | { readonly shape: 'circle'; readonly cx: number; readonly cy: number; readonly r: number }
    | {
        readonly shape: 'arc';
        readonly cx: number;
        readonly cy: number;
        readonly r0: number;
        readonly r1: number;
        readonly a0: number;
        readonly a1: number;
      }
    | {
        readonly shape: 'text';
        readonly x: number;
        readonly y: number;
        readonly text: string;
        readonly anchor: 'start' | 'middle' | 'end';
        readonly size: number;
        readonly weight: Weight;
      }
  );

export interface SceneRuler {
  readonly id: string;
  readonly axis: 'x' | 'y' | 'angle';
  readonly kind: string;
  readonly domain: readonly [number, number];
  readonly range: readonly [number, number];
  readonly ticks: readonly number[];
  /** Where the ruler lies, for the interface to lay its strip there. */
  readonly strip: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

/** All marks of a figure in the order in which they are painted, ready to draw. */
export interface Scene {
  readonly width: number;
  readonly height: number;
  readonly title: string;
  readonly description: string;
  readonly rulers: readonly SceneRuler[];
  readonly marks: readonly Mark[];
  /** Where rows lie that a reader scrolls through, under a heading that stays: from, to, and the height of each. */
  readonly scroll?: { readonly top: number; readonly bottom: number; readonly row: number };
  /** Labels that found no place. */
  readonly dropped: number;
}

/** The parts of a mark that most marks leave empty. */
export const PLAIN = { key: {}, step: null, value: null, rule: null } as const;

/** What tells the rows of a figure apart, as one text: the members and the step of a row or of its marks. */
export function keyText({ key, step }: Pick<Mark, 'key' | 'step'>): string {
  return JSON.stringify([key, step]);
}
