import { expose } from 'comlink';
import {
  completeBrief,
  mistakesIn,
  formOf,
  FORMS,
  partsOfBrief,
  readBrief,
  writeBrief,
  type Brief,
  type BriefParts,
  type Completion,
  type Form,
  type Vocabulary,
} from '@bold-ruler/core/brief';
import { edited, NO_HISTORY, usageOf, type Edit, type Edited, type Usage } from '@bold-ruler/core/edit';
import { fiscalYear, sayPeriod } from '@bold-ruler/core/calendar';
import { highlightFor, litValue } from '@bold-ruler/core/highlight';
import {
  drawFigure,
  figureNamed,
  formDefinition,
  formsFor,
  numbersFor,
  numbersText,
  repairsFor,
  type FormOffer,
  type NumbersText,
  cellsFor,
  columnsOf,
  DRAWN_FORMS,
  rowKey,
  rowName,
  tableCells,
  type Drawn,
} from '@bold-ruler/core/figure';
import { exactWriting, writeNumber, writingOf, type Writing } from '@bold-ruler/core/format';
import { completeExpression, type ExpressionCompletion } from '@bold-ruler/core/measure';
import {
  aggregated,
  answerBrief,
  columnTypes,
  dataSpan,
  numbersCsv,
  numbersOf,
  rowSource,
  withDerived,
  type Cells,
  type Check,
} from '@bold-ruler/core/query';
import { isProblem, Problem } from '@bold-ruler/core/problem';
import {
  firstBriefOver,
  type CellFigure,
  type ColumnLook as CellLook,
  type Look,
  vocabularyOf,
  wholeBundle,
  type Named,
  type Report,
} from '@bold-ruler/core/report';
import { writeSvg, type Mark, type Scene } from '@bold-ruler/core/scene';
import {
  cellText,
  columnOf,
  declaredOrder,
  differenceOf,
  distribution,
  inOrder,
  knownSpan,
  leftOutAmounts,
  matchTables,
  profileTable,
  rowsPerMonth,
  writeCsv,
  type Arrangement,
  type ColumnKind,
  type Difference,
  type Distribution,
  type FieldsProfile,
  type LeftOutAmount,
  type Match,
  type Table,
} from '@bold-ruler/core/table';
import { levelChecks, type Finding } from '@bold-ruler/core/level';
import { reckon, rowsBehind, sumWords, type Reckoning } from '@bold-ruler/core/reckoning';
import { workspaceFor, type Workspace } from '@bold-ruler/core/workspace';
import {
  addReport,
  ChangedElsewhere,
  loadFile,
  loadFiles,
  loadTables,
  saveRows,
  ReportGone,
  type Files,
  type RowsSave,
} from '@/storage/library';
import { CHANGED_ELSEWHERE, GONE } from './changedElsewhere';
import { fileFrom } from './fileFrom';
import { Looked, type GridRow } from './rows';
import type { FontFiles, Paper } from '@bold-ruler/core/print';
import { pageNamed, readerOffers, writePage, type ReaderOffers } from '@bold-ruler/core/page';
import {
  pageDrawn,
  pageHtml,
  pageShown,
  pageSuggestions,
  type PageShown,
  type ReaderChoice,
  type SuggestionShown,
} from './page';
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
  readonly name: string;
  readonly key: Readonly<Record<string, string | null>>;
  /** The line of the numbers it is; null for totals and the like. */
  readonly row: number | null;
  /** Where it stands on its ruler. */
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
  /** Its period goes on after the as-of date, and something is due by then. */
  readonly runs: boolean;
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

/** A column of a table, with what its cells are and may be. */
export interface ColumnShown {
  readonly id: string;
  readonly cell: CellFigure;
  readonly scale: NonNullable<CellLook['scale']>;
  readonly cells: readonly CellFigure[];
}

/** Another brief for a figure that cannot be drawn, and what it changes. */
export interface RepairShown {
  readonly name: string;
  readonly text: string;
}

