'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type CollisionDetection,
  type KeyboardCoordinateGetter,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ArrowLeft, ArrowRight, GripVertical, Minus, Plus, Trash2 } from 'lucide-react';
import { createContext, useContext, useEffect, useRef } from 'react';
import type { FigureEntry, Page, PageBlock, PageRow } from '@bold-ruler/core/report';
import { useDrawings } from '@/store/drawings';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import type { ReaderOffers } from '@bold-ruler/core/page';
import {
  addBlock,
  addHead,
  moveBlock,
  moveBlockTo,
  moveRow,
  putFigure,
  removeBlock,
  removePage,
  removeRow,
  setHead,
  setHeight,
  setText,
  widen,
} from './commands';
import { targetUnder, useFigureDrag } from './figureDrag';
import { FilterFields } from './FilterFields';
import { Suggestions } from './Suggestions';
import { WrittenText } from '@/fields/WrittenText';

interface Props {
  readonly page: Page;
  readonly figures: readonly FigureEntry[];
  readonly offers: ReaderOffers | null;
  /** Titles of the figures that stand on the page, by id. */
  readonly titles: ReadonlyMap<string, string>;
  readonly onTitle: (title: string, session: string) => void;
  readonly onRemoved: () => void;
}

/** A row is dragged among rows, a block among blocks. */
const alike: CollisionDetection = ({ droppableContainers, active, ...rest }) => {
  const kind = String(active.id).split(' ')[0]!;
  return closestCenter({
    ...rest,
    active,
    droppableContainers: droppableContainers.filter(({ id }) => String(id).startsWith(kind)),
  });
};

/** By keys, too. */
const amongAlike: KeyboardCoordinateGetter = (event, { context, ...rest }) => {
  const kind = String(context.active?.id).split(' ')[0]!;
  const all = context.droppableContainers;
  const droppableContainers = Object.assign(Object.create(all) as typeof all, {
    get: (id: string) => all.get(id),
    getEnabled: () => all.getEnabled().filter(({ id }) => String(id).startsWith(kind)),
  });
  return sortableKeyboardCoordinates(event, { ...rest, context: { ...context, droppableContainers } });
};

/** Blocks stay where they are until one is put down. */
const still = () => null;

function placeOf(id: string | number): readonly [number, number] | null {
  const [kind, row, block] = String(id).split(' ');
  return kind === 'block' ? [Number(row), Number(block)] : null;
}

/** How the page is made: its rows in order, what stands in each and how wide; dragged by their grips, or moved by keys. */
export function PageArrangement({ page, figures, offers, titles, onTitle, onRemoved }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 3 } }),
    useSensor(KeyboardSensor, { coordinateGetter: amongAlike }),
  );
  const ids = page.rows.map((_, row) => `row ${row}`);
  return (
    <Titles value={titles}>
      <aside
        aria-label="Arrangement"
        className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-hairline p-3"
      >
        <label className="block">
          <span className="mb-1 block text-xs text-quiet">Title of the page</span>
          <WrittenText className={INPUT} value={page.title} allows={(title) => title !== ''} onWrite={onTitle} />
        </label>
        <FilterFields page={page} offers={offers} />
        <section aria-label="Rows">
          <h2 className="mb-1.5 text-xs text-quiet">Rows, from the top</h2>
          <DndContext
            sensors={sensors}
            collisionDetection={alike}
            onDragEnd={({ active, over }) => {
              if (!over || active.id === over.id) return;
              const [from, to] = [placeOf(active.id), placeOf(over.id)];
              if (from && to) return moveBlockTo(page.id, from, to);
              moveRow(page.id, ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
            }}
          >
            <SortableContext items={ids} strategy={verticalListSortingStrategy}>
              <ol className="space-y-2">
                {page.rows.map((row, r) => (
                  <Row key={ids[r]} id={ids[r]!} pageId={page.id} row={row} at={r} figures={figures} />
                ))}
              </ol>
            </SortableContext>
          </DndContext>
        </section>
        <section aria-label="Put on the page" className="space-y-1.5">
          <h2 className="text-xs text-quiet">Put on the page</h2>
          <select
            aria-label="Put a figure on the page"
            className={INPUT}
            value=""
            onChange={(event) =>
              event.target.value !== '' &&
              addBlock(page.id, 'put a figure on the page', { figure: event.target.value, share: 6 })
            }
          >
            <option value="">a figure …</option>
            {figures.map((figure) => (
              <FigureOption key={figure.id} figure={figure} />
            ))}
          </select>
          <ul aria-label="Figures to be dragged onto the paper" className="space-y-1">
            {figures.map((figure) => (
              <Draggable key={figure.id} pageId={page.id} figure={figure} />
            ))}
          </ul>
          <div className="flex gap-1.5">
            <Button
              small
              className="grow"
              onClick={() => addBlock(page.id, 'new text', { text: 'What there is to know.', share: 4 })}
            >
              <Plus aria-hidden size={13} /> Text
            </Button>
            <Button small className="grow" onClick={() => addHead(page.id)}>
              <Plus aria-hidden size={13} /> Heading
            </Button>
          </div>
        </section>
        <Suggestions page={page} />
        <Button
          small
          look="bare"
          className="self-start"
          onClick={() => {
            removePage(page.id);
            onRemoved();
          }}
        >
          <Trash2 aria-hidden size={14} /> Remove this page
        </Button>
      </aside>
    </Titles>
  );
}

