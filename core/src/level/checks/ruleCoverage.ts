import { coverageOf, mended } from '../../highlight';
import type { Highlight } from '../../report';
import type { LevelCheck, Repair, Said } from '../level';

const ON_NUMBERS = new Set(['value', 'gap', 'gap percent', 'rank', 'rank change', 'share', 'expression']);

function check(
  code: string,
  why: string,
  severity: Said['severity'],
  say: (highlight: Highlight) => readonly string[],
): LevelCheck {
  return {
    code,
    why,
    run: ({ report }) =>
      report.highlights
        .filter(({ on }) => ON_NUMBERS.has(on))
        .flatMap((highlight) =>
          say(highlight).map((text) => ({
            severity,
            about: { kind: 'highlight', id: highlight.name },
            text,
            repair: closing(highlight),
          })),
        ),
  };
}

/** Closes gaps and takes overlaps away. */
function closing(highlight: Highlight): Repair {
  return {
    name: 'Let each rule reach up to the next',
    edit: { edit: 'change-highlight', highlight: mended(highlight) },
  };
}

const stretch = (from: number, to: number) =>
  from === -Infinity ? `below ${to}` : to === Infinity ? `from ${from}` : `from ${from} to ${to}`;

export const ruleGaps = check(
  'rule-gap',
  'a value between two rules is painted as if it were none of them',
  'warning',
  (highlight) =>
    coverageOf(highlight)
      .gaps.filter(({ from, to }) => from !== -Infinity && to !== Infinity)
      .map(({ from, to }) => `no rule of “${highlight.name}” paints values ${stretch(from, to)}`),
);

export const ruleOverlaps = check(
  'rule-overlap',
  'the rule that stands first wins, whatever the other says',
  'note',
  (highlight) =>
    coverageOf(highlight).overlaps.map(
      ({ from, to, rules: [first, second] }) =>
        `rules “${first}” and “${second}” of “${highlight.name}” both claim values ${stretch(from, to)}`,
    ),
);

export const rulesUnreached: LevelCheck = {
  code: 'rule-unreached',
  why: 'what a legend could promise never happens',
  run: ({ report }) =>
    report.highlights.flatMap((highlight) =>
      coverageOf(highlight).unreached.map((id) => ({
        severity: 'warning',
        about: { kind: 'highlight', id: highlight.name },
        text: `rule “${id}” of “${highlight.name}” is never reached: the rules before it leave it nothing`,
        repair: {
          name: 'Take the rule out',
          edit: {
            edit: 'change-highlight',
            highlight: { ...highlight, rules: highlight.rules.filter((rule) => rule.id !== id) },
          },
        },
      })),
    ),
};
