import { declarationOf, type LookOption, type Need } from '@bold-ruler/core/form';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import type { Form } from '@bold-ruler/core/brief';
import type { Look } from '@bold-ruler/core/report';

/** What of a figure its options rest on. */
export interface NeedFacts {
  readonly look: Look;
  readonly hasBenchmark: boolean;
  readonly fields: readonly string[];
  readonly runs: boolean;
  /** Amounts are converted by the rates of their own periods, and held against another one. */
  readonly exchanges: boolean;
}

export const needsOf = ({
  look,
  hasBenchmark,
  fields,
  runs,
  exchanges,
}: NeedFacts): Readonly<Record<Need, boolean>> => ({
  benchmark: hasBenchmark,
  'running period': hasBenchmark && (runs || look.landing !== undefined),
  'a field': fields.length > 0,
  'two fields': fields.length > 1,
  'exchange rates': exchanges || look.exchange === true,
});

/** The parts of a look that a form offers a figure as it is now. */
export function offeredTo(form: Form, facts: NeedFacts): readonly LookOption[] {
  const is = needsOf(facts);
  return declarationOf(form).look.filter(({ needs }) => needs === undefined || is[needs]);
}

export const factsOf = (drawn: DrawnFigure, look: Look): NeedFacts => ({
  look,
  hasBenchmark: drawn.readable.brief.against !== null,
  fields: drawn.readable.brief.by,
  runs: drawn.runs,
  exchanges: drawn.exchanges,
});
