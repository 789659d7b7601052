'use client';

import { declarationOf } from '@bold-ruler/core/form';
import dynamic from 'next/dynamic';
import { Tabs } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { counted } from '@bold-ruler/core/problem';
import type { DrawnFigure, DrawnRow, LevelBelow } from '@bold-ruler/core/desk';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { Drawing } from '@/store/drawings';
import { Button } from '@/ui/Button';
import { goInto } from './commands';

// These are there when a figure is first drawn.
const HighlightPanel = dynamic(() => import('./HighlightPanel').then((module) => module.HighlightPanel), {
  ssr: false,
});
const RulerPanel = dynamic(() => import('./RulerPanel').then((module) => module.RulerPanel), { ssr: false });
const LookPanel = dynamic(() => import('./LookPanel').then((module) => module.LookPanel), { ssr: false });
const FilesPanel = dynamic(() => import('./FilesPanel').then((module) => module.FilesPanel), { ssr: false });
const OpenStep = dynamic(() => import('./OpenStep').then((module) => module.OpenStep), { ssr: false });
// These come when a row is first looked at.
const RowNote = dynamic(() => import('./NoteFields').then((module) => module.RowNote), { ssr: false });
const ReckoningPanel = dynamic(() => import('./ReckoningPanel').then((module) => module.ReckoningPanel), {
  ssr: false,
});

/** What can lie in the drawer: one thing at a time. */
export type DrawerPart = 'row' | 'look' | 'highlight' | 'ruler' | 'files';
const PARTS: Readonly<Record<DrawerPart, string>> = {
  row: 'Row',
  look: 'Look',
  highlight: 'Highlight',
  ruler: 'Ruler',
  files: 'Files',
};

interface Props {
  readonly figure: FigureEntry;
  readonly drawing: Drawing | undefined;
  readonly row: number | null;
  /** Fields a step may be opened by. */
  readonly fields: readonly string[];
  /** `isAsked`: by a press on the figure; what can be chosen there is at hand. */
  readonly open: { readonly part: DrawerPart; readonly isAsked: boolean };
  readonly onOpen: (part: DrawerPart) => void;
}

