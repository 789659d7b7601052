import { formOf, readBrief, type Brief, type Vocabulary } from '../brief';
import { declarationOf, lookFor } from '../form';
import { highlightFor } from '../highlight';
import { Problem, didYouMean, isProblem } from '../problem';
import { answerBrief, stacked, type Cells, type Note, type Choices, type Workspace } from '../query';
import { figureOf, type FigureEntry, type Look, type Report, type RulerEntry } from '../report';
import { isFiniteScene, type Scene } from '../scene';
import { adriftOf, annotated, hasNotes } from './annotations/annotate';
import { asRanks } from './asRanks';
import type { FigureRequest, FormDefinition, Scale } from './form';
import { captionText } from './frame';
import type { LegendEntry } from './legend';
import { formDefinition } from './registry';
import { fittedTo } from './room';
import { writtenAs } from './writtenAs';

/** An entry of a legend, and whether it has room in its figure or stands around it. */
export interface LegendTold {
  readonly entry: LegendEntry;
  readonly isTold: boolean;
}

/** A figure with its numbers and its marks. */
export interface Drawn {
  readonly cells: Cells;
  /** The rows that are drawn: those of the cells, or one a measure. */
  readonly rows: Cells;
  readonly scene: Scene;
  /** Answers to what the form wanted to know beside its brief. */
  readonly further: readonly (Cells | null)[];
  /** What its legend says, whether it stands in the figure or not. */
  readonly legend: ReadonlyMap<string, LegendTold>;
  /** What the form was asked to draw. */
  readonly request: FigureRequest;
}

/** The numbers of what is drawn: a row a measure where measures are stacked, else the answer itself. */
export function numbersFor({ rows, cells }: Pick<Drawn, 'rows' | 'cells'>): Cells {
  return rows.stacked || cells.view.kind !== 'rank' ? rows : cells;
}

/** The figure of that id in a report. Throws a `Problem` that offers the closest ids. */
export function figureNamed(report: Report, id: string): FigureEntry {
  const figure = figureOf(report, id);
  if (!figure)
    throw new Problem(
      'unknown-figure',
      `there is no figure “${id}”`,
      { in: `report “${report.name}”` },
      didYouMean(
        id,
        report.figures.map((f) => f.id),
        'figure',
      ),
    );
  return figure;
}

/**
 * The numbers of a figure. A problem says in which figure it is.
 * @param most members a drawing has room for; all when left out.
 */
export async function answerFigure(workspace: Workspace, figure: FigureEntry, most?: number): Promise<Cells> {
  const { report, vocabulary } = workspace;
  try {
    const brief = readBrief(figure.brief, vocabulary);
    const choices = choicesOf(report, brief, lookFor(formOf(brief), figure.look));
    const cells = await answerBrief(workspace, brief, {
      ...choices,
      ...(most === undefined ? {} : { most }),
    });
    return writtenAs(cells, figure.look.format);
  } catch (error) {
    if (isProblem(error) && error.place?.in.startsWith('brief'))
      throw error.at({ in: `figure “${figure.id}”, ${error.place.in}` });
    throw error;
  }
}

/** What of a look and a highlight is part of the question. */
function choicesOf(report: Report, { lit }: Brief, look: Look): Choices {
  const { on, expression } = highlightFor(report, lit);
  return on === 'expression' && expression !== undefined ? { ...look, lit: expression } : look;
}

/** What a form draws of an answer. */
const rowsFor = (definition: FormDefinition, cells: Cells): Cells => (definition.ranks ? cells : asRanks(cells));

/** A row for each measure of a brief that has several and nothing to break them down by; null for other briefs. */
async function stackedRows(workspace: Workspace, cells: Cells, look: Look): Promise<Cells | null> {
  const { brief } = cells;
  if (brief.views.length < 2 || brief.by.length > 0 || brief.grain) return null;
  const { bands: _, ...choices } = look;
  const answers = await Promise.all(
    brief.views.slice(1).map(async (view) => {
      const of: Brief = { ...brief, views: [view], keep: null, sort: null };
      try {
        return await answerBrief(workspace, of, choices);
      } catch (error) {
        // What this measure cannot be held against is left away.
        if (!isProblem(error) || of.against === null) throw error;
        return answerBrief(workspace, { ...of, against: null }, choices);
      }
    }),
  );
  return stacked([cells, ...answers]);
}

