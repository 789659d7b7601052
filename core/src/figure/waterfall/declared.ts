import { decided, declared, own, toggle } from '../../form/declare';
import { orientation } from '../../form/options';

/** The largest steps come first, whatever their sign. */
const order = own<'size'>()('order', { is: 'words', words: ['size'] });

/** The measure of pieces by which a gap is split into volume, price and mix. */
const quantity = own<string>()('quantity', { is: 'text', most: 200, names: 'measure' }, 'benchmark');

/** What exchange rates did is a step of its own. */
const exchange = toggle('exchange', 'exchange rates as a step of their own', 'exchange rates');

/** A step that is opened: the member, and the field it is broken down by. */
const opened = own<{ readonly member: string; readonly by: string }>()('opened', {
  is: 'object',
  of: { member: { is: 'text', most: 500, defined: true }, by: { is: 'name', names: 'field' } },
});

/** Whether steps have a ruler of their own, on which totals are broken; left out: where they could not be read beside whole totals. */
const zoom = decided('zoom', 'Its ruler', 'so that steps can be read', {
  yes: 'about the steps, totals broken',
  no: 'from zero, totals whole',
});

/** Totals, and the steps from one to another. */
export const waterfallForm = declared({
  form: 'waterfall',
  purpose: 'what made the difference',
  most: 200,
  look: [orientation, order, zoom, quantity, exchange, opened],
});