/** A finding of the level checks; `repair` is what putting it right is called. */
export interface FindingShown extends Omit<Finding, 'repair'> {
  readonly repair: string | null;
}

/** A working with the first of the rows behind it, as text. */
export interface ReckoningShown extends Reckoning {
  /** The arithmetic of each sentence in words, where it has any. */
  readonly sums: readonly (string | null)[];
  readonly headings: readonly string[];
  readonly lines: readonly (readonly string[])[];
}

const MOST_ROWS_SHOWN = 300;

/** Rows that are looked at in the grid. */
export interface LookedAt {
  readonly rows: number;
  readonly columns: readonly { readonly name: string; readonly kind: ColumnKind }[];
}

/** More members than this are not put in order by hand. */
const MOST_ORDERED = 500;

export interface ColumnLook {
  readonly distribution: Distribution;
  /** In their order; null where there are too many. Empty for columns without members. */
  readonly members: readonly string[] | null;
}

/** What is asked of a measure, or of a benchmark under it, over everything or by a field. */
export interface AskedValue {
  readonly measure: string;
  readonly against: string | null;
  readonly field: string | null;
}

/** A value now, written as its measure's format says. */
export interface NumberLook {
  readonly whole: string;
  readonly exact: string;
  /** The period, of benchmarks. */
  readonly period: string | null;
  readonly rows: readonly { readonly name: string; readonly text: string }[];
  readonly more: number;
  readonly notes: readonly string[];
}

const MOST_SHOWN = 8;

const EVERYTHING: Brief = {
  views: [],
  by: [],
  grain: null,
  period: { kind: 'all time' },
  against: null,
  form: null,
  keep: null,
  sort: null,
  only: [],
  lit: null,
  ruler: null,
};

/** What a derived column would be. */
export interface DerivedLook {
  readonly kind: ColumnKind;
  readonly blank: number;
  readonly rows: number;
  readonly headings: readonly string[];
  readonly lines: readonly (readonly string[])[];
}

/** What came of saving other rows. */
export interface RowsSaved {
  readonly changed: number;
  /** There was no room for what was before, so nothing can be taken back. */
  readonly isForgotten: boolean;
}

/** Runs work that saves; a change by another tab is a problem of its own. */
function savedAs<T>(work: () => Promise<T>): Promise<Sent<T>> {
  return sent(async () => {
    try {
      return await work();
    } catch (error) {
      if (error instanceof ReportGone) throw new Problem(GONE, 'this report is not in this browser any more');
      if (!(error instanceof ChangedElsewhere)) throw error;
      throw new Problem(CHANGED_ELSEWHERE, 'another tab has changed this report since it was opened here');
    }
  });
}

/** What a change does, as a button asks for it: “adds …” as “add …”. */
function asAsked(change: string): string {
  return change.replace(
    /(^|, )(adds|leaves|shows|says|draws)\b/g,
    (_, before: string, verb: string) => before + verb.slice(0, -1),
  );
}

/** The names the sentence's popovers offer. */
export interface Offered {
  readonly measures: readonly string[];
  readonly fields: readonly string[];
  readonly benchmarks: readonly string[];
  readonly forms: readonly {
    readonly form: string;
    readonly purpose: string;
    /** What it is drawn from, and what that changes; known once the brief is. */
    readonly brief?: Brief;
    readonly change?: string;
  }[];
  readonly rulers: readonly string[];
  readonly highlights: readonly string[];
  readonly fiscalYears: readonly number[];
  /** The brief a new figure begins with; null where there is nothing to add up. */
  readonly first: string | null;
}

let report = '';
let read = new Map<string, Table>();
let workspace: Workspace | null = null;
let builtFrom = '';
let looked: Looked | null = null;
/** A table that may take the place of another, and the file it was read from. */
let proposed: { table: Table; file: File | null } | null = null;

function forget(): void {
  workspace = null;
  looked = null;
  proposed = null;
}

