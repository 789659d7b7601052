import type { Form } from '../brief';
import { bullet } from './bullet/bullet';
import type { FormDefinition } from './form';

/** Every form this version draws; adding one is a folder beside this file and a line here. */
const DEFINITIONS: readonly FormDefinition[] = [bullet];

export const DRAWN_FORMS: readonly Form[] = DEFINITIONS.map(({ form }) => form);

export function formDefinition(form: Form): FormDefinition {
  return DEFINITIONS.find((definition) => definition.form === form)!;
}
