import { isProblem } from '../problem';
import { readBrief, writeBrief, type Brief, type Vocabulary } from '../brief';
import type { Benchmark, FigureEntry, Look, Report } from './report';

/** What a name stands for. */
export type Named = 'measure' | 'benchmark' | 'highlight' | 'ruler';

/** Where a measure, a benchmark, a highlight or a ruler is used. */
export interface Usage {
  /** Ids of figures whose brief names it. */
  readonly figures: readonly string[];
  /** Ids of further figures whose look names it. */
  readonly looks: readonly string[];
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

/** A look may name measures and benchmarks, too. */
function lookUses({ quantity, references, stops }: Look, kind: Named, name: string): boolean {
  if (kind === 'measure') return quantity === name;
  return kind === 'benchmark' && (references?.includes(name) === true || stops?.low === name || stops?.high === name);
}

/** The look with another name for what it names; with null, without it. */
function relooked(look: Look, kind: Named, from: string, to: string | null): Look {
  if (!lookUses(look, kind, from)) return look;
  const { quantity, references, stops, ...rest } = look;
  const named = (name: number | string | undefined) => (name === from ? (to ?? undefined) : name);
  const kept = references?.flatMap((name) => named(name) ?? []) as string[] | undefined;
  const held = {
    quantity: kind === 'measure' ? named(quantity) : quantity,
    low: named(stops?.low),
    high: named(stops?.high),
  };
  return {
    ...rest,
    ...(held.quantity === undefined ? {} : { quantity: held.quantity as string }),
    ...(kept && kept.length > 0 ? { references: kept } : {}),
    ...(held.low === undefined && held.high === undefined
      ? {}
      : {
          stops: {
            ...(held.low === undefined ? {} : { low: held.low }),
            ...(held.high === undefined ? {} : { high: held.high }),
          },
        }),
  };
}

export function usageOf(report: Report, vocabulary: Vocabulary, kind: Named, name: string): Usage {
  const figures = report.figures.filter((figure) => uses(briefOf(figure, vocabulary), kind, name)).map(({ id }) => id);
  return {
    figures,
    looks: report.figures
      .filter(({ id, look }) => lookUses(look, kind, name) && !figures.includes(id))
      .map(({ id }) => id),
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
    const look = relooked(figure.look, kind, from, to);
    if (!brief || !uses(brief, kind, from)) return look === figure.look ? figure : { ...figure, look };
    const changed: Record<Named, Brief> = {
      measure: {
        ...brief,
        views: brief.views.map((view) => (view.measure === from ? { ...view, measure: to } : view)),
      },
      benchmark: { ...brief, against: to },
      highlight: { ...brief, lit: to },
      ruler: { ...brief, ruler: to },
    };
    return { ...figure, look, brief: writeBrief(changed[kind], after) };
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
      figures: report.figures
        .filter(({ id }) => !gone.has(id))
        .map((figure) => ({ ...figure, look: relooked(figure.look, kind, name, null) })),
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
    const look = [...gone].reduce((left, one) => relooked(left, kind, one, null), figure.look);
    if (!brief?.against || !gone.has(brief.against)) return { ...figure, look };
    return { ...figure, look, brief: writeBrief({ ...brief, against: null }, vocabulary) };
  });
  return { ...report, benchmarks: report.benchmarks.filter((one) => !gone.has(one.name)), figures };
}
