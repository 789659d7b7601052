import type { EditKinds } from '../edit';
import { addTo, BENCHMARK, MEASURE, replaceIn } from './lists';

/** Edits of measures and benchmarks. */
export const numbers: EditKinds<'add-measure' | 'change-measure' | 'add-benchmark' | 'change-benchmark'> = {
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
};

/** What of a measure is changed, where it is more than its expression. */
function wordsOf([first]: readonly string[]): string {
  return first === 'aim' || first === 'tolerance' || first === 'format' || first === 'table' ? `the ${first} of ` : '';
}
