import { bulletForm } from '../figure/bullet/declared';
import { barsForm } from '../figure/bars/declared';
import { pairsForm } from '../figure/pairs/declared';
import { waterfallForm } from '../figure/waterfall/declared';
import { paceForm } from '../figure/pace/declared';
import { bumpForm } from '../figure/bump/declared';
import { headlineForm } from '../figure/headline/declared';
import { dialForm } from '../figure/dial/declared';
import { leagueForm } from '../figure/league/declared';
import { tableForm } from '../figure/table/declared';
import { trendForm } from '../figure/trend/declared';
import type { FormDeclaration, LookOf, LookOption } from './declare';

/** Every form; a new one is a folder of `figure/`, a line here and a line in `figure/registry.ts`. */
const DECLARED = [
  bulletForm,
  barsForm,
  pairsForm,
  waterfallForm,
  paceForm,
  bumpForm,
  headlineForm,
  dialForm,
  leagueForm,
  tableForm,
  trendForm,
] as const;

export type Form = (typeof DECLARED)[number]['form'];
/** The parts of a look that are some forms' own. */
export type FormLook = LookOf<(typeof DECLARED)[number]['look'][number]>;

const known: FormDeclaration[] = [...DECLARED];

/** The names of all forms. */
export const forms = (): readonly Form[] => known.map(({ form }) => form as Form);

/** What a form says of itself. */
export function declarationOf(form: Form): FormDeclaration {
  return known.find((one) => one.form === form)!;
}

/** Every part of a look that is some form's own, each once. */
export const lookOptions = (): readonly LookOption[] => [
  ...new Map(known.flatMap(({ look }) => look.map((option) => [option.key, option]))).values(),
];

/** Takes in a form that was written elsewhere. */
export function declareForm(declaration: FormDeclaration): void {
  known.push(declaration);
}

/** A look as a form knows it: what was said for another form before waits, and changes nothing. */
export function lookFor<L extends object>(form: Form, look: L): L {
  const mine = new Set(declarationOf(form).look.map(({ key }) => key));
  const owned = new Set(lookOptions().map(({ key }) => key));
  return Object.fromEntries(Object.entries(look).filter(([key]) => !owned.has(key) || mine.has(key))) as L;
}
