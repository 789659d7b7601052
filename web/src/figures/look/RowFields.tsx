'use client';

import type { Look } from '@bold-ruler/core/report';
import { LookSelect } from './LookSelect';

interface Props {
  readonly figureId: string;
  readonly look: Look;
  readonly runs: boolean;
  readonly hasBenchmark: boolean;
}

/** What rows lie on, and where they land. */
export function RowFields({ figureId, look, runs, hasBenchmark }: Props) {
  if (!hasBenchmark) return null;
  return (
    <>
      <LookSelect
        figureId={figureId}
        look={look}
        of="scale"
        label="Rows lie on the ruler"
        choices={[
          ['', 'as their units allow'],
          ['value', 'by their values'],
          ['of benchmark', 'as parts of their benchmarks'],
        ]}
      />
      {(runs || look.landing) && <LandingField figureId={figureId} look={look} none="not shown" />}
    </>
  );
}

export function LandingField({ figureId, look, none }: Pick<Props, 'figureId' | 'look'> & { none: string | null }) {
  return (
    <LookSelect
      figureId={figureId}
      look={look}
      of="landing"
      label="Where they will land"
      choices={[
        ...(none === null ? [] : [['', none] as const]),
        [none === null ? '' : 'as so far', 'at the pace so far'],
        ['as planned', 'with the rest as planned'],
      ]}
    />
  );
}