const Titles = createContext<ReadonlyMap<string, string>>(new Map());

/** A figure by its title, where it has been drawn. */
function useTitle(figure: FigureEntry | undefined, id: string): string {
  const onPage = useContext(Titles).get(id);
  const drawn = useDrawings(({ byFigure }) => byFigure[id]?.drawn?.scene.title);
  return (
    figure?.name ??
    onPage ??
    drawn ??
    figure?.look.title?.replace(/[{}]/g, '') ??
    figure?.brief ??
    `“${id}” is no longer there`
  );
}

/** Pixels a pointer moves before what it presses is dragged. */
const TAKEN = 4;

/** A figure that is dragged onto the paper; a finger takes it by its grip and scrolls the list beside it. */
function Draggable({ pageId, figure }: { pageId: string; figure: FigureEntry }) {
  const title = useTitle(figure, figure.id);
  const pressed = useRef<{ readonly x: number; readonly y: number } | null>(null);
  const held = useFigureDrag((state) => (state.held?.id === figure.id ? state.held : null));
  const end = () => {
    pressed.current = null;
    useFigureDrag.setState({ held: null, target: null });
  };
  const isHeld = held !== null;
  useEffect(() => {
    if (!isHeld) return;
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && end();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [isHeld]);
  return (
    <li
      title={title}
      className="flex cursor-grab items-center gap-1 border border-hairline bg-paper py-1 pr-1.5 text-[13px] select-none"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        pressed.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerMove={({ clientX: x, clientY: y }) => {
        const from = pressed.current;
        if (!from || (!held && Math.hypot(x - from.x, y - from.y) < TAKEN)) return;
        useFigureDrag.setState({ held: { id: figure.id, title, x, y }, target: targetUnder(x, y) });
      }}
      onPointerUp={({ clientX, clientY }) => {
        const target = held && targetUnder(clientX, clientY);
        end();
        if (target) putFigure(pageId, figure.id, target.at);
      }}
      onPointerCancel={end}
    >
      <span className="grid size-6 shrink-0 touch-none place-items-center text-quiet">
        <GripVertical aria-hidden size={13} />
      </span>
      <span className="truncate">{title}</span>
      {held && (
        <span
          aria-hidden
          className="pointer-events-none fixed z-40 max-w-[240px] truncate bg-boxwood px-2 py-1 text-engraved shadow-popover"
          style={{ left: held.x + 12, top: held.y + 8 }}
        >
          {title}
        </span>
      )}
    </li>
  );
}

function FigureOption({ figure }: { figure: FigureEntry }) {
  return <option value={figure.id}>{useTitle(figure, figure.id)}</option>;
}

const HEIGHT = { step: 20, natural: 340, least: 120 } as const;

function Row({
  id,
  pageId,
  row,
  at,
  figures,
}: {
  id: string;
  pageId: string;
  row: PageRow;
  at: number;
  figures: readonly FigureEntry[];
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const height = 'blocks' in row ? row.height : undefined;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`border border-hairline bg-paper p-1.5 ${isDragging ? 'z-10 shadow-popover' : ''}`}
    >
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-label={`Move row ${at + 1}`}
          className="grid size-6 cursor-grab place-items-center text-quiet"
          {...attributes}
          {...listeners}
        >
          <GripVertical aria-hidden size={14} />
        </button>
        {'head' in row ? (
          <WrittenText
            aria-label="Heading"
            className={`${INPUT} h-7 font-semibold`}
            value={row.head}
            allows={(head) => head !== ''}
            onWrite={(head, session) => setHead(pageId, at, head, session)}
          />
        ) : (
          <>
            <span className="grow text-xs text-quiet">
              {height === undefined ? 'as high as needed' : `${height} px high`}
            </span>
            <Stepper
              name={`height of row ${at + 1}`}
              onLess={() => setHeight(pageId, at, Math.max(HEIGHT.least, (height ?? HEIGHT.natural) - HEIGHT.step))}
              onMore={() => setHeight(pageId, at, (height ?? HEIGHT.natural) + HEIGHT.step)}
            />
            {height !== undefined && (
              <Button small look="bare" onClick={() => setHeight(pageId, at, null)}>
                Fit
              </Button>
            )}
          </>
        )}
        <Icon name={`Remove row ${at + 1}`} onClick={() => removeRow(pageId, at)}>
          <Trash2 aria-hidden size={13} />
        </Icon>
      </div>
      {'blocks' in row && (
        <SortableContext items={row.blocks.map((_, b) => `block ${at} ${b}`)} strategy={still}>
          <ul className="mt-1 space-y-1">
            {row.blocks.map((block, b) => (
              <Block key={b} pageId={pageId} row={at} at={b} block={block} figures={figures} />
            ))}
          </ul>
        </SortableContext>
      )}
    </li>
  );
}

