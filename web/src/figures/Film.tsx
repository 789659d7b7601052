'use client';

import { Copy, Plus, Trash2 } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { create } from 'zustand';
import type { FigureEntry } from '@bold-ruler/core/report';
import { writeMarks, type Scene } from '@bold-ruler/core/scene';
import { useDrawings } from '@/store/drawings';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { usePaper } from '@/ui/paper';
import { useMarks } from '@/ui/useMarks';
import { FILM_ORDERS, filmGroups, MANY_FIGURES, type FilmOrder } from './filmGroups';
import { useFigureName } from './names';
import { SCENE_TEXT } from './SceneMarks';

interface Props {
  readonly figures: readonly FigureEntry[];
  readonly chosen: string;
  readonly onChoose: (id: string) => void;
  readonly onNew: () => void;
  readonly onDuplicate: () => void;
  readonly onRemove: () => void;
}

/** How the film is listed stays while the application is open. */
const useFilmOrder = create<{ readonly order: FilmOrder }>(() => ({ order: 'order' }));

/** A figure's place in the report as it is when it is asked for. */
const placeOf = (id: string) => useReport.getState().report!.figures.findIndex((one) => one.id === id);

/** To a place among all figures; its picture keeps the focus, which a browser takes from what is moved. */
async function moveTo(figure: string, to: number): Promise<void> {
  const hadFocus = document.activeElement?.id;
  await edit({ edit: 'move-figure', figure, to });
  if (hadFocus === smallId(figure)) document.getElementById(smallId(figure))?.focus();
}

/** As many pictures have room in the film of a low window. */
const FITTING = 4;

const smallId = (figure: string) => `film-${figure}`;

