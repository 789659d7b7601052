import { choice, declared, own, toggle } from '../../form/declare';

/** How a headline stands: as text, over a bar, or beside one. */
const layout = choice(
  'layout',
  'Layout',
  'text',
  { over: 'over a bar', beside: 'beside a bar' },
  { further: ['text'], half: true },
);

/** Which changes a headline names; both when left out. */
const change = choice('change', 'Changes as', 'both', { percent: '%', absolute: 'amount' }, { half: true });

/** Benchmarks a headline is held against beside the brief's own. */
const references = own<readonly string[]>()('references', {
  is: 'list',
  of: { is: 'text', most: 200, required: true, names: 'benchmark' },
  most: 4,
  saying: '${path} may have at most 4 benchmarks',
});

/** One number. */
export const headlineForm = declared({
  form: 'headline',
  purpose: 'one number and how it changed',
  look: [layout, change, toggle('spark', 'with a line of its steps'), references],
});
