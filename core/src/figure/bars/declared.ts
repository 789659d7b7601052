import { declared } from '../../form/declare';
import { landing, orientation, panelsOfRows, scale } from '../../form/options';

/** One bar a member, with marks where a reference is passed. */
export const barsForm = declared({
  form: 'bars',
  purpose: 'how large each is, and whether it passes its reference',
  stacks: true,
  fromZero: true,
  look: [orientation, scale, landing, panelsOfRows],
});
