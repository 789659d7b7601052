'use client';

import { Plus } from 'lucide-react';
import type { RulerEntry } from '@bold-ruler/core/report';
import { NameField } from '@/fields/NameField';
import { freeName } from '@/store/freeName';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { AmountField } from '@/fields/AmountField';
import { Field, INPUT } from '@/ui/Field';
import type { DrawnFigure } from '@bold-ruler/core/desk';

const FITS = {
  zero: 'from zero',
  symmetric: 'as far below zero as above',
  fixed: 'between fixed ends',
} as const;

interface Props {
  readonly figureId: string;
  readonly drawn: DrawnFigure;
  /** Asked for by a press on the figure: what can be chosen is at hand. */
  readonly isAsked: boolean;
}

/** The ruler a figure hangs on: its own, or one it shares with others. */
export function RulerPanel({ figureId, drawn, isAsked }: Props) {
  const report = useReport((state) => state.report);
  const { brief } = drawn.readable;
  const entry = report!.rulers.find(({ id }) => id === brief.ruler);
  const domain = drawn.scene.rulers[0]?.domain ?? [0, 1];
  const hang = (ruler: string | null) => void edit({ edit: 'set-clauses', figure: figureId, clauses: { ruler } });
  const change = (saying: string, next: RulerEntry) => void edit({ edit: 'change-ruler', saying, ruler: next });
  return (
    <div className="space-y-3">
      <select
        aria-label="Hung on"
        autoFocus={isAsked}
        className={INPUT}
        value={entry?.id ?? ''}
        onChange={(event) => {
          hang(event.target.value || null);
        }}
      >
        <option value="">a ruler of its own</option>
        {report!.rulers.map(({ id }) => (
          <option key={id} value={id}>
            {id}
          </option>
        ))}
      </select>
      {!entry && (
        <Button
          small
          onClick={() => {
            const id = freeName(
              'shared',
              report!.rulers.map((one) => one.id),
            );
            void edit({ edit: 'add-ruler', ruler: { id, kind: 'linear', fit: 'zero' } });
            hang(id);
          }}
        >
          <Plus aria-hidden size={14} /> New shared ruler
        </Button>
      )}
      {entry && (
        <>
          <p className="text-xs text-quiet">
            {drawn.sharing.length === 0
              ? 'No other figure hangs on it yet.'
              : `${drawn.sharing.length + 1} figures hang on it: this one and ${drawn.sharing.join(', ')}.`}
          </p>
          <NameField
            key={entry.id}
            kind="ruler"
            name={entry.id}
            taken={report!.rulers.map(({ id }) => id)}
            onRenamed={() => {}}
          />
          <Field label="It measures">
            <select
              className={INPUT}
              value={entry.kind}
              onChange={(event) =>
                change('measure in something else', {
                  id: entry.id,
                  kind: event.target.value as RulerEntry['kind'],
                  fit: entry.fit === 'fixed' ? 'zero' : entry.fit,
                })
              }
            >
              <option value="linear">values</option>
              <option value="of benchmark">parts of each row’s benchmark</option>
            </select>
          </Field>
          <Field label="It runs">
            <select
              className={INPUT}
              value={entry.fit}
              onChange={(event) => {
                const fit = event.target.value as RulerEntry['fit'];
                change('fit the ruler', {
                  id: entry.id,
                  kind: entry.kind,
                  fit,
                  ...(fit === 'fixed' ? { domain: [domain[0], domain[1]] } : {}),
                });
              }}
            >
              {Object.entries(FITS).map(([fit, words]) => (
                <option key={fit} value={fit}>
                  {words}
                </option>
              ))}
            </select>
          </Field>
          {entry.fit === 'fixed' && (
            <div className="grid grid-cols-2 gap-2">
              {([0, 1] as const).map((end) => (
                <AmountField
                  key={end}
                  place={`end ${end} of the ruler ${entry.id}`}
                  label={end === 0 ? 'From' : 'To'}
                  value={entry.domain?.[end]}
                  refuse={(value) => {
                    const [from, to] = withEnd(entry.domain, end, value);
                    return from < to ? null : 'A ruler begins below where it ends';
                  }}
                  onKeep={(value = 0) =>
                    change('move an end of the ruler', { ...entry, domain: withEnd(entry.domain, end, value) })
                  }
                />
              ))}
            </div>
          )}
        </>
      )}
    </div>
  );
}

/** The ends of a ruler with one of them moved. */
function withEnd(domain: readonly [number, number] | undefined, end: 0 | 1, value: number): [number, number] {
  const [from, to] = domain ?? [0, 1];
  return end === 0 ? [value, to] : [from, value];
}
