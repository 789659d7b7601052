import { briefOrNull, type Brief, type Vocabulary } from '../brief';
import { namesIn } from '../form';
import type { Look, Named, Report } from '../report';

/** Where a measure, a benchmark, a highlight or a ruler is used. */
export interface Usage {
  /** Ids of figures whose brief names it. */
  readonly figures: readonly string[];
  /** Ids of further figures whose look names it. */
  readonly looks: readonly string[];
  /** Names of benchmarks that rest on it. */
  readonly benchmarks: readonly string[];
}

/** @returns where a name is used; a figure whose brief cannot be read uses nothing by it */
export function usageOf(report: Report, vocabulary: Vocabulary, kind: Named, name: string): Usage {
  const figures = report.figures
    .filter(({ brief }) => uses(briefOrNull(brief, vocabulary), kind, name))
    .map(({ id }) => id);
  return {
    figures,
    looks: report.figures
      .filter(({ id, look }) => lookUses(look, kind, name) && !figures.includes(id))
      .map(({ id }) => id),
    benchmarks:
      kind === 'benchmark'
        ? report.benchmarks.filter((one) => one.kind === 'scaled' && one.of === name).map((one) => one.name)
        : [],
  };
}

/** Names in a brief that was read are exact. */
export function uses(brief: Brief | null, kind: Named, name: string): boolean {
  if (!brief) return false;
  switch (kind) {
    case 'measure':
      return brief.views.some(({ measure }) => measure === name);
    case 'benchmark':
      return brief.against === name;
    case 'highlight':
      return brief.lit === name;
    case 'ruler':
      return brief.ruler === name;
  }
}

/** A look may name measures and benchmarks, too. */
function lookUses(look: Look, kind: Named, name: string): boolean {
  return namesIn(look).some((one) => one.of === kind && one.name === name);
}
