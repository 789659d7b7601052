import type { Standing } from '../query';
import type { Highlight, HighlightRule, Report } from '../report';
import { STANDING_HIGHLIGHT } from '../report';
import { AHEAD, BEHIND, INK, LEVEL } from './palette';

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

/** How a value is encoded, and by which rule: the first that is on and fits. */
export interface Encoding {
  readonly ink: string;
  readonly badge: 'up' | 'level' | 'down' | null;
  readonly rule: string | null;
}

export function encode(highlight: Highlight, standing: Standing | null): Encoding {
  const rule =
    standing &&
    highlight.rules.find((candidate: HighlightRule) => candidate.on && candidate.when.standing === standing);
  return rule
    ? { ink: rule.encode.ink ?? INK, badge: rule.encode.badge ?? null, rule: rule.id }
    : { ink: INK, badge: null, rule: null };
}
