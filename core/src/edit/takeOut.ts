import { original } from 'mutative';
import { briefOrNull, writeBrief } from '../brief';
import { withNames } from '../form';
import type { Named, Report } from '../report';
import type { NameOf } from '../shape';
import { isViewOf } from './columnIds';
import type { Names, ReportDraft } from './edit';
import { uses } from './usage';

/** Names that go. */
export type Gone = { readonly [K in Named as `${K}s`]?: readonly string[] };

/**
 * Takes names out of a report. Figures of a measure that is gone go with it, as do benchmarks that rest on one that is gone;
 * figures held against such a benchmark are held against nothing. Figures lit by a highlight or hung on a ruler that is gone
 * have their own again.
 */
export function takeOut(draft: ReportDraft, gone: Gone, { vocabulary }: Names): void {
  const report = original(draft) as Report;
  const measures = new Set(gone.measures);
  const benchmarks = restingOn(report, gone.benchmarks ?? []);
  const highlights = new Set(gone.highlights);
  const rulers = new Set(gone.rulers);
  const keep = <T>(list: T[], isGone: (one: T) => boolean) =>
    list.some(isGone) ? list.filter((one) => !isGone(one)) : list;

  draft.measures = keep(draft.measures, ({ name }) => measures.has(name));
  draft.benchmarks = keep(draft.benchmarks, ({ name }) => benchmarks.has(name));
  draft.highlights = keep(draft.highlights, ({ name }) => highlights.has(name));
  draft.rulers = keep(draft.rulers, ({ id }) => rulers.has(id));

  const isGone = (name: string, of: NameOf) => {
    if (of === 'measure') return measures.has(name);
    if (of === 'benchmark') return benchmarks.has(name);
    return of === 'column' && (benchmarks.has(name) || [...measures].some((measure) => isViewOf(name, measure)));
  };
  const left: ReportDraft['figures'] = [];
  for (const figure of draft.figures) {
    const brief = briefOrNull(figure.brief, vocabulary);
    if (brief && [...measures].some((name) => uses(brief, 'measure', name))) continue;
    left.push(figure);
    const look = withNames(figure.look, (name, of) => (isGone(name, of) ? null : name));
    if (look !== figure.look) figure.look = look;
    if (!brief) continue;
    const against = brief.against !== null && benchmarks.has(brief.against) ? null : brief.against;
    const lit = brief.lit !== null && highlights.has(brief.lit) ? null : brief.lit;
    const ruler = brief.ruler !== null && rulers.has(brief.ruler) ? null : brief.ruler;
    if (against === brief.against && lit === brief.lit && ruler === brief.ruler) continue;
    figure.brief = writeBrief({ ...brief, against, lit, ruler }, vocabulary);
  }
  if (left.length < draft.figures.length) draft.figures = left;
}

/** Benchmarks with all that are a part of them, or of one that is. */
function restingOn(report: Report, names: readonly string[]): ReadonlySet<string> {
  const gone = new Set(names);
  for (let before = -1; before !== gone.size;) {
    before = gone.size;
    for (const one of report.benchmarks) if (one.kind === 'scaled' && gone.has(one.of)) gone.add(one.name);
  }
  return gone;
}
