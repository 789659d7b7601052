'use client';

import { declarationOf } from '@bold-ruler/core/form';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { counted } from '@bold-ruler/core/problem';
import type { DrawnRow, LevelBelow } from '@bold-ruler/core/desk';
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

interface Props {
  readonly figure: FigureEntry;
  readonly drawing: Drawing | undefined;
  readonly row: number | null;
  /** Fields a step may be opened by. */
  readonly fields: readonly string[];
}

/** Beside the paper: the chosen row in words, how the figure looks, what is to be known of it, and its files. */
export function Drawer({ figure, drawing, row, fields }: Props) {
  const drawn = drawing?.drawn ?? null;
  const chosen = drawn && row !== null ? drawn.rows[row] : undefined;
  /** The figure whose whole is reckoned. */
  const [whole, askForWhole] = useState<string | null>(null);
  return (
    <aside
      aria-label="About this figure"
      className="min-h-0 space-y-5 overflow-y-auto border-l border-hairline p-4 max-[799px]:border-t max-[799px]:border-l-0"
    >
      <Section title="Row">
        {chosen ? (
          <>
            <RowWords words={chosen.words} />
            {drawn && declarationOf(drawn.form).look.some(({ key }) => key === 'opened') && (
              <OpenStep
                figure={figure}
                by={drawn.readable.brief.by}
                row={chosen}
                below={drawn.below?.field ?? null}
                fields={fields}
              />
            )}
            {chosen.leads && <IntoRow figure={figure} chosen={chosen} below={drawn!.below} />}
            {chosen.row !== null && !chosen.isRest && <RowNote figure={figure} row={chosen} />}
            {chosen.row !== null && <ReckoningPanel figureId={figure.id} row={chosen.row} />}
          </>
        ) : (
          <>
            <p className="text-quiet">Point at a row, or walk through them with the arrow keys.</p>
            {drawn && whole !== figure.id && (
              <Button small className="mt-2" onClick={() => askForWhole(figure.id)}>
                How the whole came about
              </Button>
            )}
            {drawn && whole === figure.id && <ReckoningPanel figureId={figure.id} row={null} />}
          </>
        )}
      </Section>
      <Section title="Look">
        <LookPanel
          key={figure.id}
          figure={figure}
          title={drawn?.scene.title ?? ''}
          hasBenchmark={drawn?.readable.brief.against !== null}
          fields={drawn?.readable.brief.by ?? []}
          runs={drawn?.runs ?? false}
          isOverTime={(drawn?.readable.brief.grain ?? null) !== null}
          columns={drawn?.columns ?? []}
          form={drawn?.form ?? null}
        />
      </Section>
      {drawn && (
        <>
          <Section title="Highlight" id="drawer-highlight">
            <HighlightPanel figureId={figure.id} drawn={drawn} />
          </Section>
          <Section title="Ruler" id="drawer-ruler">
            <RulerPanel figureId={figure.id} drawn={drawn} />
          </Section>
        </>
      )}
      {drawn && (drawn.checks.length > 0 || drawn.leftOut.length > 0 || drawn.scene.dropped > 0) && (
        <Section title="To know">
          <ul className="space-y-2 text-[13px] leading-snug">
            {drawn.checks.map(({ severity, text }) => (
              <li key={text} className={`border-l-4 pl-2 ${severity === 'note' ? 'border-hairline' : 'border-behind'}`}>
                {sentence(text)}
              </li>
            ))}
            {drawn.leftOut.map(({ reason, rows }) => (
              <li key={reason} className="border-l-4 border-behind pl-2">
                {rows.toLocaleString('en')} left out: {reason}.
              </li>
            ))}
            {drawn.scene.dropped > 0 && (
              <li className="border-l-4 border-hairline pl-2">
                {counted(drawn.scene.dropped, 'label')} found no room.
              </li>
            )}
          </ul>
        </Section>
      )}
      <Section title="Files">
        <FilesPanel figureId={figure.id} drawn={drawn} />
      </Section>
    </aside>
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

function Section({ title, id, children }: { title: string; id?: string; children: ReactNode }) {
  return (
    <section id={id}>
      <h2 className="mb-2 text-xs font-semibold text-quiet">{title}</h2>
      {children}
    </section>
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