/** The file a table was read from, where the browser keeps it. */
async function sourceOf(current: Report, tableId: string): Promise<File | null> {
  const entry = current.tables.find(({ id }) => id === tableId);
  return entry ? loadFile(report, entry.source.file) : null;
}

/** The tables that a report names; others lie in its bin. */
function listed(current: Report): ReadonlyMap<string, Table> {
  return new Map([...read].filter(([id]) => current.tables.some((entry) => entry.id === id)));
}

/** The workspace for a report; tables and answers are kept while tables and calendar stay the same. */
function workspaceOf(current: Report): Workspace {
  const needed = JSON.stringify([current.tables, current.calendar]);
  if (!workspace || needed !== builtFrom) {
    workspace = workspaceFor(current, listed(current));
    builtFrom = needed;
  } else if (workspace.report !== current) {
    const { measures, benchmarks, rulers, highlights } = current;
    const before = workspace.report;
    const isSame =
      JSON.stringify([measures, benchmarks, rulers, highlights]) ===
      JSON.stringify([before.measures, before.benchmarks, before.rulers, before.highlights]);
    workspace = {
      ...workspace,
      report: current,
      vocabulary: isSame ? workspace.vocabulary : vocabularyOf(current, workspace.tables, DRAWN_FORMS),
    };
  }
  return workspace;
}

function readable(brief: Brief, { vocabulary }: Workspace): ReadableBrief {
  return { brief, text: writeBrief(brief, vocabulary), parts: partsOfBrief(brief) };
}

/** With all forms, so that briefs of forms that are not drawn are followed, too. */
function wholeVocabulary(current: Report): Vocabulary {
  return { ...workspaceOf(current).vocabulary, forms: FORMS };
}

function litOf(current: Report, cells: Cells): (number | null)[] {
  const highlight = highlightFor(current, cells.brief.lit);
  return Array.from({ length: cells.count }, (_, row) => {
    const value = litValue(highlight, cells, row);
    return Number.isNaN(value) ? null : value;
  });
}

/** The number at a mark's place on the ruler: of a waterfall where its step ends, of a bump the rank. */
function exactText({ value, at }: Mark, form: Form, writing: Writing): string {
  if (form === 'bump') return String(at ?? '–');
  return writeNumber((form === 'waterfall' ? at : value) ?? NaN, writing);
}

/** The columns of a table or league, for the drawer. */
function columnsOfTable({ cells, further }: Drawn, look: Look): ColumnShown[] {
  const form = formOf(cells.brief, DRAWN_FORMS);
  if (form !== 'table' && form !== 'league') return [];
  const data = tableCells({ cells, further }, form === 'league');
  const cellsOf = cellsFor(data.stepped !== null);
  return columnsOf(data, look, { ranked: form === 'league' }).flatMap((column) =>
    column.kind === 'number' ? [{ id: column.id, cell: column.cell, scale: column.scale, cells: cellsOf }] : [],
  );
}

function findingsOf(current: Report): Promise<Finding[]> {
  const { source, report: now, vocabulary, tables } = workspaceOf(current);
  return levelChecks(source, now, tables, vocabulary);
}

/** A row's working, its table and the rows of it that it was made from. */
async function reckoned(current: Report, figureId: string, row: number) {
  const { source, report: now, vocabulary, tables } = workspaceOf(current);
  const drawn = await drawFigure(source, now, figureNamed(now, figureId), vocabulary);
  const reckoning = await reckon(source, now, drawn, row);
  const table = (reckoning.behind && tables.get(reckoning.behind.table)) ?? null;
  return { reckoning, table, rows: table ? rowsBehind(table, reckoning.behind!) : [] };
}

