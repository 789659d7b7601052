import { declared } from '../../form/declare';
import { bands, landing, orientation, panelsOfRows, scale } from '../../form/options';

/** One row a member: an actual bar, a reference rule, bands behind. */
export const bulletForm = declared({
  form: 'bullet',
  purpose: 'how far each is from its benchmark',
  stacks: true,
  fromZero: true,
  look: [orientation, scale, landing, panelsOfRows, bands],
});
