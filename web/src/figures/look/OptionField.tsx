'use client';

import type { ReactNode } from 'react';
import type { Form } from '@bold-ruler/core/brief';
import type { ColumnShown } from '@bold-ruler/core/desk';
import type { LookOption, Need } from '@bold-ruler/core/form';
import type { Look } from '@bold-ruler/core/report';
import { BandsField } from './BandsField';
import { ColumnFields } from './ColumnFields';
import {
  CountField,
  LookDecided,
  LookFlag,
  LookSelect,
  type CountKey,
  type DecidedKey,
  type FlagKey,
  type WordKey,
} from './LookSelect';
import { EmphasisField } from './EmphasisField';
import { OrderField, QuantityField } from './WaterfallFields';
import { ReferencesField } from './ReferencesField';
import { StopFields } from './StopFields';

/** What a field of the drawer may rest on. */
export interface FieldFacts {
  readonly figureId: string;
  readonly look: Look;
  readonly form: Form;
  /** The brief's fields. */
  readonly fields: readonly string[];
  readonly columns: readonly ColumnShown[];
  readonly is: Readonly<Record<Need, boolean>>;
}

/** Fields of their own, by the part of the look; a step is opened in its row, and bars are turned above. */
const OWN: Partial<Record<string, (facts: FieldFacts) => ReactNode>> = {
  bands: ({ figureId, look }) => <BandsField figureId={figureId} bands={look.bands} />,
  columns: (facts) => facts.columns.length > 0 && <ColumnFields {...facts} />,
  emphasis: (facts) => <EmphasisField {...facts} />,
  order: (facts) => <OrderField {...facts} />,
  panels: ({ figureId, look, fields }) => (
    <LookSelect
      figureId={figureId}
      look={look}
      of="panels"
      label="A panel for each"
      choices={[['', 'no panels'], ...named(fields)]}
    />
  ),
  quantity: (facts) => <QuantityField {...facts} />,
  references: (facts) => <ReferencesField {...facts} />,
  stops: (facts) => <StopFields {...facts} />,
};

const named = (names: readonly string[]) => names.map((name) => [name, name] as const);

/** A part of the look as its form offers it. */
export function OptionField({ option: { key, offer }, facts }: { option: LookOption; facts: FieldFacts }) {
  const { figureId, look, is } = facts;
  const own = { figureId, look };
  switch (offer.kind) {
    case 'choice': {
      if (offer.flags) return <LookDecided {...own} of={key as DecidedKey} {...offer} />;
      const words = Object.entries(offer.words).filter(([value]) => {
        const need = offer.only?.[value];
        return need === undefined || is[need];
      });
      return <LookSelect {...own} of={key as WordKey} label={offer.label} choices={[['', offer.none], ...words]} />;
    }
    case 'flag':
      return <LookFlag {...own} of={key as FlagKey} label={offer.label} />;
    case 'count':
      return <CountField {...own} of={key as CountKey} {...offer} />;
    case 'own':
      return OWN[key]?.(facts) ?? null;
  }
}
