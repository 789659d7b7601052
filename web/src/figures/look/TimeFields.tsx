'use client';

import type { Form } from '@bold-ruler/core/brief';
import type { Look } from '@bold-ruler/core/report';
import { DraftText } from '@/fields/DraftText';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';
import { LookFlag, LookSelect } from './LookSelect';
import { LandingField } from './RowFields';

interface Props {
  readonly figureId: string;
  readonly look: Look;
  readonly form: Form;
  readonly hasBenchmark: boolean;
}

/** How a figure over time is drawn. */
export function TimeFields({ figureId, look, form, hasBenchmark }: Props) {
  const emphasis = look.emphasis ?? [];
  return (
    <>
      {form === 'trend' && (
        <>
          <LookSelect
            figureId={figureId}
            look={look}
            of="draw"
            label="Drawn with"
            choices={[
              ['', 'a line'],
              ['bars', 'bars'],
              ['both', 'bars and a line'],
              ...(hasBenchmark ? [['pairs', 'pairs of bars'] as const] : []),
            ]}
          />
          <LookSelect
            figureId={figureId}
            look={look}
            of="fit"
            label="Its own ruler runs"
            choices={[
              ['', 'from zero'],
              ['tight', 'from the lowest to the highest'],
              ['symmetric', 'as far below zero as above'],
            ]}
          />
          <div className="grid grid-cols-2 gap-2">
            <Field label="Smoothed over">
              <DraftText
                place={`smoothing of ${figureId}`}
                type="number"
                min={2}
                max={400}
                className={INPUT}
                placeholder="steps"
                base={String(look.smooth ?? '')}
                onTake={(text) => {
                  const next = text === '' ? undefined : Math.min(400, Math.max(2, Math.round(Number(text)) || 2));
                  if (next !== look.smooth) setLook(figureId, 'smooth the line', 'smooth', next);
                }}
              />
            </Field>
            {look.smooth !== undefined && (
              <LookSelect
                figureId={figureId}
                look={look}
                of="window"
                label="which"
                choices={[
                  ['', 'this one last'],
                  ['preceding', 'those before'],
                  ['centred', 'around it'],
                ]}
              />
            )}
          </div>
          <LookFlag figureId={figureId} look={look} of="trend" label="a straight line through the steps" />
        </>
      )}
      {form === 'pace' && hasBenchmark && <LandingField figureId={figureId} look={look} none={null} />}
      {emphasis.length > 0 ? (
        <p className="text-[13px]">
          {emphasis.join(', ')} {emphasis.length === 1 ? 'stands' : 'stand'} out.{' '}
          <button
            type="button"
            className="underline"
            onClick={() => setLook(figureId, 'no one stands out', 'emphasis', undefined)}
          >
            No one
          </button>
        </p>
      ) : (
        form === 'bump' && <p className="text-xs text-quiet">Click a member to let it stand out, again to let it go.</p>
      )}
    </>
  );
}
