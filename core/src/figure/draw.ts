import { formOf, readBrief, type Vocabulary } from '../brief';
import { highlightFor } from '../highlight';
import { Problem, didYouMean, isProblem } from '../problem';
import { answerBrief, type Cells, type Source } from '../query';
import { figureOf, type FigureEntry, type Report, type RulerEntry } from '../report';
import type { Scene } from '../scene';
import { DRAWN_FORMS, formDefinition } from './registry';

/** A figure with its numbers and its marks. */
export interface Drawn {
  readonly cells: Cells;
  readonly scene: Scene;
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

/** The numbers of a figure. A problem says in which figure it is. */
export async function answerFigure(
  source: Source,
  report: Report,
  figure: FigureEntry,
  vocabulary: Vocabulary,
): Promise<Cells> {
  try {
    return await answerBrief(source, report, readBrief(figure.brief, vocabulary), vocabulary, figure.look);
  } catch (error) {
    if (isProblem(error) && error.place?.in.startsWith('brief'))
      throw error.at({ in: `figure “${figure.id}”, ${error.place.in}` });
    throw error;
  }
}

/** Numbers and scene of a figure: the same in a browser worker, on the server and at the command line. */
export async function drawFigure(
  source: Source,
  report: Report,
  figure: FigureEntry,
  vocabulary: Vocabulary,
): Promise<Drawn> {
  const cells = await answerFigure(source, report, figure, vocabulary);
  const definition = formDefinition(formOf(cells.brief, DRAWN_FORMS));
  const entry = report.rulers.find(({ id }) => id === cells.brief.ruler);
  const { domain } = figure.look;
  const own: RulerEntry | null = domain ? { id: 'own', kind: 'linear', fit: 'fixed', domain } : null;
  const ruler = entry
    ? { entry, values: await valuesOnRuler(source, report, figure, entry.id, vocabulary) }
    : own && { entry: own, values: [] };
  const highlight = highlightFor(report, cells.brief.lit);
  const further = await Promise.all(
    (definition.furtherBriefs?.(cells.brief, figure.look, cells) ?? []).map((brief) =>
      answerBrief(source, report, brief, vocabulary).catch((error: unknown) => {
        // A benchmark that cannot be asked for here is left away; one that does not exist is told.
        if (isProblem(error) && error.code !== 'unknown-benchmark') return null;
        throw error;
      }),
    ),
  );
  return {
    cells,
    scene: definition.draw({ cells, look: figure.look, highlight, ruler, further, sources: sourcesOf(report, cells) }),
  };
}

/** What the other figures on a shared ruler must show. A figure that cannot be answered takes no part. */
async function valuesOnRuler(
  source: Source,
  report: Report,
  figure: FigureEntry,
  ruler: string,
  vocabulary: Vocabulary,
): Promise<number[]> {
  const values: number[] = [];
  for (const other of report.figures) {
    if (other.id === figure.id) continue;
    try {
      const brief = readBrief(other.brief, vocabulary);
      if (brief.ruler !== ruler) continue;
      const cells = await answerBrief(source, report, brief, vocabulary);
      values.push(...formDefinition(formOf(brief, DRAWN_FORMS)).rulerValues(cells, other.look));
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
