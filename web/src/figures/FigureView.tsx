'use client';

import dynamic from 'next/dynamic';
import { useRef, useState, type KeyboardEvent } from 'react';
import type { Brief } from '@bold-ruler/core/brief';
import { declarationOf } from '@bold-ruler/core/form';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import { ColumnMenu } from './ColumnMenu';
import { goBack, goInto, setLook, setRulerEnds } from './commands';
import { KeptFigure } from './KeptFigure';

import { nextSort } from './NumbersTable';
import { RulerHandles } from './RulerHandles';
import { PointerTick, RulerStrip } from './RulerStrip';
import { SceneMarks } from './SceneMarks';
import { captionBox, captionOf, SortSpot, TextField, TextSpot } from './spots';
import { Words } from './Words';
import { useScrolled, WINDOW, type Scrolled } from './useScrolled';
import { pointIn, rulerOver, touchedAt, type Touched } from './touch';

// What it can still be asked comes when it is there.
const StillAsked = dynamic(() => import('./StillAsked').then((module) => module.StillAsked), { ssr: false });

interface Props {
  readonly figure: FigureEntry;
  readonly drawn: DrawnFigure;
  readonly pending: boolean;
  readonly row: number | null;
  readonly onRow: (row: number | null) => void;
  /** A part of the sentence, or of the drawer, was touched in the figure. */
  readonly onTouch: (touched: Touched) => void;
  readonly onBrief: (brief: Brief) => void;
}