/** Rows of different units can only be compared as parts of their benchmarks. */
function scaleOf(rows: Cells, look: Look, shared: RulerEntry | undefined): Scale {
  if (shared) return shared.kind === 'of benchmark' ? 'of benchmark' : 'value';
  if (look.scale) return look.scale;
  const units = new Set(
    (rows.stacked ?? []).map(({ measure: { format } }) => `${format.style} ${format.currency} ${format.unit}`),
  );
  return units.size > 1 && rows.benchmarks ? 'of benchmark' : 'value';
}

const MOST_MEMBERS = 400;
/** Rows of steps that can be drawn together. */
const MOST_STEPS = 40_000;

/** Members a figure can show: as many as its form has room for; over time fewer, as each has all its steps. */
function mostOf({ brief: text }: FigureEntry, vocabulary: Vocabulary): number {
  try {
    const brief = readBrief(text, vocabulary);
    const { most = MOST_MEMBERS } = declarationOf(formOf(brief));
    return brief.grain === null ? most : Math.min(most, MOST_STEPS / (brief.grain === 'day' ? 400 : 40));
  } catch (error) {
    // A brief that cannot be read is told where it is answered.
    if (isProblem(error)) return MOST_MEMBERS;
    throw error;
  }
}

/** Numbers and scene of a figure: the same in a browser worker, on the server and at the command line. */
export async function drawFigure(
  workspace: Workspace,
  figure: FigureEntry,
  shared?: FigureRequest['shared'],
): Promise<Drawn> {
  const { cells, definition, request, told } = await askFigure(workspace, figure, shared);
  const { cells: rows, look, further } = request;
  const shown = sceneFor(definition, request);
  told.push(...adriftOf(shown.scene, shownBy(definition, request), look));
  return {
    cells,
    rows: told.length === 0 ? rows : { ...rows, checks: [...rows.checks, ...told] },
    further,
    request,
    ...shown,
  };
}

/** Everything a figure asks of its rows, which its drawing then needs no more. */
export async function askFigure(workspace: Workspace, figure: FigureEntry, shared?: FigureRequest['shared']) {
  const { report, vocabulary } = workspace;
  const most = mostOf(figure, vocabulary);
  const cells = await answerFigure(workspace, figure, most);
  const definition = formDefinition(formOf(cells.brief));
  const look = lookFor(definition.form, figure.look);
  const rows = (definition.stacks && (await stackedRows(workspace, cells, look))) || rowsFor(definition, cells);
  const entry = report.rulers.find(({ id }) => id === cells.brief.ruler);
  const scale = scaleOf(rows, look, entry);
  const own: RulerEntry | null = look.domain ? { id: 'own', kind: 'linear', fit: 'fixed', domain: look.domain } : null;
  const ruler = entry
    ? { entry, values: await valuesOnRuler(workspace, figure, entry) }
    : own && { entry: own, values: [] };
  const highlight = highlightFor(report, cells.brief.lit);
  const told: Note[] = [];
  const further = await Promise.all(
    (definition.furtherBriefs?.(cells.brief, look, cells) ?? []).map((brief) =>
      answerBrief(workspace, brief, { most })
        .then((cells) => writtenAs(cells, look.format))
        .catch((error: unknown) => {
          // What cannot be asked for here is left away, and told; a benchmark that does not exist is a mistake.
          if (isProblem(error) && error.code !== 'unknown-benchmark') {
            told.push({
              code: 'left-away',
              severity: 'note',
              text: `a part of the figure is left away: ${error.sentence}`,
            });
            return null;
          }
          throw error;
        }),
    ),
  );
  const sources = sourcesOf(report, cells);
  const request: FigureRequest = {
    cells: rows,
    look,
    highlight,
    standing: highlightFor(report, null),
    ruler,
    scale,
    further,
    sources,
    ...(shared ? { shared } : {}),
  };
  return { cells, definition, request, told };
}

