import { declared } from '../../form/declare';
import { emphasis } from '../../form/options';

/** Places over time. */
export const bumpForm = declared({
  form: 'bump',
  purpose: 'who rises and who falls',
  most: 200,
  ranks: true,
  lines: true,
  look: [emphasis],
});
