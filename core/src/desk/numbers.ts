import type { Brief } from '../brief';
import { sayPeriod } from '../calendar';
import { exactWriting, writeNumber, writingOf } from '../format';
import { answerBrief } from '../query';
import type { OpenReport } from '../workspace';

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

/** Questions about measures and benchmarks by themselves. */
export const numbers = {
  /** What a measure or a benchmark is now: over everything, and by the members of a field. */
  async value(desk: OpenReport, asked: AskedValue): Promise<NumberLook> {
    const { source } = desk;
    const brief: Brief = {
      ...EVERYTHING,
      views: [{ kind: 'plain', measure: asked.measure }],
      by: asked.field === null ? [] : [asked.field],
      against: asked.against,
      period: asked.against === null ? EVERYTHING.period : { kind: 'to date', grain: 'year' },
    };
    const dated = source.facts(desk.report.measures.find(({ name }) => name === asked.measure)?.table ?? '')?.date;
    const placed = dated ? brief : { ...brief, period: EVERYTHING.period };
    const cells = await answerBrief(desk, placed);
    const writing = writingOf(cells);
    const of = asked.against === null ? cells.actual : cells.benchmarks!;
    const whole = asked.against === null ? cells.total.actual : cells.total.benchmark;
    return {
      whole: writeNumber(whole, writing),
      exact: writeNumber(whole, exactWriting(cells)),
      period: dated && asked.against !== null ? sayPeriod(placed.period, cells.period, desk.report.calendar) : null,
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
  },
};
