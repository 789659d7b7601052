import type { EditKinds, ReportDraft } from '../edit';
import { refuseTaken } from '../taken';

/** Edits of figures. */
export const figures: EditKinds<
  'add-figure' | 'remove-figure' | 'set-brief' | 'set-look' | 'name-figure' | 'move-figure'
> = {
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

  'name-figure': {
    say: ({ name }) => (name === null ? 'call the figure by its title' : `call the figure ${name}`),
    apply: (draft, { figure, name }) => {
      const entry = draft.figures.find(({ id }) => id === figure);
      if (!entry) return;
      if (name === null || name.trim() === '') delete entry.name;
      else entry.name = name.trim().slice(0, 200);
    },
  },

  'move-figure': {
    say: () => 'move the figure',
    apply: (draft, { figure, to }) => {
      const from = draft.figures.findIndex(({ id }) => id === figure);
      const place = Math.max(0, Math.min(draft.figures.length - 1, to));
      if (from < 0 || from === place) return;
      const [moved] = draft.figures.splice(from, 1);
      draft.figures.splice(place, 0, moved!);
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
