import type { EditKinds, ReportDraft } from '../edit';
import { refuseTaken } from '../taken';

/** Edits of figures. */
export const figures: EditKinds<'add-figure' | 'remove-figure' | 'set-brief' | 'set-look'> = {
  'add-figure': {
    say: () => 'new figure',
    apply: (draft, { figure, behind }) => {
      refuseTaken(
        'figure',
        figure.id,
        draft.figures.map(({ id }) => id),
      );
      const at = draft.figures.findIndex(({ id }) => id === behind);
      const added = structuredClone(figure) as ReportDraft['figures'][number];
      draft.figures.splice(at < 0 ? draft.figures.length : at + 1, 0, added);
    },
  },

  'remove-figure': {
    say: () => 'remove the figure',
    apply: (draft, { figure }) => {
      draft.figures = draft.figures.filter(({ id }) => id !== figure);
    },
  },

  'set-brief': {
    say: () => 'change the brief',
    apply: (draft, { figure, brief }) => {
      const entry = draft.figures.find(({ id }) => id === figure);
      if (entry && entry.brief !== brief) entry.brief = brief;
    },
  },

  'set-look': {
    say: ({ part }) => `change the ${part}`,
    apply: (draft, { figure, part, value }) => {
      const entry = draft.figures.find(({ id }) => id === figure);
      if (!entry) return;
      const look = entry.look as Partial<Record<string, unknown>>;
      if (value === undefined) delete look[part];
      else look[part] = structuredClone(value);
    },
  },
};
