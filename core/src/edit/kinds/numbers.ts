import type { EditKinds, ReportDraft } from '../edit';
import { refuseTaken } from '../taken';

/** Edits of measures and benchmarks. */
export const numbers: EditKinds<'add-measure' | 'change-measure' | 'add-benchmark' | 'change-benchmark'> = {
  'add-measure': {
    say: ({ measure }) => `add ${measure.name}`,
    apply: (draft, { measure }) => {
      if (!draft.tables.some(({ id }) => id === measure.table)) return;
      refuseTaken(
        'measure',
        measure.name,
        draft.measures.map(({ name }) => name),
      );
      draft.measures.push(structuredClone(measure) as ReportDraft['measures'][number]);
    },
  },

  'change-measure': {
    say: ({ measure, part }) => `change ${WORDS(Object.keys(part))}${measure}`,
    apply: (draft, { measure, part }) => {
      const one = draft.measures.find(({ name }) => name === measure);
      if (one) Object.assign(one, structuredClone(part));
    },
  },

  'add-benchmark': {
    say: ({ benchmark }) => `add ${benchmark.name}`,
    apply: (draft, { benchmark }) => {
      refuseTaken(
        'benchmark',
        benchmark.name,
        draft.benchmarks.map(({ name }) => name),
      );
      draft.benchmarks.push(structuredClone(benchmark) as ReportDraft['benchmarks'][number]);
    },
  },

  'change-benchmark': {
    say: ({ benchmark }) => `change ${benchmark.name}`,
    apply: (draft, { benchmark }) => {
      const at = draft.benchmarks.findIndex(({ name }) => name === benchmark.name);
      if (at >= 0) draft.benchmarks[at] = structuredClone(benchmark) as ReportDraft['benchmarks'][number];
    },
  },
};

/** What of a measure is changed, where it is more than its expression. */
const WORDS = ([first]: readonly string[]) =>
  first === 'aim' || first === 'tolerance' || first === 'format' || first === 'table' ? `the ${first} of ` : '';