/** A figure in the height it is given: its texts yield to its plot. What a caption would have said is heard with its description. */
function sceneFor(definition: FormDefinition, request: FigureRequest): Pick<Drawn, 'scene' | 'legend'> {
  let legend = new Map<string, LegendTold>();
  const watch: FigureRequest['watch'] = (key, entry, isTold) => {
    if (key !== '') legend.set(key, { entry, isTold });
  };
  const fit = (noted: readonly LegendEntry[] = []) =>
    fittedTo(request.look.height, (one) => {
      legend = new Map();
      return definition.draw({ ...request, watch, noted, room: one });
    });
  const { scene, room } = hasNotes(request.look) ? withNotes(shownBy(definition, request), request.look, fit) : fit();
  if (!isFiniteScene(scene))
    throw new Problem(
      'too-large-to-draw',
      'its numbers are too large, or too far apart, to be drawn',
      { in: 'brief' },
      'leave out the rows that are out of all proportion, or draw it as a table',
    );
  const caption = room.caption ? '' : captionText(request);
  return { scene: caption === '' ? scene : { ...scene, description: `${scene.description} ${caption}` }, legend };
}

const shownBy = (definition: FormDefinition, request: FigureRequest): Cells =>
  definition.shows?.(request) ?? request.cells;

/** A figure with its notes: those that find no room are letters, which its legend tells where it can. */
function withNotes(
  cells: Cells,
  look: Look,
  fit: (noted?: readonly LegendEntry[]) => ReturnType<typeof fittedTo>,
): ReturnType<typeof fittedTo> {
  let fitted = fit();
  let noted = annotated(fitted.scene, cells, look, new Set());
  for (let known = 0; noted.lettered.size > known;) {
    known = noted.lettered.size;
    const told = fit(noted.entries);
    // On paper without room for more words letters are told by pointer and ear alone.
    const isHigher = look.height !== undefined && told.scene.height > Math.max(look.height, fitted.scene.height) + 0.5;
    fitted = isHigher ? fit() : told;
    noted = annotated(fitted.scene, cells, look, noted.lettered);
    if (isHigher) break;
  }
  return { ...fitted, scene: noted.scene };
}

/**
 * The same figure with another look, where only its size differs.
 * @param around its ruler's lane, and what of its legend stands around it; left out: as before
 */
export function redrawn(drawn: Drawn, look: Look, around: Pick<FigureRequest, 'lane' | 'shared'> = {}): Drawn {
  const definition = formDefinition(formOf(drawn.cells.brief));
  const request = { ...drawn.request, look: lookFor(definition.form, look), ...around };
  return { ...drawn, request, ...sceneFor(definition, request) };
}

/** What the other figures on a shared ruler must show. A figure that cannot be answered takes no part. */
async function valuesOnRuler(workspace: Workspace, figure: FigureEntry, ruler: RulerEntry): Promise<number[]> {
  const { report, vocabulary } = workspace;
  const values: number[] = [];
  for (const other of report.figures) {
    if (other.id === figure.id) continue;
    try {
      const brief = readBrief(other.brief, vocabulary);
      if (brief.ruler !== ruler.id) continue;
      const definition = formDefinition(formOf(brief));
      const look = lookFor(definition.form, other.look);
      const choices = { ...choicesOf(report, brief, look), most: mostOf(other, vocabulary) };
      const cells = await answerBrief(workspace, brief, choices);
      const rows = (definition.stacks && (await stackedRows(workspace, cells, look))) || rowsFor(definition, cells);
      for (const value of definition.rulerValues(rows, look, scaleOf(rows, look, ruler))) values.push(value);
    } catch (error) {
      if (!isProblem(error)) throw error;
    }
  }
  return values;
}

/** Files behind the measure and, where it has a table of its own, the benchmark. */
function sourcesOf(report: Report, { measure, benchmark }: Cells): string[] {
  const benchmarks = new Map(report.benchmarks.map((b) => [b.name, b]));
  let held = benchmark;
  while (held?.kind === 'scaled') held = benchmarks.get(held.of) ?? null;
  const tables = [measure.table, ...(held?.kind === 'table' ? [held.table] : [])];
  return tables.map((id) => report.tables.find((table) => table.id === id)?.source.file ?? id);
}
