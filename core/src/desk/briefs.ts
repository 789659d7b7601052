import {
  completeBrief,
  mistakesIn,
  partsOfBrief,
  readBrief,
  writeBrief,
  type Brief,
  type BriefParts,
  type Completion,
} from '../brief';
import { fiscalYear } from '../calendar';
import { declarationOf, forms } from '../form';
import { sentProblem, type SentProblem } from '../problem';
import { firstBrief } from '../report';
import type { OpenReport } from '../workspace';

/** A brief as the interface shows it. */
export interface ReadableBrief {
  readonly brief: Brief;
  readonly text: string;
  readonly parts: BriefParts;
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

export function readable(brief: Brief, { vocabulary }: OpenReport): ReadableBrief {
  return { brief, text: writeBrief(brief, vocabulary), parts: partsOfBrief(brief) };
}

/** Questions about briefs and the names they may use. */
export const briefs = {
  read(desk: OpenReport, text: string): ReadableBrief {
    return readable(readBrief(text, desk.vocabulary), desk);
  },

  write(desk: OpenReport, brief: Brief): ReadableBrief {
    // Reading it back refuses what cannot be written, before it reaches the report.
    return readable(readBrief(writeBrief(brief, desk.vocabulary), desk.vocabulary), desk);
  },

  /** What can stand at the cursor, and what is wrong with the text so far. */
  async complete(
    desk: OpenReport,
    text: string,
    cursor: number,
  ): Promise<{ completions: Completion[]; problems: SentProblem[] }> {
    const { vocabulary } = desk;
    const completions = completeBrief(text, cursor, vocabulary);
    return { completions, problems: mistakesIn(text, vocabulary).map(sentProblem) };
  },

  async offered(desk: OpenReport): Promise<Offered> {
    const { vocabulary, source } = desk;
    const years = new Set<number>();
    for (const { table } of desk.report.measures) {
      const span = source.facts(table)?.span;
      if (span)
        for (
          let year = fiscalYear(span.from, desk.report.calendar);
          year <= fiscalYear(span.to, desk.report.calendar);
          year++
        )
          years.add(year);
    }
    return {
      measures: vocabulary.measures,
      fields: vocabulary.fields,
      benchmarks: vocabulary.benchmarks,
      forms: forms().map((form) => ({ form, purpose: declarationOf(form).purpose })),
      rulers: vocabulary.rulers,
      highlights: vocabulary.highlights,
      fiscalYears: [...years].sort((a, b) => b - a).slice(0, 8),
      first: firstBrief(desk.report, source.facts, (id) => desk.tables.get(id)),
    };
  },

  async members(desk: OpenReport, field: string): Promise<readonly string[]> {
    return desk.vocabulary.members(field) ?? [];
  },
};
