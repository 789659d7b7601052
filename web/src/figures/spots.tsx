'use client';

import type { Sorting } from '@bold-ruler/core/brief';
import type { FigureEntry } from '@bold-ruler/core/report';
import { textWidth, type Mark, type Scene } from '@bold-ruler/core/scene';
import { setLook } from './commands';
import { WrittenText } from '@/fields/WrittenText';

/** A text of the paper that can be written anew. */
export type TextPart = 'title' | 'caption';

const SPOT =
  'outline-none hover:[stroke:var(--color-hairline)] focus-visible:[stroke:var(--color-ink)] focus-visible:[stroke-width:2]';

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const captions = ({ marks }: Scene) =>
  marks.flatMap((mark) => (mark.role === 'caption' && mark.shape === 'text' ? [mark] : []));

/** The caption as it reads. */
export function captionOf(scene: Scene): string {
  return captions(scene)
    .map(({ text }) => text)
    .join(' ');
}

/** Where the caption stands; the foot of the paper where there is none. */
export function captionBox(scene: Scene): Box {
  const top = Math.min(scene.height - 14, ...captions(scene).map(({ y }) => y)) - 13;
  return { x: 12, y: top, width: scene.width - 24, height: scene.height - top - 4 };
}

/** A title or a caption answers to a double click, or to Enter. */
export function TextSpot({ part, box, onEdit }: { part: TextPart; box: Box; onEdit: (part: TextPart) => void }) {
  return (
    <rect
      {...box}
      fill="transparent"
      role="button"
      tabIndex={0}
      aria-label={`Edit the ${part}`}
      className={`cursor-text ${SPOT}`}
      onClick={(event) => event.detail >= 2 && onEdit(part)}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault();
        event.stopPropagation();
        onEdit(part);
      }}
    >
      <title>{`Double click to edit the ${part}`}</title>
    </rect>
  );
}

/** The title or caption as a template, where it stands on the paper. */
export function TextField({
  part,
  figure,
  shown,
  onDone,
}: {
  part: TextPart;
  figure: FigureEntry;
  shown: string;
  onDone: () => void;
}) {
  return (
    <WrittenText
      autoFocus
      aria-label={`${part === 'title' ? 'Title' : 'Caption'}, with values in braces`}
      rows={2}
      value={figure.look[part] ?? ''}
      onWrite={(text, session) => setLook(figure.id, `change the ${part}`, part, text || undefined, session)}
      placeholder={shown}
      className={`absolute inset-x-3 border-2 border-boxwood bg-paper px-2 py-1 font-figure ${part === 'title' ? 'top-2 text-[17px] font-semibold' : 'bottom-2 text-[13px]'}`}
      onBlur={onDone}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key !== 'Enter') return;
        event.preventDefault();
        event.currentTarget.blur();
      }}
    />
  );
}

/** The heading of a column: pressed, the rows are sorted by it. */
export function SortSpot({
  mark,
  sort,
  onSort,
}: {
  mark: Mark & { shape: 'text' };
  sort: Sorting | null;
  onSort: (key: NonNullable<Mark['sorts']>) => void;
}) {
  const key = mark.sorts!;
  const width = textWidth(mark.text, mark.size, mark.weight);
  const now = sort?.key === key ? (sort.direction === 'down' ? ', largest first now' : ', smallest first now') : '';
  return (
    <rect
      x={mark.x - width - 4}
      y={mark.y - 13}
      width={width + 8}
      height={18}
      fill="transparent"
      role="button"
      tabIndex={0}
      aria-label={`Sort the figure by ${mark.text}${now}`}
      className={`cursor-pointer ${SPOT}`}
      onClick={() => onSort(key)}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        event.stopPropagation();
        onSort(key);
      }}
    />
  );
}