/** A drawn figure with its boxwood ruler: rows answer to the pointer and to the keys. */
export function FigureView({ figure, drawn, pending, row, onRow, onTouch, onBrief }: Props) {
  const { scene, rows } = drawn;
  const svg = useRef<SVGSVGElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [pointed, setPointed] = useState<{ row: number; x: number; y: number } | null>(null);
  const [writing, setWriting] = useState<'title' | 'caption' | null>(null);
  const cells = scene.marks.filter((mark) => mark.role === 'cell' && mark.shape === 'rect');
  const shown = pointed?.row ?? row;
  const ruler = scene.rulers[0];
  const { brief } = drawn.readable;
  // Dials and headlines have their ruler in themselves.
  const hasStrip = (ruler?.strip.width ?? 0) > 0;

  /** In figures of many lines a member that is pressed stands out, pressed again it does not. */
  const toggleEmphasis = (i: number) => {
    if (!declarationOf(drawn.form).lines || brief.by.length === 0) return;
    const name = brief.by.map((field) => rows[i]!.key[field] || '(blank)').join(' · ');
    const before = figure.look.emphasis ?? [];
    const next = before.includes(name) ? before.filter((one) => one !== name) : [...before, name];
    setLook(
      figure.id,
      `let ${name} ${next.length > before.length ? 'stand out' : 'go'}`,
      'emphasis',
      next.length > 0 ? next : undefined,
    );
  };
  const into = (i: number) => {
    const { leads, row: at, name } = rows[i]!;
    if (!leads || at === null) return;
    onRow(null);
    void goInto(figure, at, name);
  };
  const scrolled = useScrolled(scene, box);
  const focusRow = (next: number) => {
    const at = Math.min(Math.max(next, 0), rows.length - 1);
    onRow(at);
    if (cells[at]) scrolled.reveal(cells[at]);
    // What was scrolled into view is drawn in the next frame.
    const focus = () => svg.current?.querySelector<SVGElement>(`[data-row="${at}"]`)?.focus();
    if (scrolled.isScrolled) requestAnimationFrame(() => requestAnimationFrame(focus));
    else focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const at = row ?? -1;
    if (event.key === 'ArrowDown' || event.key === 'ArrowRight') focusRow(at + 1);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowLeft') focusRow(at - 1);
    else if (event.key === 'Home') focusRow(0);
    else if (event.key === 'End') focusRow(rows.length - 1);
    else if (event.key === 'Escape') onRow(null);
    else if (event.key === 'Backspace' && drawn.path.length > 0) {
      onRow(null);
      goBack(figure.id, drawn.path.at(-1)!.text);
    } else return;
    event.preventDefault();
  };

  return (
    <figure
      aria-busy={pending}
      className={`sheet relative m-0 max-w-[1100px] shrink-0 border bg-paper ${pending ? 'border-boxwood-dark' : 'border-hairline'}`}
      style={{ width: scene.width, maxWidth: '100%' }}
    >
      <div
        ref={box}
        onScroll={scrolled.onScroll}
        className={scrolled.isScrolled ? '[scrollbar-gutter:stable] overflow-y-auto' : ''}
        style={scrolled.isScrolled ? { maxHeight: WINDOW } : {}}
      >
        {scrolled.heading && <Heading heading={scrolled.heading} width={scene.width} />}
        <div className="relative">
          <svg
            ref={svg}
            viewBox={`0 0 ${scene.width} ${scene.height}`}
            className="block w-full"
            role="group"
            aria-label={scene.title}
            onKeyDown={onKeyDown}
            onPointerLeave={() => setPointed(null)}
          >
            {hasStrip && scene.rulers.map((one, i) => <RulerStrip key={i} ruler={one} />)}
            <SceneMarks scene={scrolled.shown} />
            <TextSpot part="title" box={{ x: 12, y: 10, width: scene.width - 24, height: 36 }} onEdit={setWriting} />
            <TextSpot part="caption" box={captionBox(scene)} onEdit={setWriting} />
            {scene.marks.map((mark, i) =>
              mark.sorts && mark.shape === 'text' ? (
                <SortSpot
                  key={i}
                  mark={mark}
                  sort={brief.sort}
                  onSort={(key) => onBrief({ ...brief, sort: nextSort(key, brief.sort) })}
                />
              ) : null,
            )}
            {cells.map((cell, i) =>
              cell.shape === 'rect' && scrolled.sees(cell) ? (
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
                  fill={shown === i ? 'var(--color-ink)' : 'transparent'}
                  fillOpacity={shown === i ? 0.045 : 0}
                  className="cursor-pointer outline-none focus-visible:[stroke:var(--color-ink)] focus-visible:[stroke-width:2]"
                  onFocus={() => onRow(i)}
                  onKeyDown={(event) => {
                    if (event.key !== 'Enter' && event.key !== ' ') return;
                    event.preventDefault();
                    if (event.shiftKey) into(i);
                    else toggleEmphasis(i);
                  }}
                  onDoubleClick={() => into(i)}
                  onClick={(event) => {
                    onRow(i);
                    const touched = touchedAt(scene, pointIn(event, svg.current!, scene), drawn.readable.brief);
                    if (touched) onTouch(touched);
                    else toggleEmphasis(i);
                  }}
                  onPointerMove={(event) => {
                    const around = (box.current ?? svg.current!).getBoundingClientRect();
                    setPointed({ row: i, x: event.clientX - around.left, y: event.clientY - around.top });
                  }}
                />
              ) : null,
            )}
            {ruler && hasStrip && (
              <RulerHandles
                ruler={ruler}
                write={(value) => value.toLocaleString('en', { maximumSignificantDigits: 6 })}
                onTouch={() => onTouch('ruler')}
                onDomain={(domain) => setRulerEnds(figure.id, drawn.readable.brief.ruler, domain)}
                onFit={() => setRulerEnds(figure.id, drawn.readable.brief.ruler, null)}
              />
            )}
            {ruler && hasStrip && shown !== null && rows[shown]?.actual !== null && rows[shown] && (
              <PointerTick
                ruler={rulerOver(scene.rulers, cells[shown]) ?? ruler}
                value={rows[shown].actual!}
                text={rows[shown].exact}
                cell={cells[shown]}
              />
            )}
          </svg>
          {scene.marks.map((mark, i) => {
            const column = mark.column !== undefined && drawn.columns.find(({ id }) => id === mark.column);
            return column && mark.shape === 'text' ? (
              <ColumnMenu
                key={i}
                figure={figure}
                scene={scene}
                mark={mark}
                column={column}
                sort={brief.sort}
                onSort={(sort) => onBrief({ ...brief, sort })}
              />
            ) : null;
          })}
        </div>
      </div>
      {writing && (
        <TextField
          key={writing}
          part={writing}
          figure={figure}
          shown={writing === 'title' ? scene.title : captionOf(scene)}
          onDone={() => setWriting(null)}
        />
      )}
      <div className="flex items-center gap-3 border-t border-hairline px-3 empty:hidden">
        <StillAsked figure={figure} drawn={drawn} />
        <KeptFigure
          brief={brief}
          members={new Set(rows.map(({ key }) => JSON.stringify(key))).size}
          onBrief={onBrief}
        />
      </div>
      {pointed && rows[pointed.row] && <Words text={rows[pointed.row]!.words} x={pointed.x} y={pointed.y} />}
      <figcaption className="sr-only">{scene.description}</figcaption>
    </figure>
  );
}

/** The headings of a scrolled table, which stay while its rows go by. */
function Heading({
  heading: { from, height, scene },
  width,
}: {
  heading: NonNullable<Scrolled['heading']>;
  width: number;
}) {
  return (
    <div aria-hidden className="sticky top-0 z-5 h-0">
      <svg viewBox={`0 ${from} ${width} ${height}`} className="block w-full border-b border-hairline bg-paper">
        <SceneMarks scene={scene} />
      </svg>
    </div>
  );
}
