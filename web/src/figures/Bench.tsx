'use client';

import { useRef, useState, type KeyboardEvent } from 'react';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { DrawnFigure } from '@/worker/desk.worker';
import { setLook, setRulerEnds } from './commands';
import { RulerHandles } from './RulerHandles';
import { PointerTick, RulerStrip } from './RulerStrip';
import { SceneMarks } from './SceneMarks';

interface Props {
  readonly figure: FigureEntry;
  readonly drawn: DrawnFigure;
  readonly pending: boolean;
  readonly row: number | null;
  readonly onRow: (row: number | null) => void;
}

/** A drawn figure with its boxwood ruler: rows answer to the pointer and to the keys. */
export function Bench({ figure, drawn, pending, row, onRow }: Props) {
  const { scene, rows } = drawn;
  const svg = useRef<SVGSVGElement>(null);
  const [pointed, setPointed] = useState<{ row: number; x: number; y: number } | null>(null);
  const [titling, setTitling] = useState(false);
  const cells = scene.marks.filter((mark) => mark.role === 'cell' && mark.shape === 'rect');
  const shown = pointed?.row ?? row;
  const ruler = scene.rulers[0];
  // Dials and headlines have their ruler in themselves.
  const hasStrip = (ruler?.strip.width ?? 0) > 0;

  const focusRow = (next: number) => {
    const at = Math.min(Math.max(next, 0), rows.length - 1);
    onRow(at);
    svg.current?.querySelectorAll<SVGElement>('[data-row]')[at]?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const at = row ?? -1;
    if (event.key === 'ArrowDown' || event.key === 'ArrowRight') focusRow(at + 1);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowLeft') focusRow(at - 1);
    else if (event.key === 'Home') focusRow(0);
    else if (event.key === 'End') focusRow(rows.length - 1);
    else if (event.key === 'Escape') onRow(null);
    else return;
    event.preventDefault();
  };

  return (
    <figure
      className={`relative m-0 max-w-[1100px] shrink-0 border border-hairline bg-paper ${pending ? 'opacity-80' : ''}`}
      style={{ width: scene.width, maxWidth: '100%' }}
    >
      <svg
        ref={svg}
        viewBox={`0 0 ${scene.width} ${scene.height}`}
        className="block w-full"
        role="group"
        aria-label={scene.title}
        onKeyDown={onKeyDown}
        onPointerLeave={() => setPointed(null)}
      >
        {ruler && hasStrip && <RulerStrip ruler={ruler} />}
        <SceneMarks scene={scene} />
        <TitleSpot scene={scene} onEdit={() => setTitling(true)} />
        {cells.map((cell, i) =>
          cell.shape === 'rect' ? (
            <rect
              key={i}
              data-row={i}
              role="img"
              aria-label={cell.words}
              tabIndex={i === (row ?? 0) ? 0 : -1}
              x={cell.x}
              y={cell.y}
              width={cell.width}
              height={cell.height}
              fill={shown === i ? '#16202B' : 'transparent'}
              fillOpacity={shown === i ? 0.045 : 0}
              className="cursor-pointer outline-none focus-visible:[stroke:#16202B] focus-visible:[stroke-width:2]"
              onFocus={() => onRow(i)}
              onClick={() => onRow(i)}
              onPointerMove={(event) => {
                const box = svg.current!.getBoundingClientRect();
                setPointed({ row: i, x: event.clientX - box.left, y: event.clientY - box.top });
              }}
            />
          ) : null,
        )}
        {ruler && hasStrip && (
          <RulerHandles
            ruler={ruler}
            write={(value) => value.toLocaleString('en', { maximumSignificantDigits: 6 })}
            onDomain={(domain) => setRulerEnds(figure.id, drawn.readable.brief.ruler, domain)}
            onFit={() => setRulerEnds(figure.id, drawn.readable.brief.ruler, null)}
          />
        )}
        {ruler && hasStrip && shown !== null && rows[shown]?.actual !== null && rows[shown] && (
          <PointerTick ruler={ruler} value={rows[shown].actual!} text={rows[shown].exact} cell={cells[shown]} />
        )}
      </svg>
      {titling && <TitleField figure={figure} title={scene.title} onDone={() => setTitling(false)} />}
      {pointed && rows[pointed.row] && <Words text={rows[pointed.row]!.words} x={pointed.x} y={pointed.y} />}
      <figcaption className="sr-only">{scene.description}</figcaption>
    </figure>
  );
}

/** What a row says, beside the pointer. */
function Words({ text, x, y }: { text: string; x: number; y: number }) {
  const [name, ...parts] = text.split(/: |; /);
  return (
    <div
      role="tooltip"
      className="pointer-events-none absolute z-10 w-max max-w-[270px] border border-l-4 border-ink/25 border-l-boxwood bg-paper px-3 py-2 font-figure text-[13px] leading-snug shadow-popover"
      style={{ left: `min(${x + 14}px, calc(100% - 276px))`, top: y + 16 }}
    >
      <strong className="block font-semibold">{name}</strong>
      {parts.map((part) => (
        <span key={part} className="block">
          {part}
        </span>
      ))}
    </div>
  );
}

/** The title answers to a double click, or to Enter. */
function TitleSpot({ scene, onEdit }: { scene: DrawnFigure['scene']; onEdit: () => void }) {
  return (
    <rect
      x={12}
      y={10}
      width={scene.width - 24}
      height={36}
      fill="transparent"
      role="button"
      tabIndex={0}
      aria-label="Edit the title"
      className="cursor-text outline-none hover:[stroke:#C9CCC6] focus-visible:[stroke:#16202B] focus-visible:[stroke-width:2]"
      onClick={(event) => event.detail >= 2 && onEdit()}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault();
        event.stopPropagation();
        onEdit();
      }}
    >
      <title>Double click to edit the title</title>
    </rect>
  );
}

/** The title as a template, where it stands on the paper. */
function TitleField({ figure, title, onDone }: { figure: FigureEntry; title: string; onDone: () => void }) {
  return (
    <textarea
      autoFocus
      aria-label="Title, with values in braces"
      rows={2}
      defaultValue={figure.look.title ?? ''}
      placeholder={title}
      className="absolute inset-x-3 top-2 border-2 border-boxwood bg-paper px-2 py-1 font-figure text-[17px] font-semibold"
      onBlur={(event) => {
        const text = event.target.value.trim();
        if (text !== (figure.look.title ?? '')) setLook(figure.id, 'change the title', 'title', text || undefined);
        onDone();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') {
          event.preventDefault();
          event.currentTarget.blur();
        }
        if (event.key === 'Escape') onDone();
      }}
    />
  );
}
