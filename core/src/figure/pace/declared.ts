import { declared } from '../../form/declare';
import { emphasis, landingAlways, panels } from '../../form/options';

/** Running sums beside where they should be. */
export const paceForm = declared({
  form: 'pace',
  purpose: 'are we on course',
  lines: true,
  look: [landingAlways, emphasis, panels],
});
