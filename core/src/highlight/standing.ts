import type { Highlight, Report } from '../report';
import { STANDING_HIGHLIGHT } from '../report';
import { AHEAD, BEHIND, LEVEL } from './palette';

/** The highlight a report has without saying so. */
const BUILT_IN: Highlight = {
  name: STANDING_HIGHLIGHT,
  on: 'standing',
  rules: [
    { id: 'ahead', when: { standing: 'ahead' }, encode: { ink: AHEAD, badge: 'up' }, on: true },
    { id: 'level', when: { standing: 'level' }, encode: { ink: LEVEL, badge: 'level' }, on: true },
    { id: 'behind', when: { standing: 'behind' }, encode: { ink: BEHIND, badge: 'down' }, on: true },
  ],
};

/** The highlight a brief is lit by: the one it names, the report's own `standing`, or the built-in one. */
export function highlightFor(report: Report, lit: string | null): Highlight {
  const name = lit ?? STANDING_HIGHLIGHT;
  return report.highlights.find((highlight) => highlight.name === name) ?? BUILT_IN;
}