function Block({
  pageId,
  row,
  at,
  block,
  figures,
}: {
  pageId: string;
  row: number;
  at: number;
  block: PageBlock;
  figures: readonly FigureEntry[];
}) {
  const id = 'figure' in block ? block.figure : '';
  const title = useTitle(
    figures.find((figure) => figure.id === id),
    id,
  );
  const name = 'figure' in block ? title : 'text';
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, isDragging, isOver } = useSortable({
    id: `block ${row} ${at}`,
  });
  return (
    <li
      ref={setNodeRef}
      style={isDragging ? { transform: CSS.Translate.toString(transform) } : {}}
      className={`relative border-l-4 bg-desk/60 px-1.5 py-1 text-[13px] ${isDragging ? 'z-10 shadow-popover' : ''} ${isOver && !isDragging ? 'border-boxwood' : 'border-hairline'}`}
    >
      <div className="flex items-center gap-0.5">
        <button
          type="button"
          ref={setActivatorNodeRef}
          aria-label={`Drag ${name}`}
          className="grid size-6 shrink-0 cursor-grab place-items-center text-quiet"
          {...attributes}
          {...listeners}
        >
          <GripVertical aria-hidden size={13} />
        </button>
        <span className="min-w-0 grow truncate" title={name}>
          {name}
        </span>
        <Icon name={`Move ${name} back`} onClick={() => moveBlock(pageId, row, at, -1)}>
          <ArrowLeft aria-hidden size={13} />
        </Icon>
        <Icon name={`Move ${name} on`} onClick={() => moveBlock(pageId, row, at, 1)}>
          <ArrowRight aria-hidden size={13} />
        </Icon>
        <Icon name={`Take ${name} off the page`} onClick={() => removeBlock(pageId, row, at)}>
          <Trash2 aria-hidden size={13} />
        </Icon>
      </div>
      {'text' in block && (
        <>
          <WrittenText
            aria-label="Text, with values in braces"
            rows={3}
            className={`${INPUT} mt-1 h-auto py-1`}
            value={block.text}
            onWrite={(text, session) => setText(pageId, row, at, text, block.about ?? null, session)}
          />
          <label className="mt-1 flex items-center gap-1.5">
            <span className="text-xs whitespace-nowrap text-quiet">values of</span>
            <select
              className={`${INPUT} h-7`}
              value={block.about ?? ''}
              onChange={(event) => setText(pageId, row, at, block.text, event.target.value || null)}
            >
              <option value="">no figure</option>
              {figures.map((figure) => (
                <FigureOption key={figure.id} figure={figure} />
              ))}
            </select>
          </label>
        </>
      )}
      <div className="flex items-center">
        <span className="grow text-xs text-quiet">{block.share} of 12 wide</span>
        <Stepper
          name={`width of ${name}`}
          onLess={() => widen(pageId, row, at, -1)}
          onMore={() => widen(pageId, row, at, 1)}
        />
      </div>
    </li>
  );
}

function Stepper({ name, onLess, onMore }: { name: string; onLess: () => void; onMore: () => void }) {
  return (
    <span className="flex">
      <Icon name={`Less ${name}`} onClick={onLess}>
        <Minus aria-hidden size={13} />
      </Icon>
      <Icon name={`More ${name}`} onClick={onMore}>
        <Plus aria-hidden size={13} />
      </Icon>
    </span>
  );
}

function Icon({ name, onClick, children }: { name: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      className="grid size-6 shrink-0 place-items-center rounded-sm text-quiet hover:bg-hairline/60 hover:text-ink"
      onClick={onClick}
    >
      {children}
    </button>
  );
}
