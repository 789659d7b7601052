import { listed } from '../../problem';
import type { EditKinds } from '../edit';
import { addTo, BENCHMARK, MEASURE, replaceIn } from './lists';

/** Edits of measures and benchmarks. */
export const numbers: EditKinds<
  'add-measure' | 'change-measure' | 'add-benchmark' | 'change-benchmark' | 'convert-amounts'
> = {
  'add-measure': {
    say: ({ measure }) => `add ${measure.name}`,
    apply: (draft, { measure }) => {
      if (draft.tables.some(({ id }) => id === measure.table)) addTo(draft.measures, measure, MEASURE);
    },
  },

  'change-measure': {
    say: ({ measure, part }) => `change ${wordsOf(Object.keys(part))}${measure}`,
    apply: (draft, { measure, part }) => {
      const one = draft.measures.find(({ name }) => name === measure);
      if (one) Object.assign(one, structuredClone(part));
    },
  },

  'add-benchmark': {
    say: ({ benchmark }) => `add ${benchmark.name}`,
    apply: (draft, { benchmark }) => addTo(draft.benchmarks, benchmark, BENCHMARK),
  },

  'change-benchmark': {
    say: ({ benchmark }) => `change ${benchmark.name}`,
    apply: (draft, { benchmark }) => replaceIn(draft.benchmarks, benchmark, BENCHMARK),
  },

  'convert-amounts': {
    say: ({ amounts }) =>
      `${amounts.every(({ currency }) => currency) ? 'convert' : 'no longer convert'} ${listed(
        amounts.map(({ name }) => name),
        'and',
      )}`,
    apply: (draft, { amounts, rates }) => {
      for (const { kind, name, currency } of amounts) {
        const one =
          kind === 'measure'
            ? draft.measures.find((some) => some.name === name)
            : draft.benchmarks.find((some) => some.name === name && some.kind === 'table');
        if (!one || ('kind' in one && one.kind !== 'table')) continue;
        if (!currency) {
          delete one.currency;
          continue;
        }
        const table = draft.tables.find(({ id }) => id === currency.rates);
        if (!table) continue;
        if (rates) table.rates = { ...rates };
        one.currency = structuredClone(currency) as NonNullable<typeof one.currency>;
        if ('format' in one) one.format = { ...one.format, style: 'currency', currency: currency.to };
      }
    },
  },
};

/** What of a measure is changed, where it is more than its expression. */
function wordsOf([first]: readonly string[]): string {
  return first === 'aim' || first === 'tolerance' || first === 'format' || first === 'table' ? `the ${first} of ` : '';
}
