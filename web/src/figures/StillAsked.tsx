'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import type { LookOption } from '@bold-ruler/core/form';
import type { FigureEntry, Look } from '@bold-ruler/core/report';
import { ChoiceList } from '@/ui/ChoiceList';
import { Popover } from '@/ui/Popover';
import { setLook } from './commands';
import { factsOf, needsOf, offeredTo } from './look/needs';

const CHIP =
  'flex items-center gap-1 rounded-sm border border-transparent px-1.5 text-xs text-quiet hover:border-hairline hover:text-ink';

/** What a figure can still be asked, on its paper: each part of its look that says nothing yet. */
export function StillAsked({ figure, drawn }: { figure: FigureEntry; drawn: DrawnFigure }) {
  const facts = factsOf(drawn, figure.look);
  const left = offeredTo(drawn.form, facts).filter(({ key, offer }) => {
    const isSaid = (figure.look as Readonly<Record<string, unknown>>)[key] !== undefined;
    return !isSaid && (offer.kind === 'flag' || offer.kind === 'choice');
  });
  if (left.length === 0) return null;
  return (
    <div role="group" aria-label="What this figure can still show" className="flex flex-wrap gap-x-1">
      {left.map((option) => (
        <Asked key={option.key} option={option} figureId={figure.id} is={needsOf(facts)} />
      ))}
    </div>
  );
}

interface AskedProps {
  readonly option: LookOption;
  readonly figureId: string;
  readonly is: ReturnType<typeof needsOf>;
}

function Asked({ option: { key, offer }, figureId, is }: AskedProps) {
  const [open, setOpen] = useState(false);
  const put = (saying: string, value: unknown) => setLook(figureId, saying, key as keyof Look, value as never);
  if (offer.kind === 'flag')
    return (
      <button type="button" className={CHIP} onClick={() => put(offer.label, true)}>
        <Plus aria-hidden size={11} /> {offer.label}
      </button>
    );
  if (offer.kind !== 'choice') return null;
  const words = Object.entries(offer.words).filter(([value]) => {
    const need = offer.only?.[value];
    return need === undefined || is[need];
  });
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={offer.label}
      trigger={
        <button type="button" className={CHIP}>
          <Plus aria-hidden size={11} /> {offer.label.charAt(0).toLowerCase() + offer.label.slice(1)} …
        </button>
      }
    >
      <ChoiceList
        label={offer.label}
        choices={words.map(([id, text]) => ({ id, text }))}
        onChoose={(id) => {
          setOpen(false);
          put(offer.label.toLowerCase(), offer.flags ? id === 'yes' : id);
        }}
      />
    </Popover>
  );
}
