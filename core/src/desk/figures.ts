import { formOf, mistakesIn, readBrief, type Form } from '../brief';
import { usageOf } from '../edit';
import {
  formDefinition,
  drawFigure,
  figureNamed,
  formsFor,
  numbersFor,
  numbersText,
  repairsFor,
  rowKey,
  rowName,
  type ColumnShown,
  type FormOffer,
  type NumbersText,
} from '../figure';
import { exactWriting, writeNumber, type Writing } from '../format';
import { highlightFor, litValue } from '../highlight';
import { numbersOf } from '../figure';
import { numbersCsv, rowSource, type Cells, type Note } from '../query';
import type { Report } from '../report';
import { keyText, writeSvg, type FontFiles, type Mark, type Scene } from '../scene';
import type { OpenReport } from '../workspace';
import { readable, type ReadableBrief } from './briefs';
import { levelUnder, pathTo, wayInto, type LevelBelow, type PathStep, type WayInto } from './ways';

/** One row of a drawn figure, for the pointer and the keyboard. */
export interface DrawnRow {
  readonly words: string;
  readonly name: string;
  readonly key: Readonly<Record<string, string | null>>;
  /** Its step of time, as files write it. */
  readonly step: string | null;
  /** The line of the numbers it is; null for totals and the like. */
  readonly row: number | null;
  /** Where it stands on its ruler. */
  readonly actual: number | null;
  readonly exact: string;
  /** It can be gone into: a level lies below it, or it is a rest of members. */
  readonly leads: boolean;
  readonly isRest: boolean;
}

export interface DrawnFigure {
  readonly scene: Scene;
  readonly rows: readonly DrawnRow[];
  /** The numbers in full, as text. */
  readonly numbers: NumbersText;
  readonly checks: readonly Note[];
  readonly leftOut: readonly { readonly reason: string; readonly rows: number }[];
  readonly readable: ReadableBrief;
  /** The members it lies within by the report's hierarchies. */
  readonly path: readonly PathStep[];
  readonly below: LevelBelow | null;
  /** Its period goes on after the as-of date, and something is due by then. */
  readonly runs: boolean;
  /** Its amounts are converted by the rates of their own periods, and held against another period. */
  readonly exchanges: boolean;
  /** Columns of a table; none for other forms. */
  readonly columns: readonly ColumnShown[];
  /** The form it is drawn in, whether the brief names it or not. */
  readonly form: Form;
  /** The numbers the figure's highlight looks at, row by row; null where it looks at none. */
  readonly lit: readonly (number | null)[];
  /** Ids of the other figures on the same shared ruler. */
  readonly sharing: readonly string[];
  /** Milliseconds the numbers and the marks took. */
  readonly took: number;
}

/** Another brief for a figure that cannot be drawn, and what it changes. */
export interface RepairShown {
  readonly name: string;
  readonly text: string;
}

function litOf(current: Report, cells: Cells): (number | null)[] {
  const highlight = highlightFor(current, cells.brief.lit);
  return Array.from({ length: cells.count }, (_, row) => {
    const value = litValue(highlight, cells, row);
    return Number.isNaN(value) ? null : value;
  });
}

/** What a change does, as a button asks for it: “adds …” as “add …”. */
function asAsked(change: string): string {
  return change.replace(
    /(^|, )(adds|leaves|shows|says|draws)\b/g,
    (_, before: string, verb: string) => before + verb.slice(0, -1),
  );
}

