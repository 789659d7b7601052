import type { Vocabulary } from '../brief';
import type { Edit, PlainEdit } from '../edit';
import type { Drawn } from '../figure';
import type { Problem } from '../problem';
import type { Accepted, FigureEntry, Report } from '../report';
import type { OpenSource } from '../query';

/** What a finding is about. */
export interface About {
  readonly kind: Accepted['about'];
  /** A figure's, a table's or a page's id, a highlight's, a measure's or a benchmark's name. */
  readonly id: string;
}

/** Something a reader could be misled by. */
export interface Finding {
  readonly code: string;
  readonly severity: 'error' | 'warning' | 'note';
  readonly about: About;
  /** What is the case, as a sentence without its full stop. */
  readonly text: string;
  /** Why it matters. */
  readonly why: string;
  /** Why it is let stand, where somebody has said so. */
  readonly accepted: string | null;
  /** Puts it right in one step. */
  readonly repair: Repair | null;
}

export interface Repair {
  /** What it does, as a button says it. */
  readonly name: string;
  readonly edit: Edit<PlainEdit>;
}

/** Everything the checks look at. */
export interface Seen {
  readonly report: Report;
  readonly source: OpenSource;
  readonly vocabulary: Vocabulary;
  /** Every figure as it was drawn, or why it was not. */
  readonly figures: readonly { readonly entry: FigureEntry; readonly drawn: Drawn | Problem }[];
}

/** What a check says of one thing; its code and its why are the check's own. */
export type Said = Omit<Finding, 'code' | 'why' | 'repair' | 'accepted'> & { readonly repair?: Repair };

/** One of the checks a report goes through before it is handed over. */
export interface LevelCheck {
  readonly code: string;
  readonly why: string;
  run(seen: Seen): readonly Said[] | Promise<readonly Said[]>;
}

/** A check of each figure that can be drawn. */
export function ofFigures(
  code: string,
  why: string,
  look: (drawn: Drawn, entry: FigureEntry, seen: Seen) => readonly Omit<Said, 'about'>[],
): LevelCheck {
  return {
    code,
    why,
    run: (seen) =>
      seen.figures.flatMap(({ entry, drawn }) =>
        'scene' in drawn
          ? look(drawn, entry, seen).map((said) => ({ ...said, about: { kind: 'figure' as const, id: entry.id } }))
          : [],
      ),
  };
}