/** All figures of the report, small: in order, which dragging or Alt with an arrow changes, or in groups where they are many. */
export function Film({ figures, chosen, onChoose, onNew, onDuplicate, onRemove }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const pages = useReport((state) => state.report!.pages);
  const { order: wished } = useFilmOrder();
  const order = figures.length < MANY_FIGURES ? 'order' : wished;
  const [held, setHeld] = useState<string | null>(null);
  // What figures show is known when they are drawn.
  const measures = useDrawings(({ byFigure }) =>
    order !== 'measure'
      ? ''
      : JSON.stringify(figures.map(({ id }) => byFigure[id]?.drawn?.readable.brief.views[0]?.measure ?? null)),
  );
  const measureOf = (id: string) =>
    (JSON.parse(measures) as (string | null)[])[figures.findIndex((one) => one.id === id)] ?? null;
  useEffect(() => {
    const item = list.current?.querySelector('[aria-pressed=true]');
    if (!list.current || !item) return;
    // Scrolled by hand: a browser that brings something into view goes on from there with the next Tab, past the beginning of the page.
    const [around, own] = [list.current.getBoundingClientRect(), item.getBoundingClientRect()];
    const [above, below] = [own.top - around.top - 8, own.bottom - around.bottom + 8];
    if (above < 0) list.current.scrollTop += above;
    else if (below > 0) list.current.scrollTop += below;
  }, [chosen, order]);
  const groups = filmGroups({ figures, pages }, order, measureOf);
  return (
    <aside
      aria-label="Film of figures"
      // What changes beside it does not lay it out again.
      className="flex min-h-0 flex-col border-r border-hairline max-[999px]:col-span-2 max-[999px]:flex-row max-[999px]:items-center max-[999px]:border-r-0 max-[999px]:border-b min-[1000px]:contain-strict"
    >
      <FigureChoice figures={figures} chosen={chosen} onChoose={onChoose} />
      {figures.length >= MANY_FIGURES && (
        <select
          aria-label="How the film is listed"
          className="mx-3 mt-2 h-7 shrink-0 border border-hairline bg-paper px-1 text-xs max-[999px]:hidden"
          value={order}
          onChange={(event) => useFilmOrder.setState({ order: event.target.value as FilmOrder })}
        >
          {Object.entries(FILM_ORDERS).map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
      )}
      {/* A bar that comes and goes makes every picture be laid out twice, with and without it, at each change. */}
      <div
        ref={list}
        className={`min-h-0 grow overflow-y-auto p-3 max-[999px]:hidden ${figures.length > FITTING ? '[scrollbar-gutter:stable]' : ''}`}
      >
        {groups.map(({ name, figures: some }) => {
          const items = (
            <ol className="space-y-2">
              {some.map((figure) => (
                <Small
                  key={figure.id}
                  figure={figure}
                  isChosen={figure.id === chosen}
                  isMovable={order === 'order'}
                  held={held === null ? null : placeOf(held) < placeOf(figure.id) ? 'below' : 'above'}
                  onChoose={onChoose}
                  onHold={setHeld}
                  onDrop={() => {
                    if (held !== null) void moveTo(held, placeOf(figure.id));
                    setHeld(null);
                  }}
                  onStep={(by) => void moveTo(figure.id, placeOf(figure.id) + by)}
                />
              ))}
            </ol>
          );
          return name === null ? (
            <div key="all">{items}</div>
          ) : (
            <details key={name} open className="mb-3">
              <summary className="mb-1.5 cursor-pointer text-xs font-semibold text-quiet">
                {name} <span className="font-normal">{some.length}</span>
              </summary>
              {items}
            </details>
          );
        })}
      </div>
      <div className="flex justify-between border-t border-hairline p-2 max-[999px]:border-t-0">
        <Button small look="bare" onClick={onNew} title="New figure" aria-label="New figure">
          <Plus aria-hidden size={16} />
        </Button>
        <Button
          small
          look="bare"
          onClick={onDuplicate}
          title="Duplicate this figure"
          aria-label="Duplicate this figure"
        >
          <Copy aria-hidden size={15} />
        </Button>
        <Button small look="bare" onClick={onRemove} title="Remove this figure" aria-label="Remove this figure">
          <Trash2 aria-hidden size={15} />
        </Button>
      </div>
    </aside>
  );
}

/** Where there is no room for the film, a figure is chosen by its name. */
function FigureChoice({ figures, chosen, onChoose }: Pick<Props, 'figures' | 'chosen' | 'onChoose'>) {
  const titles = useDrawings(({ byFigure }) =>
    JSON.stringify(figures.map(({ id, name, brief }) => name ?? byFigure[id]?.drawn?.scene.title ?? brief)),
  );
  return (
    <select
      aria-label="Figure"
      className="m-2 hidden h-8 min-w-0 grow border border-hairline bg-paper px-2 text-[13px] max-[999px]:block"
      value={chosen}
      onChange={(event) => onChoose(event.target.value)}
    >
      {(JSON.parse(titles) as string[]).map((title, i) => (
        <option key={figures[i]!.id} value={figures[i]!.id}>
          {title}
        </option>
      ))}
    </select>
  );
}

/** A scene in the film: its marks are made when it comes near to what is seen. */
function SmallScene({ scene }: { scene: Scene }) {
  const onPaper = usePaper(({ marks }) => marks);
  const [isNear, setNear] = useState(false);
  const marks = useMemo(() => (isNear ? onPaper(writeMarks(scene)) : ''), [isNear, onPaper, scene]);
  const svg = useMarks(marks);
  useEffect(() => {
    if (isNear) return;
    const observer = new IntersectionObserver((seen) => setNear(seen.some(({ isIntersecting }) => isIntersecting)), {
      rootMargin: '300px',
    });
    observer.observe(svg.current!);
    return () => observer.disconnect();
  }, [isNear, svg]);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${scene.width} ${scene.height}`}
      width="100%"
      preserveAspectRatio="xMinYMin meet"
      className="block"
      style={SCENE_TEXT}
    />
  );
}

interface SmallProps {
  readonly figure: FigureEntry;
  readonly isChosen: boolean;
  readonly isMovable: boolean;
  /** Where another one that is dragged would come to lie. */
  readonly held: 'above' | 'below' | null;
  readonly onChoose: (id: string) => void;
  readonly onHold: (id: string | null) => void;
  readonly onDrop: () => void;
  readonly onStep: (by: 1 | -1) => void;
}

/** Functions of the film are new each time and do the same: what they look up they look up when they are called. */
const isSame = (a: SmallProps, b: SmallProps) =>
  a.figure === b.figure && a.isChosen === b.isChosen && a.isMovable === b.isMovable && a.held === b.held;

/** One figure of the film. It follows its own drawing, so that a change of one leaves the others alone. */
const Small = memo(function Small({ figure, isChosen, isMovable, held, onChoose, onHold, onDrop, onStep }: SmallProps) {
  const drawing = useDrawings(({ byFigure }) => byFigure[figure.id]);
  const { name, apart } = useFigureName(figure);
  const [isOver, setOver] = useState(false);
  const scene = drawing?.drawn?.scene;
  const mark =
    !isOver || held === null
      ? ''
      : held === 'above'
        ? 'shadow-[0_-3px_0_var(--color-boxwood)]'
        : 'shadow-[0_3px_0_var(--color-boxwood)]';
  return (
    <li
      className={`[contain-intrinsic-size:auto_100px] [content-visibility:auto] ${mark}`}
      onDragOver={(event) => {
        if (held === null) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        onDrop();
      }}
    >
      <button
        id={smallId(figure.id)}
        type="button"
        aria-pressed={isChosen}
        aria-keyshortcuts={isMovable ? 'Alt+ArrowUp Alt+ArrowDown' : undefined}
        title={apart === null ? name : `${name}\n${apart}`}
        draggable={isMovable}
        onDragStart={(event) => {
          event.dataTransfer.effectAllowed = 'move';
          event.dataTransfer.setData('text/plain', name);
          onHold(figure.id);
        }}
        onDragEnd={() => onHold(null)}
        onKeyDown={(event) => {
          if (!isMovable || !event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
          event.preventDefault();
          onStep(event.key === 'ArrowUp' ? -1 : 1);
        }}
        onClick={() => onChoose(figure.id)}
        className={`sheet relative block w-full border-l-4 bg-paper text-left outline-offset-0 ${isChosen ? 'border-boxwood' : 'border-transparent hover:border-hairline'}`}
      >
        <span aria-hidden className="block max-h-[84px] overflow-hidden">
          {scene ? (
            <SmallScene scene={scene} />
          ) : (
            <span className="block p-2 text-xs text-quiet">{drawing?.problem ? 'cannot be drawn' : 'drawing …'}</span>
          )}
        </span>
        <span className="block border-t border-hairline px-1.5 py-1 text-[11px] leading-[14px]">
          <span className="line-clamp-3">{name}</span>
          {apart !== null && <span className="mt-0.5 line-clamp-2 text-quiet">{apart}</span>}
        </span>
      </button>
    </li>
  );
}, isSame);
