'use client';

import { useState } from 'react';
import type { Bands, FigureEntry } from '@bold-ruler/core/report';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from './commands';

interface Props {
  readonly figure: FigureEntry;
  /** The title as it reads now. */
  readonly title: string;
  readonly hasBenchmark: boolean;
}

/** How a figure looks: its direction, its title, its bands. */
export function LookPanel({ figure, title, hasBenchmark }: Props) {
  const { look } = figure;
  const orientation = look.orientation ?? 'horizontal';
  return (
    <div className="space-y-3">
      <div role="radiogroup" aria-label="Bars run" className="flex">
        {(['horizontal', 'vertical'] as const).map((way) => (
          <button
            key={way}
            type="button"
            role="radio"
            aria-checked={orientation === way}
            onClick={() => setLook(figure.id, 'turn the figure', 'orientation', way === 'horizontal' ? undefined : way)}
            className={`h-8 grow border px-2 text-[13px] first:rounded-l-sm last:rounded-r-sm last:border-l-0 ${orientation === way ? 'border-ink bg-ink text-paper' : 'border-hairline bg-paper hover:border-ink'}`}
          >
            {way === 'horizontal' ? 'across' : 'upright'}
          </button>
        ))}
      </div>
      <Field label="Title, with values in braces">
        <textarea
          key={look.title ?? ''}
          rows={3}
          className={`${INPUT} h-auto py-1 leading-snug`}
          defaultValue={look.title ?? ''}
          placeholder={title}
          onBlur={(event) => {
            const text = event.target.value.trim();
            if (text !== (look.title ?? ''))
              setLook(figure.id, 'change the title', 'title', text === '' ? undefined : text);
          }}
        />
      </Field>
      <p className="text-xs text-quiet">
        For example {'“{measure} {gap} {ahead of|behind} {benchmark}”'}. Left empty, it writes itself.
      </p>
      {hasBenchmark && <BandsField figureId={figure.id} bands={look.bands} />}
    </div>
  );
}

/** Band edges in per cent of the benchmark, the worst first. */
function BandsField({ figureId, bands }: { figureId: string; bands: Bands | null | undefined }) {
  const [wrong, setWrong] = useState(false);
  const shown = bands === null ? 'none' : bands === undefined ? 'fitting' : 'own';
  const edges = bands ? bands.edges.map((edge) => Math.round(edge * 1000) / 10).join(', ') : '';
  return (
    <>
      <Field label="Bands">
        <select
          className={INPUT}
          value={shown}
          onChange={(event) => {
            const next = event.target.value;
            setLook(
              figureId,
              'change the bands',
              'bands',
              next === 'none' ? null : next === 'fitting' ? undefined : { of: 'benchmark', edges: [0.8, 1] },
            );
          }}
        >
          <option value="fitting">that fit the aim</option>
          <option value="own">of my own</option>
          <option value="none">none</option>
        </select>
      </Field>
      {bands && (
        <Field
          label="Edges in % of the benchmark, the worst first"
          {...(wrong ? { hint: 'One to four numbers, such as 80, 100' } : {})}
        >
          <input
            key={edges}
            className={INPUT}
            defaultValue={edges}
            aria-invalid={wrong || undefined}
            onBlur={(event) => {
              const numbers = event.target.value
                .split(/[,;\s]+/)
                .filter((word) => word !== '')
                .map(Number);
              const right = numbers.length >= 1 && numbers.length <= 4 && numbers.every(Number.isFinite);
              setWrong(!right);
              if (right && event.target.value !== edges)
                setLook(figureId, 'change the bands', 'bands', { ...bands, edges: numbers.map((n) => n / 100) });
            }}
          />
        </Field>
      )}
    </>
  );
}
