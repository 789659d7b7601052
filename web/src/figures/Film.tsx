'use client';

import { Copy, Plus, Trash2 } from 'lucide-react';
import { memo, useEffect, useRef } from 'react';
import type { FigureEntry } from '@bold-ruler/core/report';
import { useDrawings } from '@/store/drawings';
import { Button } from '@/ui/Button';
import { SceneMarks } from './SceneMarks';

interface Props {
  readonly figures: readonly FigureEntry[];
  readonly chosen: string;
  readonly onChoose: (id: string) => void;
  readonly onNew: () => void;
  readonly onDuplicate: () => void;
  readonly onRemove: () => void;
}

/** All figures of the report, small, in order. */
export function Film({ figures, chosen, onChoose, onNew, onDuplicate, onRemove }: Props) {
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    list.current?.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <aside aria-label="Film of figures" className="flex min-h-0 flex-col border-r border-hairline">
      <ol ref={list} className="min-h-0 grow space-y-2 overflow-y-auto p-3">
        {figures.map((figure) => (
          <Small key={figure.id} figure={figure} isChosen={figure.id === chosen} onChoose={onChoose} />
        ))}
      </ol>
      <div className="flex justify-between border-t border-hairline p-2">
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

interface SmallProps {
  readonly figure: FigureEntry;
  readonly isChosen: boolean;
  readonly onChoose: (id: string) => void;
}

/** One figure of the film. It follows its own drawing, so that a change of one leaves the others alone. */
const Small = memo(function Small({ figure, isChosen, onChoose }: SmallProps) {
  const drawing = useDrawings(({ byFigure }) => byFigure[figure.id]);
  const scene = drawing?.drawn?.scene;
  return (
    <li className="[contain-intrinsic-size:auto_84px] [content-visibility:auto]">
      <button
        type="button"
        aria-pressed={isChosen}
        onClick={() => onChoose(figure.id)}
        className={`sheet relative block w-full border-l-4 bg-paper text-left outline-offset-0 ${isChosen ? 'border-boxwood' : 'border-transparent hover:border-hairline'}`}
      >
        <span className="sr-only">{scene?.title ?? figure.brief}</span>
        <span aria-hidden className="block max-h-[84px] overflow-hidden">
          {scene ? (
            <svg
              viewBox={`0 0 ${scene.width} ${scene.height}`}
              width="100%"
              preserveAspectRatio="xMinYMin meet"
              className="block"
            >
              <SceneMarks scene={scene} />
            </svg>
          ) : (
            <span className="block p-2 text-xs text-quiet">{drawing?.problem ? 'cannot be drawn' : 'drawing …'}</span>
          )}
        </span>
      </button>
    </li>
  );
});
