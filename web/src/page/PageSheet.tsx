'use client';

import { memo, useState, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react';
import { usePaper } from '@/ui/paper';
import { useMarks } from '@/ui/useMarks';
import { SCENE_TEXT } from '@/figures/SceneMarks';
import { Words } from '@/figures/Words';
import { letGo } from './usePick';
import type { PageBlockShown, PageShown, PageSpot, ReaderChoice } from '@bold-ruler/core/desk';

interface Props {
  readonly shown: PageShown;
  readonly picked: ReaderChoice['picked'];
  readonly onPick: (figure: string, spot: PageSpot) => void;
}

/** A page as it was drawn: every block where it stands, in its own size. */
export function PageSheet({ shown, picked, onPick }: Props) {
  return (
    <div
      data-sheet
      className="sheet relative bg-desk"
      style={{ width: shown.width, height: shown.height, '--sheet-width': shown.width } as CSSProperties}
    >
      {shown.blocks.map((block) => (
        <Block key={`${block.kind} ${block.row} ${block.block}`} block={block} picked={picked} onPick={onPick} />
      ))}
    </div>
  );
}

interface BlockProps {
  readonly block: PageBlockShown;
  readonly picked: ReaderChoice['picked'];
  readonly onPick: Props['onPick'];
}

/** One block. It is only painted again when its marks have changed. */
const Block = memo(
  function Block({ block, picked, onPick }: BlockProps) {
    const { kind, x, y, width, height, marks, title, description, spots, told } = block;
    const [pointed, setPointed] = useState<{ spot: number; x: number; y: number } | null>(null);
    const [reached, setReached] = useState<number | null>(null);
    if (kind !== 'figure') {
      const Tag = kind === 'title' ? 'h2' : kind === 'head' ? 'h3' : 'p';
      return (
        <div className="absolute" style={{ left: x, top: y, width, height }}>
          <Tag className="sr-only">{title}</Tag>
          <Marks width={width} height={height} marks={marks} />
          {told.length > 0 && <p className={`top-full ${TOLD}`}>{told.join('; ')}</p>}
        </div>
      );
    }
    const spotAt = (event: PointerEvent | React.MouseEvent) => {
      const box = event.currentTarget.getBoundingClientRect();
      // Presented, the page is larger than it was drawn.
      const grown = box.width / width || 1;
      const [px, py] = [(event.clientX - box.left) / grown, (event.clientY - box.top) / grown];
      return spots.findIndex((s) => px >= s.x && px < s.x + s.width && py >= s.y && py < s.y + s.height);
    };
    const onKeyDown = (event: KeyboardEvent) => {
      const at = reached ?? -1;
      const to =
        event.key === 'ArrowDown' || event.key === 'ArrowRight'
          ? at + 1
          : event.key === 'ArrowUp' || event.key === 'ArrowLeft'
            ? at - 1
            : event.key === 'Home'
              ? 0
              : event.key === 'End'
                ? spots.length - 1
                : null;
      if (to !== null) setReached(Math.min(Math.max(to, 0), spots.length - 1));
      else if (event.key === 'Backspace' && picked?.figure === block.figure) letGo();
      else if ((event.key === 'Enter' || event.key === ' ') && spots[at]) onPick(block.figure!, spots[at]);
      else return;
      event.preventDefault();
    };
    const lit = spots[pointed?.spot ?? reached ?? -1];
    // In figures of lines the member's own line stands out.
    const ofPicked = picked
      ? spots.filter(({ key }) => picked.field in key && key[picked.field] === picked.member)
      : [];
    const marked = ofPicked.length === 1 ? ofPicked[0] : undefined;
    return (
      <figure
        tabIndex={0}
        aria-label={`${title}. ${description}`}
        className="absolute m-0 bg-paper outline-offset-2"
        style={{ left: x, top: y, width, height }}
        onKeyDown={onKeyDown}
        onBlur={() => setReached(null)}
        onPointerLeave={() => setPointed(null)}
        onPointerMove={(event) => {
          const spot = spotAt(event);
          const box = event.currentTarget.getBoundingClientRect();
          const grown = box.width / width || 1;
          setPointed(
            spot < 0 ? null : { spot, x: (event.clientX - box.left) / grown, y: (event.clientY - box.top) / grown },
          );
        }}
        onClick={(event) => {
          const spot = spots[spotAt(event)];
          if (spot) onPick(block.figure!, spot);
        }}
      >
        <Marks width={width} height={height} marks={marks} />
        {marked && (
          <span
            aria-hidden
            className="pointer-events-none absolute border-l-4 border-boxwood bg-boxwood/15"
            style={{ left: marked.x, top: marked.y, width: marked.width, height: marked.height }}
          />
        )}
        {lit && (
          <span
            aria-hidden
            className="pointer-events-none absolute bg-ink/5"
            style={{ left: lit.x, top: lit.y, width: lit.width, height: lit.height }}
          />
        )}
        {told.length > 0 && (
          <p className={`inset-x-0 bottom-0 truncate leading-3 ${TOLD}`} title={told.join('\n')}>
            {told.join('; ')}
          </p>
        )}
        <p aria-live="polite" className="sr-only">
          {reached === null ? '' : spots[reached]?.words}
        </p>
        {pointed && spots[pointed.spot] && <Words text={spots[pointed.spot]!.words} x={pointed.x} y={pointed.y} />}
      </figure>
    );
  },
  (before, now) =>
    before.block.marks === now.block.marks &&
    before.block.x === now.block.x &&
    before.block.y === now.block.y &&
    before.block.height === now.block.height &&
    before.block.width === now.block.width &&
    before.block.told.join() === now.block.told.join() &&
    before.picked === now.picked &&
    before.onPick === now.onPick,
);

/** What must be known of a block, on a strip of its own: in a figure it lies in the margin below the lowest text. */
const TOLD = 'absolute border-l-4 border-boxwood bg-boxwood-light px-1.5 text-[11px]';

const Marks = memo(function Marks({ width, height, marks }: { width: number; height: number; marks: string }) {
  const onPaper = usePaper((paper) => paper.marks);
  const svg = useMarks(onPaper(marks));
  return (
    // Marks below the edge of the window are set when they come into view.
    <div style={{ width, height }} className="[content-visibility:auto]">
      <svg
        ref={svg}
        aria-hidden
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        className="block"
        style={SCENE_TEXT}
      />
    </div>
  );
});