/** Beside the paper: what was pressed, and nothing else; beneath it what is to be known of the figure. */
export function Drawer({ figure, drawing, row, fields, open, onOpen }: Props) {
  const drawn = drawing?.drawn ?? null;
  const chosen = drawn && row !== null ? drawn.rows[row] : undefined;
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (open.isAsked) panel.current?.querySelector('select')?.focus({ preventScroll: true });
  }, [open]);
  return (
    <aside
      aria-label="About this figure"
      className="flex min-h-0 flex-col border-l border-hairline max-[799px]:border-t max-[799px]:border-l-0"
    >
      <Tabs.Root
        className="flex min-h-0 flex-col"
        value={open.part}
        onValueChange={(part) => onOpen(part as DrawerPart)}
        activationMode="manual"
      >
        <Tabs.List aria-label="In the drawer" className="flex shrink-0 border-b border-hairline px-2 pt-1">
          {(Object.keys(PARTS) as DrawerPart[]).map((part) => (
            <Tabs.Trigger
              key={part}
              value={part}
              disabled={!drawn && part !== 'look'}
              className="h-9 grow border-b-4 border-transparent px-1.5 text-[13px] text-quiet hover:text-ink disabled:opacity-50 data-[state=active]:border-boxwood data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {PARTS[part]}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content ref={panel} value={open.part} className="min-h-0 overflow-y-auto p-4 outline-offset-[-3px]">
          {open.part === 'row' && drawn && (
            <RowPart key={figure.id} figure={figure} drawn={drawn} chosen={chosen} fields={fields} />
          )}
          {open.part === 'look' && (
            <LookPanel
              key={figure.id}
              figure={figure}
              title={drawn?.scene.title ?? ''}
              hasBenchmark={drawn?.readable.brief.against !== null}
              fields={drawn?.readable.brief.by ?? []}
              runs={drawn?.runs ?? false}
              exchanges={drawn?.exchanges ?? false}
              isOverTime={(drawn?.readable.brief.grain ?? null) !== null}
              columns={drawn?.columns ?? []}
              form={drawn?.form ?? null}
            />
          )}
          {open.part === 'highlight' && drawn && (
            <HighlightPanel figureId={figure.id} drawn={drawn} isAsked={open.isAsked} />
          )}
          {open.part === 'ruler' && drawn && <RulerPanel figureId={figure.id} drawn={drawn} isAsked={open.isAsked} />}
          {open.part === 'files' && <FilesPanel figureId={figure.id} drawn={drawn} />}
          {drawn && <ToKnow drawn={drawn} />}
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}

/** The row that was chosen, or the whole. */
function RowPart({
  figure,
  drawn,
  chosen,
  fields,
}: {
  figure: FigureEntry;
  drawn: DrawnFigure;
  chosen: DrawnRow | undefined;
  fields: readonly string[];
}) {
  const [isWhole, askForWhole] = useState(false);
  if (!chosen)
    return (
      <>
        <p className="text-quiet">Point at a row, or walk through them with the arrow keys.</p>
        {isWhole ? (
          <ReckoningPanel figureId={figure.id} row={null} />
        ) : (
          <Button small className="mt-2" onClick={() => askForWhole(true)}>
            How the whole came about
          </Button>
        )}
      </>
    );
  return (
    <>
      <RowWords words={chosen.words} />
      {declarationOf(drawn.form).look.some(({ key }) => key === 'opened') && (
        <OpenStep
          figure={figure}
          by={drawn.readable.brief.by}
          row={chosen}
          below={drawn.below?.field ?? null}
          fields={fields}
        />
      )}
      {chosen.leads && <IntoRow figure={figure} chosen={chosen} below={drawn.below} />}
      {chosen.row !== null && !chosen.isRest && <RowNote figure={figure} row={chosen} />}
      {chosen.row !== null && <ReckoningPanel figureId={figure.id} row={chosen.row} />}
    </>
  );
}

/** What a reader of the figure must know, whatever lies in the drawer. */
function ToKnow({ drawn: { checks, leftOut, scene } }: { drawn: DrawnFigure }) {
  if (checks.length === 0 && leftOut.length === 0 && scene.dropped === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="mb-2 text-xs font-semibold text-quiet">To know</h2>
      <ul className="space-y-2 text-[13px] leading-snug">
        {checks.map(({ severity, text }) => (
          <li key={text} className={`border-l-4 pl-2 ${severity === 'note' ? 'border-hairline' : 'border-behind'}`}>
            {sentence(text)}
          </li>
        ))}
        {leftOut.map(({ reason, rows }) => (
          <li key={reason} className="border-l-4 border-behind pl-2">
            {rows.toLocaleString('en')} left out: {reason}.
          </li>
        ))}
        {scene.dropped > 0 && (
          <li className="border-l-4 border-hairline pl-2">{counted(scene.dropped, 'label')} found no room.</li>
        )}
      </ul>
    </section>
  );
}

/** Goes into the chosen row, and says what is not known down there. */
function IntoRow({ figure, chosen, below }: { figure: FigureEntry; chosen: DrawnRow; below: LevelBelow | null }) {
  const isRest = below === null || chosen.isRest;
  return (
    <>
      <Button
        small
        className="mt-2"
        title="Shift + Enter, or a double press on the row"
        onClick={() => void goInto(figure, chosen.row!, chosen.name)}
      >
        {isRest ? 'Open the rest' : `Into ${chosen.name}, by ${below.field}`}
      </Button>
      {!isRest && below.loses !== null && (
        <p className="mt-1 text-xs text-quiet">
          {below.loses} is not known by {below.field}: it is left away there.
        </p>
      )}
    </>
  );
}

function RowWords({ words }: { words: string }) {
  const [name, ...parts] = words.split(/: |; /);
  return (
    <div className="font-figure text-[14px] leading-snug">
      <strong className="block text-[15px]">{name}</strong>
      {parts.map((part) => (
        <span key={part} className="block">
          {part}
        </span>
      ))}
    </div>
  );
}

function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
