'use client';

import { create } from 'zustand';
import { coverageOf, edgeMoved, highlightFor, mended } from '@bold-ruler/core/highlight';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import type { Highlight, LitOn } from '@bold-ruler/core/report';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { CoverageStrip, type StripRuler } from './CoverageStrip';

/** The rule whose stretch was pressed: the drawer opens it. */
export const usePickedRule = create<{ readonly picked: string | null }>(() => ({ picked: null }));

/** Shares are typed as per cent. */
export const factor = (on: LitOn) => (on === 'gap percent' || on === 'share' ? 100 : 1);

interface Props {
  readonly drawn: DrawnFigure;
  /** A stretch was pressed: its rule is at hand in the drawer. */
  readonly onRule: () => void;
}

/** Under the paper, as wide as the figure: the numbers a highlight looks at, with what paints each stretch of them. */
export function HighlightStrip({ drawn, onRule }: Props) {
  const report = useReport((state) => state.report)!;
  const highlight = highlightFor(report, drawn.readable.brief.lit);
  const isOwn = report.highlights.some(({ name }) => name === highlight.name);
  if (!isOwn || highlight.on === 'standing' || highlight.on === 'member') return null;
  const change = (saying: string, next: Highlight) => void edit({ edit: 'change-highlight', saying, highlight: next });
  return (
    <Coverage
      highlight={highlight}
      drawn={drawn}
      onMend={() => change('close gaps', mended(highlight))}
      onEdge={(from, to) => change('move an edge', edgeMoved(highlight, from, to))}
      onRule={(picked) => {
        usePickedRule.setState({ picked });
        onRule();
      }}
    />
  );
}

interface CoverageProps {
  readonly highlight: Highlight;
  readonly drawn: DrawnFigure;
  readonly onMend: () => void;
  readonly onEdge: (from: number, to: number) => void;
  readonly onRule: (id: string) => void;
}

/** Values lie on the strip as on the figure's own ruler; of other numbers the strip has a ruler of its own over the same length. */
function rulerOf({ on }: Highlight, { scene }: DrawnFigure): StripRuler {
  const [ruler, ...others] = scene.rulers;
  const along = ruler && others.length === 0 && ruler.axis === 'x' ? ruler : null;
  return {
    width: scene.width,
    range: along ? along.range : [20, scene.width - 20],
    domain: along && on === 'value' && along.kind === 'linear' ? along.domain : null,
  };
}

function Coverage({ highlight, drawn, onMend, onEdge, onRule }: CoverageProps) {
  const coverage = coverageOf(highlight);
  const inner = coverage.gaps.filter(({ from, to }) => from !== -Infinity && to !== Infinity);
  const faults = [
    ...inner.map(({ from, to }) => `${shown(from, highlight.on)} to ${shown(to, highlight.on)} is painted by no rule`),
    ...coverage.overlaps.map(
      ({ from, to, rules }) =>
        `from ${shown(from, highlight.on)} to ${shown(to, highlight.on)} “${rules[0]}” comes before “${rules[1]}”`,
    ),
    ...coverage.unreached.map((id) => `“${id}” is never reached`),
  ];
  return (
    <section aria-label="Rules of the highlight" className="mb-1">
      <CoverageStrip
        highlight={highlight}
        coverage={coverage}
        values={drawn.lit}
        ruler={rulerOf(highlight, drawn)}
        onRule={onRule}
        write={(value) => shown(value, highlight.on)}
        onEdge={onEdge}
      />
      {faults.length > 0 && (
        <div role="status" className="mt-1 border-l-4 border-behind pl-2 text-xs">
          {faults.map((fault) => (
            <p key={fault}>{fault}</p>
          ))}
          {(inner.length > 0 || coverage.overlaps.length > 0) && (
            <Button small className="mt-1" onClick={onMend}>
              Close gaps and overlaps
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

function shown(value: number, on: LitOn): string {
  if (!Number.isFinite(value)) return value < 0 ? 'the lowest' : 'the highest';
  return `${(value * factor(on)).toLocaleString('en', { maximumFractionDigits: 4 }).replace('-', '−')}${factor(on) === 100 ? '%' : ''}`;
}
