import type { Brief, Form } from '../brief';
import type { Highlight, Look, RulerEntry } from '../report';
import type { Cells } from '../query';
import type { Scene } from '../scene';

/** All a form sees: cells, and how they are to look. It never touches rows. */
export interface FigureRequest {
  readonly cells: Cells;
  readonly look: Look;
  readonly highlight: Highlight;
  /** The shared ruler the figure hangs on, with every value that other figures on it must show. */
  readonly ruler: { readonly entry: RulerEntry; readonly values: readonly number[] } | null;
  readonly scale: Scale;
  /** Answers to the further briefs the form asked for, in their order; null where there is none. */
  readonly further: readonly (Cells | null)[];
  /** Where on the paper a ruler that lies across must begin and end, in pixels, to line up with another figure's. */
  readonly lane?: readonly [number, number];
  /** Files the numbers come from, for the caption. */
  readonly sources: readonly string[];
}

/** What a ruler measures in: the values themselves, or parts of each row's benchmark. */
export type Scale = 'value' | 'of benchmark';

export interface FormDefinition {
  readonly form: Form;
  /** What the form is for, in a few words. */
  readonly purpose: string;
  /** Several measures without fields and steps are rows of one figure. */
  readonly stacks?: true;
  /** Members it can show at most; 400 when left out. */
  readonly most?: number;
  /** It draws ranks itself; others are given ranks as the values to draw. */
  readonly ranks?: true;
  /** Every value the figure's ruler must show; `of benchmark`: each as a part of its row's benchmark. */
  rulerValues(cells: Cells, look: Look, scale?: Scale): number[];
  /** What the form wants to know beside its brief. */
  furtherBriefs?(brief: Brief, look: Look, cells: Cells): Brief[];
  draw(request: FigureRequest): Scene;
}
