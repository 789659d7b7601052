import type { Brief } from '../brief';
import type { Grain } from '../calendar';

/** A brief made into another. */
export type Change = (brief: Brief) => Brief;

/** What is known of the measure where a brief is to be made to fit a form. */
export interface FittingHints {
  /** Steps in time it can be shown in, the likeliest first; none where the brief has some. */
  readonly steps: readonly Change[];
  /** Gives the brief members where it has none. */
  readonly members: Change;
}

export const all =
  (...changes: readonly Change[]): Change =>
  (brief) =>
    changes.reduce((now, change) => change(now), brief);
export const each =
  (grain: Grain | null): Change =>
  (brief) => ({ ...brief, grain });
export const viewed =
  (kind: 'plain' | 'cumulative' | 'rank'): Change =>
  (brief) => {
    const [{ measure }] = brief.views as [Brief['views'][number]];
    return { ...brief, views: [{ kind, measure }, ...brief.views.slice(1)] };
  };
export const plainly: Change = (brief) => ({
  ...brief,
  views: brief.views.map(({ measure }) => ({ kind: 'plain', measure })),
});
export const alone: Change = (brief) => ({ ...brief, views: brief.views.slice(0, 1) });
export const againstNothing: Change = (brief) => ({ ...brief, against: null });
export const by =
  (fields: readonly string[]): Change =>
  (brief) => ({ ...brief, by: fields });
export const everyone: Change = (brief) => ({ ...brief, keep: null });
export const noRest: Change = (brief) => (brief.keep ? { ...brief, keep: { ...brief.keep, rest: false } } : brief);
export const allRows: Change = (brief) => ({ ...brief, only: [] });
export const allTime: Change = (brief) => ({ ...brief, period: { kind: 'all time' } });
export const toDate: Change = (brief) => ({ ...brief, period: { kind: 'to date', grain: 'year' } });

export const asItIs: Change = (brief) => brief;
