import { isProblem } from '../problem';
import { readBrief, writeBrief, type Brief, type Vocabulary } from '../brief';
import type { Benchmark, FigureEntry, Report } from './report';

/** What a name stands for. */
export type Named = 'measure' | 'benchmark' | 'highlight' | 'ruler';

/** Where a measure, a benchmark, a highlight or a ruler is used. */
export interface Usage {
  /** Ids of figures. */
  readonly figures: readonly string[];
  /** Names of benchmarks that rest on it. */
  readonly benchmarks: readonly string[];
}

/** A brief that cannot be read uses nothing. */
function briefOf({ brief }: FigureEntry, vocabulary: Vocabulary): Brief | null {
  try {
    return readBrief(brief, vocabulary);
  } catch (error) {
    if (isProblem(error)) return null;
    throw error;
  }
}

const same = (a: string | null, b: string) => a?.toLowerCase() === b.toLowerCase();

function uses(brief: Brief | null, kind: Named, name: string): boolean {
  if (!brief) return false;
  switch (kind) {
    case 'measure':
      return brief.views.some(({ measure }) => same(measure, name));
    case 'benchmark':
      return same(brief.against, name);
    case 'highlight':
      return same(brief.lit, name);
    case 'ruler':
      return same(brief.ruler, name);
  }
}

export function usageOf(report: Report, vocabulary: Vocabulary, kind: Named, name: string): Usage {
  return {
    figures: report.figures.filter((figure) => uses(briefOf(figure, vocabulary), kind, name)).map(({ id }) => id),
    benchmarks:
      kind === 'benchmark'
        ? report.benchmarks.filter((one) => one.kind === 'scaled' && same(one.of, name)).map((one) => one.name)
        : [],
  };
}

/**
 * The report with another name for a measure, a benchmark, a highlight or a ruler, in everything that uses it.
 * @param vocabulary the report's names as they are; `vocabularyOf` gives them.
 */
export function renamed(report: Report, vocabulary: Vocabulary, kind: Named, from: string, to: string): Report {
  const replace = (names: readonly string[]) => names.map((name) => (name === from ? to : name));
  const after: Vocabulary = {
    ...vocabulary,
    measures: kind === 'measure' ? replace(vocabulary.measures) : vocabulary.measures,
    benchmarks: kind === 'benchmark' ? replace(vocabulary.benchmarks) : vocabulary.benchmarks,
    highlights: kind === 'highlight' ? replace(vocabulary.highlights) : vocabulary.highlights,
    rulers: kind === 'ruler' ? replace(vocabulary.rulers) : vocabulary.rulers,
  };
  const figures = report.figures.map((figure) => {
    const brief = briefOf(figure, vocabulary);
    const { look } = figure;
    const relooked = kind === 'measure' && look.quantity === from ? { ...look, quantity: to } : look;
    if (!brief || !uses(brief, kind, from)) return relooked === look ? figure : { ...figure, look: relooked };
    const changed: Record<Named, Brief> = {
      measure: {
        ...brief,
        views: brief.views.map((view) => (view.measure === from ? { ...view, measure: to } : view)),
      },
      benchmark: { ...brief, against: to },
      highlight: { ...brief, lit: to },
      ruler: { ...brief, ruler: to },
    };
    return { ...figure, look: relooked, brief: writeBrief(changed[kind], after) };
  });
  if (kind === 'measure')
    return {
      ...report,
      figures,
      measures: report.measures.map((one) => (one.name === from ? { ...one, name: to } : one)),
    };
  if (kind === 'highlight')
    return {
      ...report,
      figures,
      highlights: report.highlights.map((one) => (one.name === from ? { ...one, name: to } : one)),
    };
  if (kind === 'ruler')
    return { ...report, figures, rulers: report.rulers.map((one) => (one.id === from ? { ...one, id: to } : one)) };
  const benchmarks = report.benchmarks.map((one): Benchmark => {
    const named = one.name === from ? { ...one, name: to } : one;
    return named.kind === 'scaled' && named.of === from ? { ...named, of: to } : named;
  });
  return { ...report, figures, benchmarks };
}

function withoutQuantity(figure: FigureEntry, name: string): FigureEntry {
  const { quantity, ...look } = figure.look;
  return quantity === name ? { ...figure, look } : figure;
}

/**
 * The report without a measure or a benchmark. Figures of a measure that is gone go with it, as do benchmarks that rest on
 * one that is gone; figures held against such a benchmark are held against nothing. Figures lit by a highlight or hung on a
 * ruler that is gone have their own again.
 */
export function withoutNamed(report: Report, vocabulary: Vocabulary, kind: Named, name: string): Report {
  if (kind === 'measure') {
    const gone = new Set(usageOf(report, vocabulary, kind, name).figures);
    return {
      ...report,
      measures: report.measures.filter((one) => one.name !== name),
      figures: report.figures.filter(({ id }) => !gone.has(id)).map((figure) => withoutQuantity(figure, name)),
    };
  }
  if (kind === 'highlight' || kind === 'ruler') {
    const figures = report.figures.map((figure) => {
      const brief = briefOf(figure, vocabulary);
      if (!uses(brief, kind, name)) return figure;
      return {
        ...figure,
        brief: writeBrief({ ...brief!, [kind === 'highlight' ? 'lit' : 'ruler']: null }, vocabulary),
      };
    });
    return {
      ...report,
      figures,
      highlights: kind === 'highlight' ? report.highlights.filter((one) => one.name !== name) : report.highlights,
      rulers: kind === 'ruler' ? report.rulers.filter(({ id }) => id !== name) : report.rulers,
    };
  }
  const gone = new Set([name]);
  for (let before = -1; before !== gone.size;) {
    before = gone.size;
    for (const one of report.benchmarks) if (one.kind === 'scaled' && gone.has(one.of)) gone.add(one.name);
  }
  const figures = report.figures.map((figure) => {
    const brief = briefOf(figure, vocabulary);
    if (!brief?.against || !gone.has(brief.against)) return figure;
    return { ...figure, brief: writeBrief({ ...brief, against: null }, vocabulary) };
  });
  return { ...report, benchmarks: report.benchmarks.filter((one) => !gone.has(one.name)), figures };
}
