'use client';

import { heldByTouch } from '@/ui/heldByTouch';
import { useRef, useState } from 'react';
import { tidy } from '@bold-ruler/core/number';
import { place } from '@bold-ruler/core/ruler';
import type { SceneRuler } from '@bold-ruler/core/scene';
import { SCENE_TEXT } from './SceneMarks';

interface Props {
  readonly ruler: SceneRuler;
  /** A value as the figure writes it. */
  readonly write: (value: number) => string;
  /** The ruler itself was pressed. */
  readonly onTouch: () => void;
  readonly onDomain: (domain: readonly [number, number]) => void;
  readonly onFit: () => void;
}

/** To two digits of the span, so that a dragged end is a number one can say. */
function rounded(value: number, span: number): number {
  const step = 10 ** (Math.floor(Math.log10(span)) - 1);
  return tidy(Math.round(value / step) * step);
}

/**
 * The ends of the boxwood ruler: dragged, or moved with the arrow keys; a double click on the ruler fits it again. What is
 * taken hold of is the number at the end; it goes where it is dragged, and the ruler's end follows from that.
 */
export function RulerHandles({ ruler, write, onTouch, onDomain, onFit }: Props) {
  const [drag, setDrag] = useState<{ end: 0 | 1; value: number; at: number } | null>(null);
  const strip = useRef<SVGRectElement>(null);
  const { domain, range, axis } = ruler;
  const { x, y, width, height } = ruler.strip;
  const along = axis === 'x';

  /** Pixels of the figure along the ruler, from the pointer's place on the screen. */
  function pixelOf(event: React.PointerEvent): number {
    const box = strip.current!.getBoundingClientRect();
    return along
      ? x + ((event.clientX - box.left) / box.width) * width
      : y + ((event.clientY - box.top) / box.height) * height;
  }

  function endFor(end: 0 | 1, pixel: number): number {
    const fixed = end === 0 ? 1 : 0;
    const span = domain[1] - domain[0];
    const share = (pixel - range[fixed]) / (range[end] - range[fixed]);
    // The number that was at the end stands at a share of the way now; further than a tenth in, the ruler would fly away.
    const next = domain[fixed] + (domain[end] - domain[fixed]) / Math.max(0.1, share);
    return rounded(next, span);
  }

  const keep = (end: 0 | 1, value: number) => {
    const next: [number, number] = [...domain];
    next[end] = value;
    if (next[0] < next[1]) onDomain(next);
  };
  const step = (domain[1] - domain[0]) / Math.max(1, ruler.ticks.length - 1);

  return (
    <g>
      <rect
        ref={strip}
        x={x}
        y={y}
        width={width}
        height={height}
        fill="transparent"
        className="cursor-pointer"
        onClick={onTouch}
        onDoubleClick={onFit}
      >
        <title>Drag an end to change the ruler, double click to fit it</title>
      </rect>
      {([0, 1] as const).map((end) => {
        const at = place(ruler, domain[end]);
        const box = along ? { x: at - 9, y, width: 18, height } : { x, y: at - 9, width, height: 18 };
        return (
          <rect
            key={end}
            {...box}
            ref={heldByTouch}
            role="slider"
            tabIndex={0}
            aria-label={end === 0 ? 'Where the ruler begins' : 'Where the ruler ends'}
            aria-orientation={along ? 'horizontal' : 'vertical'}
            aria-valuenow={domain[end]}
            aria-valuetext={write(domain[end])}
            fill="transparent"
            className={`outline-none focus-visible:[stroke:var(--color-ink)] focus-visible:[stroke-width:2] ${along ? 'cursor-ew-resize' : 'cursor-ns-resize'}`}
            onDoubleClick={onFit}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDrag({ end, value: domain[end], at });
            }}
            onPointerMove={(event) => {
              if (drag?.end !== end) return;
              const pixel = pixelOf(event);
              setDrag({ end, value: endFor(end, pixel), at: pixel });
            }}
            onPointerCancel={() => setDrag(null)}
            onPointerUp={() => {
              if (drag && drag.value !== domain[end]) keep(end, drag.value);
              setDrag(null);
            }}
            onKeyDown={(event) => {
              const more = event.key === 'ArrowRight' || event.key === 'ArrowUp';
              const less = event.key === 'ArrowLeft' || event.key === 'ArrowDown';
              if (event.key === 'Enter') onFit();
              else if (more || less) keep(end, tidy(domain[end] + (more ? step : -step)));
              else return;
              event.preventDefault();
              event.stopPropagation();
            }}
          />
        );
      })}
      {drag && drag.value !== domain[drag.end] && (
        <g pointerEvents="none" style={SCENE_TEXT}>
          {ruler.ticks.map((tick) => {
            // The numbers follow while the end is dragged.
            const next: [number, number] = [...domain];
            next[drag.end] = drag.value;
            const at = place({ domain: next, range }, tick);
            if (at < Math.min(...range) - 1 || at > Math.max(...range) + 1) return null;
            return along ? (
              <line
                key={tick}
                x1={at}
                x2={at}
                y1={y + height - 10}
                y2={y + height}
                stroke="var(--color-ink)"
                strokeWidth={2}
              />
            ) : (
              <line
                key={tick}
                x1={x + width - 10}
                x2={x + width}
                y1={at}
                y2={at}
                stroke="var(--color-ink)"
                strokeWidth={2}
              />
            );
          })}
          <text
            x={along ? range[drag.end] : x + width / 2}
            y={along ? y - 4 : range[drag.end]}
            textAnchor={along ? 'end' : 'middle'}
            fontSize={13}
            fontWeight={600}
            fill="var(--color-ink)"
          >
            to {write(drag.value)}
          </text>
        </g>
      )}
    </g>
  );
}
