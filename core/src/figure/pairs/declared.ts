import { declared } from '../../form/declare';
import { landing, orientation, panelsOfRows, scale } from '../../form/options';

/** Two bars a member. */
export const pairsForm = declared({
  form: 'pairs',
  purpose: 'actual and reference side by side',
  stacks: true,
  fromZero: true,
  look: [orientation, scale, landing, panelsOfRows],
});
