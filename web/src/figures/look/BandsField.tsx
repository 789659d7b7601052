'use client';

import { useState } from 'react';
import type { Bands } from '@bold-ruler/core/report';
import { DraftText } from '@/fields/DraftText';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';

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
  expression: {
    label: 'Edges as expressions, one a line, the worst first',
    hint: 'One to four lines, such as 0.9 * sum(cost)',
    first: ['sum(1)'],
    write: String,
    read: (word: string) => word,
  },
} as const;

/** What parts the edges that are typed. */
const PARTED: Record<Bands['of'], RegExp> = {
  benchmark: /[,;\s]+/,
  fixed: /[,;\s]+/,
  members: /[,;\s]+/,
  expression: /\n/,
};

/** Bands that one chooses begin with edges that can be drawn. */
function firstBands(of: Bands['of']): Bands {
  return { of, edges: OWN[of].first } as unknown as Bands;
}

/** The bands behind a figure: which edges, of what. */
export function BandsField({ figureId, bands }: { figureId: string; bands: Bands | null | undefined }) {
  const [wrong, setWrong] = useState(false);
  const shown = bands === null ? 'none' : bands === undefined ? 'fitting' : bands.of;
  const own = bands ? OWN[bands.of] : null;
  const edges =
    own && bands
      ? (bands.edges as readonly (number | string)[]).map(own.write).join(bands.of === 'expression' ? '\n' : ', ')
      : '';
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
            set(next === 'none' ? null : next === 'fitting' ? undefined : firstBands(next as Bands['of']));
          }}
        >
          <option value="fitting">that fit the aim</option>
          <option value="benchmark">parts of the benchmark</option>
          <option value="fixed">fixed numbers</option>
          <option value="members">where the members lie</option>
          <option value="expression">expressions</option>
          <option value="none">none</option>
        </select>
      </Field>
      {own && bands && (
        <Field label={own.label} {...(wrong ? { hint: own.hint } : {})}>
          <DraftText
            place={`bands of ${figureId}`}
            base={edges}
            rows={bands.of === 'expression' ? 3 : 1}
            className={`${INPUT} h-auto py-1`}
            aria-invalid={wrong || undefined}
            onTake={(text) => {
              const words = text
                .split(PARTED[bands.of])
                .map((word) => (bands.of === 'members' ? word.trim().toLowerCase() : word.trim()))
                .filter((word) => word !== '');
              const read: (number | string)[] = words.map(own.read);
              const right = read.length >= 1 && read.length <= 4 && !read.some(Number.isNaN);
              setWrong(!right);
              if (right) set({ ...bands, edges: read as unknown as Edges } as Bands);
              return right;
            }}
          />
        </Field>
      )}
    </>
  );
}
