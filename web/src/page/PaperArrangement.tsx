'use client';

import { GripVertical } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { BlockPlace } from '@bold-ruler/core/edit';
import type { PageBlockShown, PageShown } from '@bold-ruler/core/desk';
import { placedBlocks } from '@bold-ruler/core/page';
import type { Page, PageRow } from '@bold-ruler/core/report';
import { moveBlock, setHeight, setText, swapBlocks, widen } from './commands';
import { placeUnder, useFigureDrag } from './figureDrag';
import { ValueText } from './ValueText';

const TWELFTHS = 12;
const HEIGHT = { step: 20, least: 120 } as const;

/** Right edges of the twelve columns, in pixels; the first entry is where the paper begins. */
function edgesOf(width: number): readonly number[] {
  const { columns } = placedBlocks(
    Array.from({ length: TWELFTHS }, () => ({ share: 1 })),
    width,
  );
  return [columns[0]!.x, ...columns.map((column) => column.x + column.width)];
}

/** How many twelfths of a row lie before the end of each block. */
function endsOf(row: PageRow): number[] {
  let end = 0;
  return 'blocks' in row ? row.blocks.map(({ share }) => (end += share)) : [];
}

/** The twelve columns along the top: a boxwood ruler, its ticks bold where blocks end. */
export function ColumnRuler({ width, rows }: { width: number; rows: readonly PageRow[] }) {
  const edges = edgesOf(width);
  const used = new Set(rows.flatMap(endsOf));
  return (
    <svg
      aria-hidden
      width={width}
      height={22}
      data-columns
      className="sticky top-0 z-10 -mb-[22px] block"
      style={{ width, height: 22 }}
    >
      <rect x={edges[0]} width={edges[TWELFTHS]! - edges[0]!} height={22} fill="var(--color-boxwood)" />
      {edges.map((x, k) => (
        <g key={k}>
          <line
            x1={x}
            x2={x}
            y1={used.has(k) ? 4 : 12}
            y2={22}
            stroke="var(--color-engraved)"
            strokeWidth={used.has(k) ? 2.5 : 1}
          />
          {k > 0 && (
            <text x={(x + edges[k - 1]!) / 2} y={14} textAnchor="middle" fontSize={11} fill="var(--color-engraved)">
              {k}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}

interface Props {
  readonly page: Page;
  readonly shown: PageShown;
}

/** What is dragged now: the end of a block, the lower edge of a row, or a block that looks for another's place. */
type Drag =
  | { readonly kind: 'end'; readonly at: BlockPlace; readonly to: number }
  | { readonly kind: 'height'; readonly row: number; readonly to: number }
  | { readonly kind: 'block'; readonly at: BlockPlace; readonly over: BlockPlace | null };

const isSame = (a: BlockPlace | null, b: BlockPlace): boolean => a !== null && a[0] === b[0] && a[1] === b[1];

/** Over the page while it is arranged: blocks are taken by their grips, their ends and the edges of rows by themselves. */
export function PaperArrangement({ page, shown }: Props) {
  const paper = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const { held, target } = useFigureDrag();
  const [writing, setWriting] = useState<BlockPlace | null>(null);
  const edges = edgesOf(shown.width);
  const blocks = shown.blocks.filter(({ row, block }) => row >= 0 && block >= 0);
  const bottomOf = (row: number) =>
    Math.max(0, ...blocks.filter((one) => one.row === row).map(({ y, height }) => y + height));
  const topOf = (row: number) => Math.min(...blocks.filter((one) => one.row === row).map(({ y }) => y));
  const pointIn = (event: PointerEvent) => {
    const box = paper.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  /** The end of the column nearest to a place across the paper. */
  const columnAt = (x: number) =>
    edges.reduce((best, edge, k) => (Math.abs(edge - x) < Math.abs(edges[best]! - x) ? k : best), 0);
  const rowOf = (row: number) => page.rows[row];
  const finish = () => {
    if (drag?.kind === 'end') {
      const row = rowOf(drag.at[0]);
      const end = row ? endsOf(row)[drag.at[1]] : undefined;
      if (end !== undefined && end !== drag.to) widen(page.id, ...drag.at, drag.to - end);
    } else if (drag?.kind === 'height') setHeight(page.id, drag.row, drag.to);
    else if (drag?.kind === 'block' && drag.over && !isSame(drag.over, drag.at))
      swapBlocks(page.id, drag.at, drag.over);
    setDrag(null);
  };

  const end = (block: PageBlockShown) => {
    const at: BlockPlace = [block.row, block.block];
    const row = rowOf(block.row);
    const ends = row ? endsOf(row) : [];
    const share = (ends[block.block] ?? 0) - (ends[block.block - 1] ?? 0);
    return (
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Width of ${nameOf(block)}`}
        aria-valuemin={2}
        aria-valuemax={TWELFTHS}
        aria-valuenow={share}
        aria-valuetext={`${share} of 12 columns`}
        className="absolute top-0 -right-3 h-full w-6 cursor-ew-resize touch-none before:absolute before:top-1/4 before:left-[10px] before:h-1/2 before:w-1 before:bg-boxwood-dark focus-visible:outline-2"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setDrag({ kind: 'end', at, to: ends[block.block] ?? TWELFTHS });
        }}
        onPointerMove={(event) => {
          if (drag?.kind !== 'end' || !isSame(drag.at, at)) return;
          const least = (ends[block.block - 1] ?? 0) + 2;
          setDrag({ ...drag, to: Math.max(least, columnAt(pointIn(event).x)) });
        }}
        onPointerUp={finish}
        onPointerCancel={() => setDrag(null)}
        onKeyDown={(event) => onArrow(event, 'ArrowLeft', 'ArrowRight', (by) => widen(page.id, ...at, by))}
      />
    );
  };

  return (
    <div ref={paper} role="group" aria-label="Arranging on the paper" data-arranging className="sheet absolute inset-0">
      {blocks.map((block) => {
        const at: BlockPlace = [block.row, block.block];
        const isOver = (drag?.kind === 'block' && isSame(drag.over, at)) || isSame(target?.over ?? null, at);
        const source = rowOf(block.row);
        const text = source && 'blocks' in source ? source.blocks[block.block] : undefined;
        const isText = text !== undefined && 'text' in text;
        return (
          <div
            key={`${block.row} ${block.block}`}
            data-place={`${block.row} ${block.block}`}
            className={`absolute outline-1 outline-dashed ${isOver ? 'bg-boxwood/25 outline-boxwood-dark' : 'outline-hairline hover:outline-ink'}`}
            style={{ left: block.x, top: block.y, width: block.width, height: block.height }}
            onDoubleClick={() => isText && setWriting(at)}
          >
            <button
              type="button"
              aria-label={`Take ${nameOf(block)} to another place`}
              title="Drag onto another block to change places; arrow keys move it on"
              // What stands in the block can be read: a figure has a margin, a text begins in its corner.
              className={`absolute grid size-6 cursor-grab touch-none place-items-center bg-boxwood text-engraved ${isText ? 'top-0 right-14' : '-top-1 -left-1'}`}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                setDrag({ kind: 'block', at, over: null });
              }}
              onPointerMove={(event) => {
                if (drag?.kind === 'block') setDrag({ ...drag, over: placeUnder(event.clientX, event.clientY) });
              }}
              onPointerUp={finish}
              onPointerCancel={() => setDrag(null)}
              onKeyDown={(event) => onArrow(event, 'ArrowLeft', 'ArrowRight', (by) => moveBlock(page.id, ...at, by))}
            >
              <GripVertical aria-hidden size={14} />
            </button>
            {isText && !isSame(writing, at) && (
              <button
                type="button"
                className="absolute top-0 right-3 h-6 w-11 bg-boxwood text-xs text-engraved"
                onClick={() => setWriting(at)}
              >
                Write
              </button>
            )}
            {isText && isSame(writing, at) && (
              <ValueText
                value={text.text}
                onWrite={(words, session) => setText(page.id, ...at, words, text.about ?? null, session)}
                onDone={() => setWriting(null)}
              />
            )}
            {end(block)}
          </div>
        );
      })}
      {page.rows.map((row, r) => {
        if (!('blocks' in row) || bottomOf(r) === 0) return null;
        const now = Math.round(bottomOf(r) - topOf(r));
        return (
          <div
            key={r}
            role="slider"
            tabIndex={0}
            aria-label={`Height of row ${r + 1}`}
            aria-orientation="vertical"
            aria-valuenow={row.height ?? now}
            aria-valuetext={row.height === undefined ? 'as high as needed' : `${row.height} pixels`}
            title="Drag, or arrow keys; a double click or Enter lets it be as high as needed"
            className="absolute h-6 cursor-ns-resize touch-none before:absolute before:top-[10px] before:left-1/4 before:h-1 before:w-1/2 before:bg-boxwood-dark focus-visible:outline-2"
            style={{ left: edges[0], width: edges[TWELFTHS]! - edges[0]!, top: bottomOf(r) - 2 }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDrag({ kind: 'height', row: r, to: now });
            }}
            onPointerMove={(event) => {
              if (drag?.kind !== 'height' || drag.row !== r) return;
              const high = Math.round((pointIn(event).y - topOf(r)) / HEIGHT.step) * HEIGHT.step;
              setDrag({ ...drag, to: Math.max(HEIGHT.least, high) });
            }}
            onPointerCancel={() => setDrag(null)}
            onPointerUp={() => {
              if (drag?.kind === 'height' && drag.to === now) setDrag(null);
              else finish();
            }}
            onDoubleClick={() => setHeight(page.id, r, null)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') setHeight(page.id, r, null);
              else
                onArrow(event, 'ArrowUp', 'ArrowDown', (by) =>
                  setHeight(page.id, r, Math.max(HEIGHT.least, (row.height ?? now) + by * HEIGHT.step)),
                );
            }}
          />
        );
      })}
      {drag?.kind === 'end' && (
        <div
          aria-hidden
          data-guide={drag.to}
          className="pointer-events-none absolute top-0 h-full w-0.5 bg-boxwood-dark"
          style={{ left: edges[drag.to]! - 1 }}
        />
      )}
      {drag?.kind === 'height' && (
        <div
          aria-hidden
          className="pointer-events-none absolute left-0 h-0.5 w-full bg-boxwood-dark"
          style={{ top: topOf(drag.row) + drag.to - 1 }}
        />
      )}
      {held && target?.over && (
        <PlaceMark
          block={blocks.find((one) => isSame(target.over, [one.row, one.block]))}
          at={target.at!}
          isBehind={target.at![1] > target.over[1]}
        />
      )}
      {held && target?.over === null && (
        <p className="pointer-events-none absolute inset-x-5 bottom-0 bg-boxwood px-2 py-1 text-xs text-engraved">
          Let go for a row of its own; over a block, for the place before or behind it.
        </p>
      )}
    </div>
  );
}

/** The side of a block at which a figure would be put. */
function PlaceMark({ block, at, isBehind }: { block: PageBlockShown | undefined; at: BlockPlace; isBehind: boolean }) {
  if (!block) return null;
  return (
    <div
      aria-hidden
      data-put={at.join(' ')}
      className="pointer-events-none absolute w-1.5 bg-boxwood-dark"
      style={{ left: block.x + (isBehind ? block.width + 1 : -7), top: block.y, height: block.height }}
    />
  );
}

const nameOf = ({ kind, title }: PageBlockShown): string => (kind === 'text' ? 'text' : title);

/** One step back or on by an arrow key. */
function onArrow(event: KeyboardEvent, back: string, on: string, step: (by: 1 | -1) => void): void {
  if (event.key !== back && event.key !== on) return;
  event.preventDefault();
  step(event.key === on ? 1 : -1);
}
