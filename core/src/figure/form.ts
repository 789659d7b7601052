import type { Brief } from '../brief';
import type { Form, FormDeclaration } from '../form';
import type { CellFigure, ColumnLook, Highlight, Look, RulerEntry } from '../report';
import type { Cells, NumbersExtras } from '../query';
import type { Mark, Scene } from '../scene';
import type { Change, FittingHints } from './changes';
import type { LegendEntry } from './legend';
import type { Room } from './room';

/** All a form sees: cells, and how they are to look. It never touches rows. */
export interface FigureRequest {
  readonly cells: Cells;
  readonly look: Look;
  readonly highlight: Highlight;
  /** What tells ahead, level and behind apart, whatever the figure is lit by: it paints gaps. */
  readonly standing: Highlight;
  /** The shared ruler the figure hangs on, with every value that other figures on it must show. */
  readonly ruler: { readonly entry: RulerEntry; readonly values: readonly number[] } | null;
  readonly scale: Scale;
  /** Answers to the further briefs the form asked for, in their order; null where there is none. */
  readonly further: readonly (Cells | null)[];
  /** Where on the paper a ruler that lies across must begin and end, in pixels, to line up with another figure's. */
  readonly lane?: readonly [number, number];
  /** Files the numbers come from, for the caption. */
  readonly sources: readonly string[];
  /** What the letters of notes stand for: it is always told. */
  readonly noted?: readonly LegendEntry[];
  /** Entries of legends, by their keys, that stand on the paper around it. */
  readonly shared?: ReadonlySet<string>;
  /** Hears of each entry of its legend, and whether it is told here or around it. */
  readonly watch?: (key: string, entry: LegendEntry, isTold: boolean) => void;
  /** What its texts say; all of it when left out. */
  readonly room?: Room;
}

/** What a ruler measures in: the values themselves, or parts of each row's benchmark. */
export type Scale = 'value' | 'of benchmark';

/** A form: what it says of itself, and how it is drawn. */
export interface FormDefinition extends FormDeclaration<Form> {
  /** Every value the figure's ruler must show; `of benchmark`: each as a part of its row's benchmark. */
  rulerValues(cells: Cells, look: Look, scale?: Scale): number[];
  /** What the form wants to know beside its brief. */
  furtherBriefs?(brief: Brief, look: Look, cells: Cells): Brief[];
  draw(request: FigureRequest): Scene;
  /** The rows its marks stand for, where those are not the request's: on small paper a form may show coarser steps. */
  shows?(request: FigureRequest): Cells;
  /** What its numbers tell beside those of every form. */
  numbers?(cells: Cells): NumbersExtras;
  /** The number at a mark's place on its ruler, where that is not the row's value. */
  valueAt?(mark: Mark, write: (value: number) => string): string;
  /** The columns in which rows are shown, for forms that have some. */
  columns?(drawn: Pick<FigureRequest, 'cells' | 'further'>, look: Look): readonly ColumnShown[];
  /** What the workbook holds its number against beside the brief's own benchmark. */
  references?(request: FigureRequest): readonly Cells[];
  /** Changes of a brief that may make the form fit, the smallest first; left out: those of rows without steps. */
  fitting?(brief: Brief, hints: FittingHints): readonly Change[];
  /** How it is told how its rows came about. */
  readonly reckoning?: FormReckoning;
}

/** A column of a table, with what its cells are and may be. */
export interface ColumnShown {
  readonly id: string;
  readonly cell: CellFigure;
  readonly scale: NonNullable<ColumnLook['scale']>;
  readonly cells: readonly CellFigure[];
  /** The ends of its scale, where its cells are read against some. */
  readonly ends: readonly [number, number] | null;
  /** From where on its faces are fair, and good; up to where, if less is better. */
  readonly faces: readonly [number, number] | null;
  readonly lessIsBetter: boolean;
}

/** What a form adds to the reckoning of a row. */
export interface FormReckoning {
  /** Between what a row is held against and how it is painted. */
  sentences?(cells: Cells, row: number, write: (value: number) => string): readonly Sentence[];
  /** Whether a highlight paints its rows; left out: always. */
  isLit?(cells: Cells): boolean;
  /** Places on its ruler are ranks. */
  readonly ofRanks?: true;
}

/** Arithmetic that anybody can check: numbers, + − * / and brackets, and what it comes to. */
export interface Sum {
  readonly text: string;
  readonly value: number;
}

/** One step of the working, in words; with its arithmetic where there is any. */
export interface Sentence {
  readonly about:
    | 'rows'
    | 'value'
    | 'view'
    | 'column'
    | 'step'
    | 'benchmark'
    | 'due'
    | 'gap'
    | 'standing'
    | 'rule'
    | 'place';
  readonly text: string;
  readonly sum?: Sum;
}

/** A number as it stands in arithmetic. */
export const bracketed = (value: number): string => (value < 0 ? `(${value})` : String(value));
