'use client';

import { heldByTouch } from '@/ui/heldByTouch';
import { usePaper } from '@/ui/paper';
import { useRef, useState } from 'react';
import { INK, type Coverage } from '@bold-ruler/core/highlight';
import { tidy } from '@bold-ruler/core/number';
import type { Highlight } from '@bold-ruler/core/report';
import { place, valueAt } from '@bold-ruler/core/ruler';

/** Where a strip lies: as wide as its figure, over the length of its ruler, and on its numbers where they are those of the rules. */
export interface StripRuler {
  readonly width: number;
  readonly range: readonly [number, number];
  readonly domain: readonly [number, number] | null;
}

const BOXWOOD = 'var(--color-boxwood)';

/** The rules of a highlight along a ruler: what each stretch is painted by, where none is, and where the rows lie. */
export function CoverageStrip({
  highlight,
  coverage,
  values,
  ruler: given,
  write,
  onEdge,
  onRule,
}: {
  highlight: Highlight;
  coverage: Coverage;
  values: readonly (number | null)[];
  ruler: StripRuler;
  write: (value: number) => string;
  /** A stretch was pressed that a rule paints. */
  onRule: (id: string) => void;
  /** An edge was taken from one number to another. */
  onEdge: (from: number, to: number) => void;
}) {
  const strip = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ edge: number; to: number } | null>(null);
  const there = values.filter((value): value is number => value !== null);
  const edges = [
    ...new Set(highlight.rules.flatMap(({ when }) => ('from' in when || 'to' in when ? [when.from, when.to] : []))),
  ].flatMap((edge) => (edge === undefined ? [] : [edge]));
  edges.sort((a, b) => a - b);
  const [low, high] = [Math.min(...there, ...edges, 0), Math.max(...there, ...edges, 0)];
  const room = (high - low || 1) * 0.08;
  const { width, range } = given;
  const [left, right] = range;
  const ruler = { domain: given.domain ?? ([low - room, high + room] as const), range };
  const x = (value: number) => Math.min(right, Math.max(left, place(ruler, value)));
  // Two digits of the span, so that an edge is a number one can say.
  const step = 10 ** (Math.floor(Math.log10(high - low || 1)) - 1);
  const pointed = (event: React.PointerEvent) => {
    const box = strip.current!.getBoundingClientRect();
    const value = valueAt(ruler, ((event.clientX - box.left) / box.width) * width);
    return tidy(Math.round(value / step) * step);
  };
  /** An edge stays between its neighbours. */
  const between = (edge: number, to: number) => {
    const before = edges.filter((one) => one < edge).pop();
    const after = edges.find((one) => one > edge);
    return (before !== undefined && to <= before) || (after !== undefined && to >= after) ? edge : to;
  };
  const badge = (id: string) => highlight.rules.find((rule) => rule.id === id)?.encode.badge;
  const paperInk = usePaper((paper) => paper.ink);
  const ink = (id: string | null) => paperInk(highlight.rules.find((rule) => rule.id === id)?.encode.ink ?? INK);
  return (
    <svg
      ref={strip}
      viewBox={`0 0 ${width} 50`}
      className="block"
      style={{ width, maxWidth: '100%' }}
      role="group"
      aria-label="What the rules cover"
    >
      <defs>
        <pattern id="unpainted" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--color-paper)" />
          <line x1="0" y1="0" x2="0" y2="5" stroke="var(--color-quiet)" strokeWidth="1.5" />
        </pattern>
      </defs>
      <rect x={left} y={12} width={right - left} height={24} fill={BOXWOOD} />
      {coverage.painted.map(({ from, to, rule }) => (
        <g
          key={from}
          data-stretch={rule ?? ''}
          className={rule === null ? '' : 'cursor-pointer'}
          onClick={() => rule !== null && onRule(rule)}
        >
          <title>{rule === null ? 'no rule paints here' : rule}</title>
          <rect
            x={x(from)}
            y={15}
            width={Math.max(0, x(to) - x(from))}
            height={18}
            fill={rule === null ? 'url(#unpainted)' : ink(rule)}
          />
          {rule !== null && x(to) - x(from) > 24 && <Badge badge={badge(rule)} x={(x(from) + x(to)) / 2} />}
        </g>
      ))}
      {coverage.overlaps.map(({ from, to, rules }) => (
        <rect
          key={`${from} ${rules[1]}`}
          x={x(from)}
          y={33}
          width={Math.max(1, x(to) - x(from))}
          height={3}
          fill="var(--color-ink)"
        />
      ))}
      {edges.map((edge) => {
        const at = x(drag?.edge === edge ? drag.to : edge);
        return (
          <g key={edge}>
            <line x1={at} x2={at} y1={12} y2={36} stroke="var(--color-engraved)" strokeWidth={1.5} />
            <text
              x={Math.min(width - 30, Math.max(30, at))}
              y={47}
              textAnchor="middle"
              fontSize={11}
              fontWeight={drag?.edge === edge ? 600 : 400}
              fill="var(--color-ink)"
            >
              {write(drag?.edge === edge ? drag.to : edge)}
            </text>
            <rect
              x={at - 6}
              y={8}
              width={12}
              height={30}
              fill="transparent"
              ref={heldByTouch}
              role="slider"
              tabIndex={0}
              aria-label={`Edge at ${write(edge)}`}
              aria-valuenow={edge}
              aria-valuetext={write(edge)}
              className="cursor-ew-resize outline-none focus-visible:[stroke:var(--color-ink)] focus-visible:[stroke-width:2]"
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                setDrag({ edge, to: edge });
              }}
              onPointerMove={(event) => drag?.edge === edge && setDrag({ edge, to: between(edge, pointed(event)) })}
              onPointerCancel={() => setDrag(null)}
              onPointerUp={() => {
                if (drag && drag.to !== edge) onEdge(edge, drag.to);
                setDrag(null);
              }}
              onKeyDown={(event) => {
                const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
                if (by === undefined) return;
                event.preventDefault();
                const to = between(edge, tidy(edge + by * step));
                if (to !== edge) onEdge(edge, to);
              }}
            />
          </g>
        );
      })}
      {there.map((value, i) => (
        <line key={i} x1={x(value)} x2={x(value)} y1={3} y2={11} stroke="var(--color-ink)" strokeOpacity={0.7} />
      ))}
    </svg>
  );
}

const SHAPES = {
  up: 'M-5 5V-1L0 -5.5L5 -1V5Z',
  level: 'M-5 -2H5V2H-5Z',
  down: 'M-5 -5V1L0 5.5L5 1V-5Z',
} as const;

/** A rule's badge, in paper on its ink. */
function Badge({ badge, x }: { badge: keyof typeof SHAPES | undefined; x: number }) {
  if (badge === undefined) return null;
  return <path d={SHAPES[badge]} transform={`translate(${x} 24)`} fill="var(--color-paper)" pointerEvents="none" />;
}