/** Questions about figures. */
export const figures = {
  /** @param room pixels that a screen has for it: a wider figure is drawn for that, not scaled */
  async draw(desk: OpenReport, figureId: string, room: number | null = null): Promise<DrawnFigure> {
    const start = performance.now();
    const named = figureNamed(desk.report, figureId);
    const isWider = room !== null && (named.look.width ?? Infinity) > room;
    const figure = isWider ? { ...named, look: { ...named.look, width: room } } : named;
    const drawing = await drawFigure(desk, figure);
    const { cells, rows: drawn, scene } = drawing;
    const common = exactWriting(cells);
    const definition = formDefinition(formOf(cells.brief));
    const exactText = (mark: Mark, writing: Writing) => {
      const write = (value: number) => writeNumber(value, writing);
      return definition.valueAt?.(mark, write) ?? write(mark.value ?? NaN);
    };
    const rowOf = new Map(
      Array.from({ length: drawn.count }, (_, i) => {
        return [keyText(rowKey(drawn, i)), i] as const;
      }),
    );
    const below = levelUnder(desk, cells.brief);
    const rows = scene.marks.flatMap((mark): DrawnRow[] => {
      if (mark.role !== 'cell') return [];
      const row = rowOf.get(keyText(mark)) ?? null;
      const [source] = row === null ? [cells] : rowSource(drawn, row);
      const words = mark.words ?? '';
      return [
        {
          words,
          name: row === null ? words.split(': ')[0]! : rowName(drawn, row),
          key: mark.key,
          step: mark.step,
          row,
          actual: mark.at ?? mark.value,
          isRest: row !== null && drawn.isRest[row] === 1,
          leads: row !== null && (drawn.isRest[row] ? drawn.fields.length === 1 : below !== null),
          exact: exactText(mark, source === cells ? common : exactWriting(source)),
        },
      ];
    });
    const took = performance.now() - start;
    return {
      scene,
      rows,
      numbers: numbersText(numbersFor(drawing)),
      checks: drawn.checks,
      leftOut: cells.leftOut,
      readable: readable(cells.brief, desk),
      path: pathTo(desk, cells.brief),
      below,
      runs: cells.due !== null,
      exchanges: cells.measure.currency?.at === 'own' && cells.benchmark?.kind === 'period',
      columns: definition.columns?.(drawing, figure.look) ?? [],
      form: definition.form,
      lit: litOf(desk.report, drawn),
      sharing:
        cells.brief.ruler === null
          ? []
          : usageOf(desk.report, desk.vocabulary, 'ruler', cells.brief.ruler).figures.filter((id) => id !== figureId),
      took,
    };
  },

  /** Where a row of a figure leads, one level down. */
  async into(desk: OpenReport, figureId: string, row: number): Promise<WayInto | null> {
    return wayInto(desk, (await drawFigure(desk, figureNamed(desk.report, figureId))).rows, row);
  },

  /** The figure as SVG, with the letters it uses. */
  async svg(desk: OpenReport, figureId: string, fonts: () => Promise<FontFiles>): Promise<string> {
    const { scene } = await drawFigure(desk, figureNamed(desk.report, figureId));
    const [{ facesFor }, files] = await Promise.all([import('../print'), fonts()]);
    return writeSvg(scene, { fonts: facesFor([scene], files) });
  },

  async scene(desk: OpenReport, figureId: string): Promise<string> {
    const { scene } = await drawFigure(desk, figureNamed(desk.report, figureId));
    return `${JSON.stringify(scene, null, 2)}\n`;
  },

  async csv(desk: OpenReport, figureId: string): Promise<string> {
    return numbersCsv(numbersOf((await drawFigure(desk, figureNamed(desk.report, figureId))).cells));
  },

  /** The forms a brief can be drawn in, with what each changes of it. */
  forms(desk: OpenReport, text: string): Promise<FormOffer[]> {
    return formsFor(desk, readBrief(text, desk.vocabulary));
  },

  /** What would let a figure be drawn that cannot be as it is: other briefs, or texts for its mistakes. */
  async repairs(desk: OpenReport, figureId: string): Promise<RepairShown[]> {
    const { vocabulary } = desk;
    const figure = figureNamed(desk.report, figureId);
    const [mistake] = mistakesIn(figure.brief, vocabulary);
    if (mistake)
      return mistake.fixes.map(({ text, from, to }) => ({
        name: `write ${text}`,
        text: figure.brief.slice(0, from) + text + figure.brief.slice(to),
      }));
    const found = await repairsFor(desk, figure, readBrief(figure.brief, vocabulary));
    return found.map(({ change, text }) => ({ name: asAsked(change), text }));
  },
};
