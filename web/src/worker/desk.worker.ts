import { expose } from 'comlink';
import {
  completeBrief,
  partsOfBrief,
  readBrief,
  writeBrief,
  type Brief,
  type BriefParts,
  type Completion,
} from '@bold-ruler/core/brief';
import { fiscalYear } from '@bold-ruler/core/calendar';
import { drawFigure, figureNamed, formDefinition, DRAWN_FORMS, rowWords } from '@bold-ruler/core/figure';
import { exactWriting, writeNumber } from '@bold-ruler/core/format';
import { numbersText, type NumbersText } from './numbersText';
import { aggregated, dataSpan, numbersCsv, numbersOf, type Check } from '@bold-ruler/core/query';
import { vocabularyOf, type Report } from '@bold-ruler/core/report';
import { writeSvg, type Scene } from '@bold-ruler/core/scene';
import { cellText, knownSpan, profileTable, type FieldsProfile, type Table } from '@bold-ruler/core/table';
import { workspaceFor, type Workspace } from '@bold-ruler/core/workspace';
import { addReport, addTable, loadTables } from '@/store/library';
import { sent, sentProblem, type Sent, type SentProblem } from './sent';

/** A brief as the interface shows it. */
export interface ReadableBrief {
  readonly brief: Brief;
  readonly text: string;
  readonly parts: BriefParts;
}

/** One row of a drawn figure, for the pointer and the keyboard. */
export interface DrawnRow {
  readonly words: string;
  readonly actual: number | null;
  readonly exact: string;
}

export interface DrawnFigure {
  readonly scene: Scene;
  readonly rows: readonly DrawnRow[];
  /** The numbers in full, as text. */
  readonly numbers: NumbersText;
  readonly checks: readonly Check[];
  readonly leftOut: readonly { readonly reason: string; readonly rows: number }[];
  readonly readable: ReadableBrief;
  /** Milliseconds the numbers and the marks took. */
  readonly took: number;
}

/** The names the sentence's popovers offer. */
export interface Offered {
  readonly measures: readonly string[];
  readonly fields: readonly string[];
  readonly benchmarks: readonly string[];
  readonly forms: readonly { readonly form: string; readonly purpose: string }[];
  readonly rulers: readonly string[];
  readonly highlights: readonly string[];
  readonly fiscalYears: readonly number[];
}

let report = '';
let read = new Map<string, Table>();
let workspace: Workspace | null = null;
let builtFrom = '';

/** The workspace for a report; tables and answers are kept while tables and calendar stay the same. */
function workspaceOf(current: Report): Workspace {
  const needed = JSON.stringify([current.tables, current.calendar]);
  if (!workspace || needed !== builtFrom) {
    workspace = workspaceFor(current, read);
    builtFrom = needed;
  } else if (workspace.report !== current) {
    workspace = { ...workspace, report: current, vocabulary: vocabularyOf(current, workspace.tables, DRAWN_FORMS) };
  }
  return workspace;
}

function readable(brief: Brief, { vocabulary }: Workspace): ReadableBrief {
  return { brief, text: writeBrief(brief, vocabulary), parts: partsOfBrief(brief) };
}

