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

type Edges = Bands['edges'];

/** What can be typed for edges, by what they are of. */
const OWN = {
  benchmark: {
    label: 'Edges in % of the benchmark, the worst first',
    hint: 'One to four numbers, such as 80, 100',
    first: [0.8, 1],
    write: (edge: number | string) => String(Math.round(Number(edge) * 1000) / 10),
    read: (word: string) => Number(word) / 100,
  },
  fixed: {
    label: 'Edges, the worst first',
    hint: 'One to four numbers, such as 1000, 2500',
    first: [1],
    write: String,
    read: (word: string) => Number(word),
  },
  members: {
    label: 'Edges: percentiles, lowest, mean, median, highest',
    hint: 'One to four of them, such as 25, median, 75',
    first: [25, 75],
    write: String,
    read: (word: string) =>
      ['lowest', 'mean', 'median', 'highest'].includes(word)
        ? word
        : Number(word) >= 0 && Number(word) <= 100
          ? Number(word)
          : NaN,
  },
} as const;

function BandsField({ figureId, bands }: { figureId: string; bands: Bands | null | undefined }) {
  const [wrong, setWrong] = useState(false);
  const shown = bands === null ? 'none' : bands === undefined ? 'fitting' : bands.of;
  const own = bands ? OWN[bands.of] : null;
  const edges = own && bands ? (bands.edges as readonly (number | string)[]).map(own.write).join(', ') : '';
  const set = (next: Bands | null | undefined) => setLook(figureId, 'change the bands', 'bands', next);
  return (
    <>
      <Field label="Bands">
        <select
          className={INPUT}
          value={shown}
          onChange={(event) => {
            const next = event.target.value;
            setWrong(false);
            set(
              next === 'none'
                ? null
                : next === 'fitting'
                  ? undefined
                  : ({ of: next, edges: OWN[next as Bands['of']].first } as unknown as Bands),
            );
          }}
        >
          <option value="fitting">that fit the aim</option>
          <option value="benchmark">parts of the benchmark</option>
          <option value="fixed">fixed numbers</option>
          <option value="members">where the members lie</option>
          <option value="none">none</option>
        </select>
      </Field>
      {own && bands && (
        <Field label={own.label} {...(wrong ? { hint: own.hint } : {})}>
          <input
            key={edges}
            className={INPUT}
            defaultValue={edges}
            aria-invalid={wrong || undefined}
            onBlur={(event) => {
              const words = event.target.value
                .toLowerCase()
                .split(/[,;\s]+/)
                .filter((word) => word !== '');
              const read = words.map(own.read);
              const right = read.length >= 1 && read.length <= 4 && !read.some(Number.isNaN);
              setWrong(!right);
              if (right && event.target.value !== edges) set({ ...bands, edges: read as Edges } as Bands);
            }}
          />
        </Field>
      )}
    </>
  );
}
