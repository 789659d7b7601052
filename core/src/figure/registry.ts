import type { Form } from '../brief';
import { bars } from './bars/bars';
import { bullet } from './bullet/bullet';
import { pairs } from './pairs/pairs';
import { dial } from './dial/dial';
import { headline } from './headline/headline';
import type { FormDefinition } from './form';

/** Every form this version draws; adding one is a folder beside this file and a line here. */
const DEFINITIONS: readonly FormDefinition[] = [bullet, bars, pairs, dial, headline];

export const DRAWN_FORMS: readonly Form[] = DEFINITIONS.map(({ form }) => form);

export function formDefinition(form: Form): FormDefinition {
  return DEFINITIONS.find((definition) => definition.form === form)!;
}