const api = {
  /** Takes the tables of a report from the library. */
  async open(id: string): Promise<void> {
    if (report === id) return;
    read = await loadTables(id);
    report = id;
    workspace = null;
  },

  /** Puts a new report with its tables on the shelf, and has it open. */
  async add(id: string, added: Report, tables: ReadonlyMap<string, Table>): Promise<void> {
    await addReport(id, added, tables);
    read = new Map(tables);
    report = id;
    workspace = null;
  },

  /** Adds a table to the open report. */
  async addTable(id: string, next: Report, table: Table): Promise<void> {
    await addTable(id, next, table);
    read.set(table.id, table);
    workspace = null;
  },

  draw(current: Report, figureId: string): Promise<Sent<DrawnFigure>> {
    return sent(async () => {
      const start = performance.now();
      const desk = workspaceOf(current);
      const { cells, scene } = await drawFigure(desk.source, current, figureNamed(current, figureId), desk.vocabulary);
      const exact = exactWriting(cells);
      const rows = Array.from({ length: cells.count }, (_, i) => ({
        words: rowWords(cells, i),
        actual: Number.isNaN(cells.actual[i]!) ? null : cells.actual[i]!,
        exact: writeNumber(cells.actual[i]!, exact),
      }));
      const took = performance.now() - start;
      return {
        scene,
        rows,
        numbers: numbersText(cells),
        checks: cells.checks,
        leftOut: cells.leftOut,
        readable: readable(cells.brief, desk),
        took,
      };
    });
  },

  svg(current: Report, figureId: string): Promise<Sent<string>> {
    return sent(async () => {
      const desk = workspaceOf(current);
      return writeSvg((await drawFigure(desk.source, current, figureNamed(current, figureId), desk.vocabulary)).scene);
    });
  },

  csv(current: Report, figureId: string): Promise<Sent<string>> {
    return sent(async () => {
      const desk = workspaceOf(current);
      return numbersCsv(
        numbersOf((await drawFigure(desk.source, current, figureNamed(current, figureId), desk.vocabulary)).cells),
      );
    });
  },

  read(current: Report, text: string): Promise<Sent<ReadableBrief>> {
    return sent(() => {
      const desk = workspaceOf(current);
      return readable(readBrief(text, desk.vocabulary), desk);
    });
  },

  write(current: Report, brief: Brief): Promise<Sent<ReadableBrief>> {
    return sent(() => {
      const desk = workspaceOf(current);
      // Reading it back refuses what cannot be written, before it reaches the report.
      return readable(readBrief(writeBrief(brief, desk.vocabulary), desk.vocabulary), desk);
    });
  },

  /** What can stand at the cursor, and what is wrong with the text so far. */
  async complete(
    current: Report,
    text: string,
    cursor: number,
  ): Promise<{ completions: Completion[]; problem: SentProblem | null }> {
    const { vocabulary } = workspaceOf(current);
    const completions = completeBrief(text, cursor, vocabulary);
    try {
      readBrief(text, vocabulary);
      return { completions, problem: null };
    } catch (error) {
      return { completions, problem: sentProblem(error) };
    }
  },

  async offered(current: Report): Promise<Offered> {
    const { vocabulary, tables } = workspaceOf(current);
    const years = new Set<number>();
    for (const { table } of current.measures) {
      const span = tables.get(table) && knownSpan(tables.get(table)!, current.calendar);
      if (span)
        for (let year = fiscalYear(span.from, current.calendar); year <= fiscalYear(span.to, current.calendar); year++)
          years.add(year);
    }
    return {
      measures: vocabulary.measures,
      fields: vocabulary.fields,
      benchmarks: vocabulary.benchmarks,
      forms: DRAWN_FORMS.map((form) => ({ form, purpose: formDefinition(form).purpose })),
      rulers: vocabulary.rulers,
      highlights: vocabulary.highlights,
      fiscalYears: [...years].sort((a, b) => b - a).slice(0, 8),
    };
  },

  async members(current: Report, field: string): Promise<readonly string[]> {
    return workspaceOf(current).vocabulary.members(field) ?? [];
  },

  profile(current: Report, tableId: string): Promise<Sent<FieldsProfile>> {
    return sent(() => {
      const table = workspaceOf(current).tables.get(tableId)!;
      return profileTable(table, current.tables.find(({ id }) => id === tableId)?.source.file ?? tableId);
    });
  },

  /** Cells of some rows as text, and the columns' names. */
  async rows(
    current: Report,
    tableId: string,
    from: number,
    count: number,
  ): Promise<{ columns: string[]; rows: string[][] }> {
    const table = workspaceOf(current).tables.get(tableId);
    if (!table) return { columns: [], rows: [] };
    const to = Math.min(table.rows, from + count);
    const rows = Array.from({ length: Math.max(0, to - from) }, (_, i) =>
      table.columns.map((column) => cellText(column, from + i)),
    );
    return { columns: table.columns.map(({ name }) => name), rows };
  },

  /** First and last day with data of the first measure over a table, for the calendar. */
  async span(current: Report, tableId: string): Promise<{ from: number; to: number } | null> {
    const { source } = workspaceOf(current);
    const measure = current.measures.find(({ table }) => table === tableId);
    if (!measure) return source.span(tableId, []);
    return dataSpan(source, aggregated(source, tableId, measure.expression, `measure “${measure.name}”`));
  },
};

export type DeskApi = typeof api;
expose(api);
