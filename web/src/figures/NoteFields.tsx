'use client';

import { useState } from 'react';
import type { DrawnRow } from '@bold-ruler/core/desk';
import type { FigureEntry, LookNote, LookSpan } from '@bold-ruler/core/report';
import { WrittenText } from '@/fields/WrittenText';
import { Button } from '@/ui/Button';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from './commands';

const placeOf = ({ at }: LookNote): string => JSON.stringify([Object.entries(at?.key ?? {}).sort(), at?.step ?? null]);

/** What a row's note hangs on. */
function anchorOf({ key, step }: DrawnRow): Pick<LookNote, 'at'> {
  const at = { ...(Object.keys(key).length > 0 ? { key } : {}), ...(step === null ? {} : { step }) };
  return Object.keys(at).length > 0 ? { at } : {};
}

/** What is written at the row that was pressed; an emptied note is taken off. */
export function RowNote({ figure: { id, look }, row }: { figure: FigureEntry; row: DrawnRow }) {
  const anchor = anchorOf(row);
  const place = placeOf({ text: '', ...anchor });
  const notes = look.notes ?? [];
  const at = notes.findIndex((note) => placeOf(note) === place);
  const write = (text: string, session: string) => {
    const said = text.trim();
    const others = notes.filter((_, i) => i !== at);
    const next =
      said === '' ? others : at < 0 ? [...notes, { text, ...anchor }] : notes.with(at, { ...notes[at]!, text });
    setLook(id, `write a note at ${row.name}`, 'notes', next.length > 0 ? next : undefined, session);
  };
  return (
    <div className="mt-3">
      <Field label={`Note at ${row.name}`}>
        <WrittenText
          key={place}
          className={INPUT}
          value={at < 0 ? '' : notes[at]!.text}
          maxLength={300}
          placeholder="what happened here"
          onWrite={write}
        />
      </Field>
    </div>
  );
}

/** `Larkmoor, 2026-03`. */
const whereOf = ({ at }: LookNote): string =>
  [
    ...Object.values(at?.key ?? {}).map((member) => member ?? '(blank)'),
    ...(at?.step === undefined ? [] : [at.step]),
  ].join(', ') || 'the whole';

/** All notes of a figure, to be taken off, and the periods that are marked in one over time. */
export function NotesFields({ figure: { id, look }, isOverTime }: { figure: FigureEntry; isOverTime: boolean }) {
  const { notes = [], spans = [] } = look;
  const putSpans = (next: readonly LookSpan[], saying: string, session?: string) =>
    setLook(id, saying, 'spans', next.length > 0 ? next : undefined, session);
  const takeOff = (i: number) => {
    const left = notes.filter((_, j) => j !== i);
    setLook(id, 'take off a note', 'notes', left.length > 0 ? left : undefined);
  };
  if (notes.length === 0 && spans.length === 0 && !isOverTime) return null;
  return (
    <fieldset className="space-y-1.5">
      <legend className="mb-1 text-xs text-quiet">Notes and periods</legend>
      {notes.map((note, i) => (
        <Listed
          key={`${placeOf(note)} ${i}`}
          where={whereOf(note)}
          text={note.text}
          remove={`Take off the note “${note.text}”`}
          onRemove={() => takeOff(i)}
        />
      ))}
      {spans.map((span, i) => (
        <Listed
          key={`${span.from} ${i}`}
          where={span.to === undefined ? span.from : `${span.from} to ${span.to}`}
          text={span.text}
          remove={`Take off the period “${span.text}”`}
          onRemove={() =>
            putSpans(
              spans.filter((_, j) => j !== i),
              'take off a period',
            )
          }
        />
      ))}
      {isOverTime && <NewSpan onAdd={(span) => putSpans([...spans, span], 'mark a period')} />}
    </fieldset>
  );
}

interface ListedProps {
  readonly where: string;
  readonly text: string;
  readonly remove: string;
  readonly onRemove: () => void;
}

function Listed({ where, text, remove, onRemove }: ListedProps) {
  return (
    <div className="flex items-baseline gap-2 text-[13px] leading-snug">
      <span className="min-w-0 flex-1 break-words">
        <span className="text-quiet">{where}: </span>
        {text}
      </span>
      <Button small look="bare" aria-label={remove} title={remove} onClick={onRemove}>
        ×
      </Button>
    </div>
  );
}

/** As files write days and periods. */
const PERIOD = /^\d{4}(?:-(?:0[1-9]|1[0-2])(?:-\d{2})?|-Q[1-4])?$/;

function NewSpan({ onAdd }: { onAdd: (span: LookSpan) => void }) {
  const [{ text, from, to }, put] = useState({ text: '', from: '', to: '' });
  const wrong = [from, to].find((word) => word !== '' && !PERIOD.test(word));
  const isWhole = text.trim() !== '' && from !== '' && wrong === undefined;
  const add = () => {
    if (!isWhole) return;
    onAdd({ text: text.trim(), from, ...(to === '' || to === from ? {} : { to }) });
    put({ text: '', from: '', to: '' });
  };
  const field = (of: 'text' | 'from' | 'to', label: string, placeholder: string) => (
    <input
      aria-label={label}
      className={INPUT}
      value={{ text, from, to }[of]}
      placeholder={placeholder}
      onChange={({ target: { value } }) => put((before) => ({ ...before, [of]: value }))}
      onKeyDown={({ key }) => key === 'Enter' && add()}
    />
  );
  return (
    <div className="space-y-1.5">
      {field('text', 'What the period was', 'mark a period: campaign')}
      <div className="grid grid-cols-2 gap-2">
        {field('from', 'First day or month of the period', 'from 2026-02')}
        {field('to', 'Last day or month of the period', 'to 2026-02-20')}
      </div>
      {wrong !== undefined && (
        <p role="alert" className="text-xs text-behind">
          “{wrong}” is no day and no period: write 2026-02-20, 2026-02, 2026-Q2 or 2026.
        </p>
      )}
      {(text !== '' || from !== '') && (
        <Button small disabled={!isWhole} onClick={add}>
          Mark it
        </Button>
      )}
    </div>
  );
}