const api = {
  /** Takes the tables of a report from the library. */
  async open(id: string, again = false): Promise<void> {
    if (report === id && !again) return;
    read = await loadTables(id);
    report = id;
    forget();
  },

  /** Puts a new report with its tables on the shelf, and has it open. */
  add(id: string, added: Report, tables: ReadonlyMap<string, Table>, files: Files): Promise<Sent<null>> {
    return sent(async () => {
      await addReport(id, added, tables, files);
      read = new Map(tables);
      report = id;
      forget();
      return null;
    });
  },

  /** Keeps the open report under another id, with the tables that are here, whatever the library holds of them. */
  keepCopy(id: string, copy: Report): Promise<Sent<null>> {
    return sent(async () => {
      const files = await loadFiles(report).catch((): Files => new Map());
      await addReport(id, copy, read, files);
      return null;
    });
  },

  /** Takes a table that may stand in for the one of the same id, and tells what would change. */
  propose(table: Table, file: File | null): Promise<Sent<Difference>> {
    return sent(() => {
      proposed = { table, file };
      return differenceOf(read.get(table.id)!, table);
    });
  },

  /**
   * Saves the report with other rows of its tables, and has them here from then on: rows that are given, the proposed ones, or
   * those that are kept of an earlier step.
   */
  saveRows(save: RowsSave, given: readonly Table[] | 'proposed', files: Files): Promise<Sent<RowsSaved>> {
    return savedAs(async () => {
      const own = given === 'proposed' && proposed ? proposed : null;
      const tables = own ? [own.table] : (given as readonly Table[]);
      const fresh = new Map(tables.map((table) => [table.id, table]));
      // Everything is looked at once before anything is saved: derived columns must still fit.
      if (fresh.size > 0) workspaceFor(save.report, new Map([...listed(save.report), ...fresh]));
      const name = own && save.report.tables.find(({ id }) => id === own.table.id)?.source.file;
      const sources = own?.file && name ? new Map([[name, own.file]]) : files;
      // Where there is no room for the rows before, those that come are worth more.
      const bare = { ...save, history: NO_HISTORY, changes: save.changes.map((one) => ({ ...one, before: null })) };
      let isForgotten = false;
      const { changed, tables: now } = await saveRows(report, save, fresh, sources).catch((error: unknown) => {
        if (!isProblem(error) || error.code !== 'storage-full' || fresh.size === 0) throw error;
        isForgotten = true;
        return saveRows(report, bare, fresh, sources);
      });
      for (const [id, table] of now)
        if (table) read.set(id, table);
        else read.delete(id);
      forget();
      return { changed, isForgotten };
    });
  },

  /** Ids of all tables that are kept, also of those that lie in the bin. */
  async tableIds(): Promise<string[]> {
    return [...read.keys()];
  },

  async discard(): Promise<void> {
    proposed = null;
  },

  /** The report and the files of its tables as one. */
  bundle(current: Report): Promise<Sent<Uint8Array<ArrayBuffer>>> {
    return sent(async () => {
      const files = new Map<string, Uint8Array>();
      for (const { source } of current.tables) {
        // Where it is not kept, or cannot be had, the rows that are here are handed over.
        const file = await loadFile(report, source.file).catch(() => null);
        if (file) files.set(source.file, new Uint8Array(await file.arrayBuffer()));
      }
      return wholeBundle(current, read, files) as Uint8Array<ArrayBuffer>;
    });
  },

  /** The file of a table, to be read again in another way; null where it is not kept. */
  file(current: Report, tableId: string): Promise<File | null> {
    return sourceOf(current, tableId);
  },

  draw(current: Report, figureId: string): Promise<Sent<DrawnFigure>> {
    return sent(async () => {
      const start = performance.now();
      const desk = workspaceOf(current);
      const figure = figureNamed(current, figureId);
      const drawing = await drawFigure(desk.source, current, figure, desk.vocabulary);
      const { cells, rows: drawn, scene } = drawing;
      const common = exactWriting(cells);
      const rowOf = new Map(
        Array.from({ length: drawn.count }, (_, i) => {
          const { key, step } = rowKey(drawn, i);
          return [JSON.stringify([key, step]), i] as const;
        }),
      );
      const rows = scene.marks.flatMap((mark): DrawnRow[] => {
        if (mark.role !== 'cell') return [];
        const row = rowOf.get(JSON.stringify([mark.key, mark.step])) ?? null;
        const [source] = row === null ? [cells] : rowSource(drawn, row);
        const words = mark.words ?? '';
        return [
          {
            words,
            name: row === null ? words.split(': ')[0]! : rowName(drawn, row),
            key: mark.key,
            row,
            actual: mark.at ?? mark.value,
            exact: exactText(mark, formOf(cells.brief, DRAWN_FORMS), source === cells ? common : exactWriting(source)),
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
        runs: cells.due !== null,
        columns: columnsOfTable(drawing, figure.look),
        form: formOf(cells.brief, DRAWN_FORMS),
        lit: litOf(current, drawn),
        sharing:
          cells.brief.ruler === null
            ? []
            : usageOf(current, wholeVocabulary(current), 'ruler', cells.brief.ruler).figures.filter(
                (id) => id !== figureId,
              ),
        took,
      };
    });
  },

  /** The working behind a row of a figure's numbers, with the first of the rows it was made from. */
  reckon(current: Report, figureId: string, row: number): Promise<Sent<ReckoningShown>> {
    return sent(async () => {
      const { reckoning, table, rows } = await reckoned(current, figureId, row);
      const columns = table?.columns ?? [];
      return {
        ...reckoning,
        sums: reckoning.sentences.map(sumWords),
        headings: columns.map(({ name }) => name),
        lines: rows.slice(0, MOST_ROWS_SHOWN).map((at) => columns.map((column) => cellText(column, at))),
      };
    });
  },

  /** All rows behind a row of a figure's numbers, as CSV. */
  rowsCsv(current: Report, figureId: string, row: number): Promise<Sent<string>> {
    return sent(async () => {
      const { table, rows } = await reckoned(current, figureId, row);
      const columns = table?.columns ?? [];
      return writeCsv([
        columns.map(({ name }) => name),
        ...rows.map((at) => columns.map((column) => cellText(column, at))),
      ]);
    });
  },

  /** Everything in the report that could mislead its reader. */
  check(current: Report): Promise<Sent<FindingShown[]>> {
    return sent(async () => {
      const findings = await findingsOf(current);
      return findings.map(({ repair, ...finding }) => ({ ...finding, repair: repair?.name ?? null }));
    });
  },

  /** What puts a finding right in the report as it is; null where nothing does, or it is not found any more. */
  repair(current: Report, { code, about, text }: FindingShown): Promise<Sent<Edit | null>> {
    return sent(async () => {
      const finding = (await findingsOf(current)).find(
        (one) => one.code === code && one.about.kind === about.kind && one.about.id === about.id && one.text === text,
      );
      if (!finding?.repair) return null;
      const { name, edit } = finding.repair;
      return { ...edit, saying: name.charAt(0).toLowerCase() + name.slice(1) };
    });
  },

  /** What an edit makes of the report; for those that have to know names. */
  edited(current: Report, edit: Edit): Promise<Sent<Edited>> {
    return sent(() => {
      const { tables } = workspaceOf(current);
      const columns = new Map([...tables].map(([id, table]) => [id, table.columns.map(({ name }) => name)]));
      return edited(current, edit, { vocabulary: wholeVocabulary(current), columns });
    });
  },

  /** A page for a width, under what its reader has chosen. */
  page(current: Report, pageId: string, width: number, choice: ReaderChoice): Promise<Sent<PageShown>> {
    return sent(() => pageShown(workspaceOf(current), current, pageId, width, choice));
  },

  /** A page as one HTML file that works alone. */
  pageHtml(
    current: Report,
    pageId: string,
    width: number,
    choice: ReaderChoice,
    fonts: Readonly<Record<number, string>>,
    program: string,
  ): Promise<Sent<string>> {
    return sent(() => pageHtml(workspaceOf(current), current, pageId, width, choice, fonts, program));
  },
  /** The page as a PDF of one sheet of its own size, or on paper. */
  pagePdf(
    current: Report,
    pageId: string,
    width: number,
    choice: ReaderChoice,
    fonts: FontFiles,
    paper: Paper | null,
  ): Promise<Sent<Uint8Array<ArrayBuffer>>> {
    return sent(async () => {
      const [{ writePdf }, page] = await Promise.all([
        import('@bold-ruler/core/print'),
        pageDrawn(workspaceOf(current), current, pageId, width, choice),
      ]);
      return (await writePdf(page, { fonts, ...(paper ? { paper } : {}) })).bytes as Uint8Array<ArrayBuffer>;
    });
  },

  /** The page as slides; `raster` makes a PNG of a scene whose letters are outlines. */
  pageSlides(
    current: Report,
    pageId: string,
    width: number,
    choice: ReaderChoice,
    fonts: FontFiles,
    raster: (scene: Scene) => Promise<Uint8Array>,
  ): Promise<Sent<Uint8Array<ArrayBuffer>>> {
    return sent(async () => {
      const [{ pagePptx }, { outlined }, page] = await Promise.all([
        import('@bold-ruler/core/office'),
        import('@bold-ruler/core/print'),
        pageDrawn(workspaceOf(current), current, pageId, width, choice),
      ]);
      const bytes = await pagePptx(page, async (scene) => {
        const shown = outlined({ ...scene, marks: scene.marks.filter(({ role }) => role !== 'cell') }, fonts);
        return { svg: writeSvg(shown), png: await raster(shown) };
      });
      return bytes as Uint8Array<ArrayBuffer>;
    });
  },

  /** The numbers of a page's figures as a workbook. */
  pageWorkbook(
    current: Report,
    pageId: string,
    width: number,
    choice: ReaderChoice,
  ): Promise<Sent<Uint8Array<ArrayBuffer>>> {
    return sent(async () => {
      const [{ pageXlsx }, page] = await Promise.all([
        import('@bold-ruler/core/office'),
        pageDrawn(workspaceOf(current), current, pageId, width, choice),
      ]);
      return pageXlsx(page) as Uint8Array<ArrayBuffer>;
    });
  },

  /** A page as one SVG. */
  pageSvg(current: Report, pageId: string, width: number, choice: ReaderChoice): Promise<Sent<string>> {
    return sent(async () => writePage(await pageDrawn(workspaceOf(current), current, pageId, width, choice)));
  },

  /** What the figures of a page say, to be taken as text. */
  suggestions(current: Report, pageId: string): Promise<Sent<SuggestionShown[]>> {
    return sent(() => pageSuggestions(workspaceOf(current), current, pageId));
  },

  /** What a reader of the page can choose from. */
  reader(current: Report, pageId: string): Promise<Sent<ReaderOffers>> {
    return sent(() => {
      const { tables, vocabulary } = workspaceOf(current);
      return readerOffers(current, pageNamed(current, pageId), tables, vocabulary);
    });
  },

  svg(current: Report, figureId: string): Promise<Sent<string>> {
    return sent(async () => {
      const desk = workspaceOf(current);
      return writeSvg((await drawFigure(desk.source, current, figureNamed(current, figureId), desk.vocabulary)).scene);
    });
  },

  scene(current: Report, figureId: string): Promise<Sent<string>> {
    return sent(async () => {
      const desk = workspaceOf(current);
      const { scene } = await drawFigure(desk.source, current, figureNamed(current, figureId), desk.vocabulary);
      return `${JSON.stringify(scene, null, 2)}\n`;
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
  ): Promise<{ completions: Completion[]; problems: SentProblem[] }> {
    const { vocabulary } = workspaceOf(current);
    const completions = completeBrief(text, cursor, vocabulary);
    return { completions, problems: mistakesIn(text, vocabulary).map(sentProblem) };
  },

  /** The forms a brief can be drawn in, with what each changes of it. */
  forms(current: Report, text: string): Promise<Sent<FormOffer[]>> {
    return sent(() => {
      const { source, vocabulary } = workspaceOf(current);
      return formsFor(source, current, readBrief(text, vocabulary), vocabulary);
    });
  },

  /** What would let a figure be drawn that cannot be as it is: other briefs, or texts for its mistakes. */
  repairs(current: Report, figureId: string): Promise<Sent<RepairShown[]>> {
    return sent(async () => {
      const { source, vocabulary } = workspaceOf(current);
      const figure = figureNamed(current, figureId);
      const [mistake] = mistakesIn(figure.brief, vocabulary);
      if (mistake)
        return mistake.fixes.map(({ text, from, to }) => ({
          name: `write ${text}`,
          text: figure.brief.slice(0, from) + text + figure.brief.slice(to),
        }));
      const found = await repairsFor(source, current, figure, readBrief(figure.brief, vocabulary), vocabulary);
      return found.map(({ change, text }) => ({ name: asAsked(change), text }));
    });
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
      first: firstBriefOver(current, tables),
    };
  },

  async members(current: Report, field: string): Promise<readonly string[]> {
    return workspaceOf(current).vocabulary.members(field) ?? [];
  },

  /** What was left out of a table, and what stands beside it in the first number its measures read. */
  leftOut(current: Report, tableId: string): Promise<Sent<{ of: string | null; amounts: LeftOutAmount[] }>> {
    return sent(() => {
      const table = workspaceOf(current).tables.get(tableId)!;
      const read = current.measures.filter((measure) => measure.table === tableId).map(({ expression }) => expression);
      const numbers = table.columns.filter(({ kind }) => kind === 'number').map(({ name }) => name);
      const of = numbers.find((name) => read.some((text) => text.includes(name))) ?? numbers[0] ?? null;
      return { of, amounts: leftOutAmounts(table, of) };
    });
  },

  profile(current: Report, tableId: string): Promise<Sent<FieldsProfile>> {
    return sent(() => {
      const table = workspaceOf(current).tables.get(tableId)!;
      return profileTable(table, current.tables.find(({ id }) => id === tableId)?.source.file ?? tableId);
    });
  },

  /** Chooses and orders the rows of a table for the grid; gives how many there are, and the columns. */
  look(current: Report, tableId: string, arrangement: Arrangement): Promise<Sent<LookedAt>> {
    return sent(() => {
      const table = workspaceOf(current).tables.get(tableId)!;
      if (looked?.table !== table) looked = new Looked(table, current.calendar);
      return { rows: looked.arrange(arrangement), columns: table.columns.map(({ name, kind }) => ({ name, kind })) };
    });
  },

  /** Some of the rows that are looked at. */
  rows(current: Report, tableId: string, from: number, count: number): Promise<Sent<GridRow[]>> {
    return sent(async () => {
      const at = looked!;
      const file = at.table.marks && (await sourceOf(current, tableId));
      return at.rows(from, count, file && fileFrom(file, tableId));
    });
  },

  async placeOf(line: number): Promise<number> {
    return looked?.placeOf(line) ?? -1;
  },

  /** How rows are distributed over a column, and what its members are in order. */
  column(current: Report, tableId: string, name: string): Promise<Sent<ColumnLook>> {
    return sent(() => {
      const table = workspaceOf(current).tables.get(tableId)!;
      const column = columnOf(table, name)!;
      const names = column.kind === 'text' ? column.members.slice(1) : [];
      const members = names.length > MOST_ORDERED ? null : inOrder(names, declaredOrder(table, name), current.calendar);
      return { distribution: distribution(column), members };
    });
  },

  /** Rows of each month, for the calendar. */
  months(current: Report, tableId: string): Promise<Sent<readonly { month: number; rows: number }[]>> {
    return sent(() => rowsPerMonth(workspaceOf(current).tables.get(tableId)!));
  },

  /** What an expression gives for a table's rows: its kind, the first values, and how many are blank. */
  preview(current: Report, tableId: string, name: string, expression: string): Promise<Sent<DerivedLook>> {
    return sent(() => {
      const entry = current.tables.find(({ id }) => id === tableId)!;
      const others = (entry.derived ?? []).filter((derived) => derived.name !== name);
      const table = withDerived(read.get(tableId)!, [...others, { name, expression }]);
      const column = columnOf(table, name)!;
      const rows = Array.from({ length: Math.min(8, table.rows) }, (_, row) => row);
      const used = table.columns.filter((other) => other !== column && expression.includes(other.name)).slice(0, 3);
      return {
        kind: column.kind,
        blank: column.blank,
        rows: table.rows,
        headings: [...used.map((other) => other.name), name],
        lines: rows.map((row) => [...used, column].map((of) => cellText(of, row))),
      };
    });
  },

  /** What a measure or a benchmark is now: over everything, and by the members of a field. */
  value(current: Report, asked: AskedValue): Promise<Sent<NumberLook>> {
    return sent(async () => {
      const { tables } = workspaceOf(current);
      const desk = workspaceFor(current, listed(current));
      const brief: Brief = {
        ...EVERYTHING,
        views: [{ kind: 'plain', measure: asked.measure }],
        by: asked.field === null ? [] : [asked.field],
        against: asked.against,
        period: asked.against === null ? EVERYTHING.period : { kind: 'to date', grain: 'year' },
      };
      const dated = tables.get(current.measures.find(({ name }) => name === asked.measure)?.table ?? '')?.date;
      const placed = dated ? brief : { ...brief, period: EVERYTHING.period };
      const cells = await answerBrief(desk.source, current, placed, desk.vocabulary);
      const writing = writingOf(cells);
      const of = asked.against === null ? cells.actual : cells.benchmarks!;
      const whole = asked.against === null ? cells.total.actual : cells.total.benchmark;
      return {
        whole: writeNumber(whole, writing),
        exact: writeNumber(whole, exactWriting(cells)),
        period: dated && asked.against !== null ? sayPeriod(placed.period, cells.period, current.calendar) : null,
        rows:
          asked.field === null
            ? []
            : Array.from({ length: Math.min(cells.count, MOST_SHOWN) }, (_, i) => ({
                name: cells.members[0]![i] || 'blank',
                text: writeNumber(of[i]!, writing),
              })),
        more: asked.field === null ? 0 : Math.max(0, cells.count - MOST_SHOWN),
        notes: cells.checks.map(({ text }) => text),
      };
    });
  },

  /** Columns a measure's table has, and what can stand at the cursor of its expression. */
  async completeExpression(
    current: Report,
    tableId: string,
    text: string,
    cursor: number,
  ): Promise<ExpressionCompletion[]> {
    const table = workspaceOf(current).tables.get(tableId);
    return table ? completeExpression(text, cursor, columnTypes(table)) : [];
  },

  async usage(current: Report, kind: Named, name: string): Promise<Usage> {
    return usageOf(current, wholeVocabulary(current), kind, name);
  },

  /** Fields a table can be broken down by, and its date column. */
  async fieldsOf(current: Report, tableId: string): Promise<readonly string[]> {
    const columns = workspaceOf(current).tables.get(tableId)?.columns ?? [];
    return columns.filter(({ kind }) => kind === 'text' || kind === 'yesno').map(({ name }) => name);
  },

  /** How a table of targets fits the table that is measured. */
  match(current: Report, of: string, targets: string, match: Readonly<Record<string, string>>): Promise<Sent<Match>> {
    return sent(() => {
      const { tables } = workspaceOf(current);
      return matchTables(tables.get(of)!, tables.get(targets)!, match);
    });
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
// A sign of life, between two questions.
self.addEventListener('message', ({ data }: MessageEvent<{ beat?: true } | null>) => {
  if (data?.beat) self.postMessage({ beat: true });
});
