import type { View } from './brief';

const VIEW_WORDS = {
  plain: '',
  cumulative: 'cumulative ',
  share: 'share of ',
  rank: 'rank of ',
  change: 'change in ',
} as const;

/** A view in words: `share of net sales`. */
export function writeView(view: View, quote: (name: string) => string = (name) => name): string {
  const opening = view.kind === 'smoothed' ? `smoothed ${view.steps} ` : VIEW_WORDS[view.kind];
  return `${opening}${quote(view.measure)}`;
}
