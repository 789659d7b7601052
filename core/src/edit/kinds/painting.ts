import type { EditKinds } from '../edit';
import { addTo, HIGHLIGHT, replaceIn, RULER } from './lists';

/** Edits of highlights and shared rulers. */
export const painting: EditKinds<'add-highlight' | 'change-highlight' | 'add-ruler' | 'change-ruler'> = {
  'add-highlight': {
    say: ({ highlight }) => `new highlight ${highlight.name}`,
    apply: (draft, { highlight }) => addTo(draft.highlights, highlight, HIGHLIGHT),
  },
  'change-highlight': {
    say: ({ highlight }) => `change the highlight ${highlight.name}`,
    apply: (draft, { highlight }) => replaceIn(draft.highlights, highlight, HIGHLIGHT),
  },
  'add-ruler': {
    say: ({ ruler }) => `new ruler ${ruler.id}`,
    apply: (draft, { ruler }) => addTo(draft.rulers, ruler, RULER),
  },
  'change-ruler': {
    say: () => 'change the ruler',
    apply: (draft, { ruler }) => replaceIn(draft.rulers, ruler, RULER),
  },
};
