import { declared, choice, toggle, whole } from '../../form/declare';
import { bands, emphasis, panels } from '../../form/options';

/** Steps in time. */
export const trendForm = declared({
  form: 'trend',
  purpose: 'how it goes over time',
  lines: true,
  look: [
    choice(
      'draw',
      'Drawn with',
      'a line',
      { bars: 'bars', both: 'bars and a line', pairs: 'pairs of bars' },
      { only: { pairs: 'benchmark' }, further: ['line'] },
    ),
    choice(
      'fit',
      'Its own ruler runs',
      'from zero',
      { tight: 'from the lowest to the highest', symmetric: 'as far below zero as above' },
      { further: ['zero'] },
    ),
    whole('smooth', 'Smoothed over', { least: 2, most: 400, of: 'steps' }),
    toggle('trend', 'a straight line through the steps'),
    emphasis,
    panels,
    bands,
  ],
});
