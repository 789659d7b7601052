import type { EditKinds, ReportDraft } from '../edit';
import { refuseTaken } from '../taken';

/** Edits of highlights and shared rulers. */
export const painting: EditKinds<'add-highlight' | 'change-highlight' | 'add-ruler' | 'change-ruler'> = {
  'add-highlight': {
    say: ({ highlight }) => `new highlight ${highlight.name}`,
    apply: (draft, { highlight }) => {
      refuseTaken(
        'highlight',
        highlight.name,
        draft.highlights.map(({ name }) => name),
      );
      draft.highlights.push(structuredClone(highlight) as ReportDraft['highlights'][number]);
    },
  },

  'change-highlight': {
    say: ({ highlight }) => `change the highlight ${highlight.name}`,
    apply: (draft, { highlight }) => {
      const at = draft.highlights.findIndex(({ name }) => name === highlight.name);
      if (at >= 0) draft.highlights[at] = structuredClone(highlight) as ReportDraft['highlights'][number];
    },
  },

  'add-ruler': {
    say: ({ ruler }) => `new ruler ${ruler.id}`,
    apply: (draft, { ruler }) => {
      refuseTaken(
        'ruler',
        ruler.id,
        draft.rulers.map(({ id }) => id),
      );
      draft.rulers.push(structuredClone(ruler) as ReportDraft['rulers'][number]);
    },
  },

  'change-ruler': {
    say: () => 'change the ruler',
    apply: (draft, { ruler }) => {
      const at = draft.rulers.findIndex(({ id }) => id === ruler.id);
      if (at >= 0) draft.rulers[at] = structuredClone(ruler) as ReportDraft['rulers'][number];
    },
  },
};
