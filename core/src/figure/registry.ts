import { declareForm, type Form } from '../form';
import { bars } from './bars/bars';
import { bullet } from './bullet/bullet';
import { pairs } from './pairs/pairs';
import { dial } from './dial/dial';
import { headline } from './headline/headline';
import { bump } from './bump/bump';
import { pace } from './pace/pace';
import { waterfall } from './waterfall/waterfall';
import { league } from './league/league';
import { table } from './table/table';
import { trend } from './trend/trend';
import type { FormDefinition } from './form';

/** How each form is drawn; a new one is a folder beside this file, a line here and a line in `form/forms.ts`. */
const DEFINITIONS: FormDefinition[] = [
  bullet,
  bars,
  pairs,
  waterfall,
  pace,
  bump,
  headline,
  dial,
  league,
  table,
  trend,
];

/** How a form is drawn. */
export function formDefinition(form: Form): FormDefinition {
  return DEFINITIONS.find((definition) => definition.form === form)!;
}

/** Takes in a form that was written elsewhere. */
export function defineForm(definition: FormDefinition): void {
  declareForm(definition);
  DEFINITIONS.push(definition);
}
