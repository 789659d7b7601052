import { declared, own } from '../../form/declare';
import type { Shape } from '../../shape';
import { bands } from '../../form/options';

/** A number, or the name of a benchmark. */
const stop: Shape = { is: 'either', text: { is: 'text', most: 200, names: 'benchmark' }, other: { is: 'number' } };

/** Where the dials of a figure stop: numbers, or benchmarks, which follow the members. */
const stops = own<{ readonly low?: number | string; readonly high?: number | string }>()('stops', {
  is: 'object',
  of: { low: stop, high: stop },
});

/** A pointer between two stops. */
export const dialForm = declared({
  form: 'dial',
  purpose: 'a value between its stops',
  look: [stops, bands],
});
