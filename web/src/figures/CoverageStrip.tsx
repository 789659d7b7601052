import { INK, type Coverage } from '@bold-ruler/core/highlight';
import type { Highlight } from '@bold-ruler/core/report';
import { place } from '@bold-ruler/core/ruler';

const WIDTH = 240;
const BOXWOOD = 'var(--color-boxwood)';

/** The rules of a highlight along a ruler: what each stretch is painted by, where none is, and where the rows lie. */
export function CoverageStrip({
  highlight,
  coverage,
  values,
}: {
  highlight: Highlight;
  coverage: Coverage;
  values: readonly (number | null)[];
}) {
  const there = values.filter((value): value is number => value !== null);
  const edges = coverage.painted.flatMap(({ from, to }) => [from, to]).filter(Number.isFinite);
  const [low, high] = [Math.min(...there, ...edges, 0), Math.max(...there, ...edges, 0)];
  const room = (high - low || 1) * 0.08;
  const ruler = { domain: [low - room, high + room], range: [0, WIDTH] } as const;
  const x = (value: number) => Math.min(WIDTH, Math.max(0, place(ruler, value)));
  const ink = (id: string | null) => highlight.rules.find((rule) => rule.id === id)?.encode.ink ?? INK;
  return (
    <svg viewBox={`0 0 ${WIDTH} 34`} className="block w-full" role="img" aria-label="What the rules cover">
      <defs>
        <pattern id="unpainted" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--color-paper)" />
          <line x1="0" y1="0" x2="0" y2="5" stroke="var(--color-quiet)" strokeWidth="1.5" />
        </pattern>
      </defs>
      <rect x={0} y={12} width={WIDTH} height={16} fill={BOXWOOD} />
      {coverage.painted.map(({ from, to, rule }) => (
        <rect
          key={from}
          x={x(from)}
          y={15}
          width={Math.max(0, x(to) - x(from))}
          height={10}
          fill={rule === null ? 'url(#unpainted)' : ink(rule)}
        />
      ))}
      {coverage.overlaps.map(({ from, to, rules }) => (
        <rect
          key={`${from} ${rules[1]}`}
          x={x(from)}
          y={26}
          width={Math.max(1, x(to) - x(from))}
          height={3}
          fill="var(--color-ink)"
        />
      ))}
      {edges.map((edge) => (
        <line key={edge} x1={x(edge)} x2={x(edge)} y1={12} y2={28} stroke="var(--color-ink)" strokeWidth={1.5} />
      ))}
      {there.map((value, i) => (
        <line key={i} x1={x(value)} x2={x(value)} y1={3} y2={11} stroke="var(--color-ink)" strokeOpacity={0.7} />
      ))}
    </svg>
  );
}
