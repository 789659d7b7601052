import type { Vocabulary } from '../brief';
import type { SeveralEdit } from '../edit';
import type { Drawn } from '../figure';
import type { Problem } from '../problem';
import type { Accepted, Benchmark, FigureEntry, Report } from '../report';
import type { OpenSource } from '../query';
import type { LinesFound } from '../table';

/** What a finding is about. */
export interface About {
  readonly kind: Accepted['about'];
  /** A figure's, a table's or a page's id, a highlight's, a measure's or a benchmark's name. */
  readonly id: string;
}

/** What hangs on a finding: a sum, and which part of the whole it is. */
export interface Amount {
  /** The column or measure that is summed. */
  readonly of: string;
  readonly sum: number;
  /** Of the whole, without its sign: 0 to 1, or more where the whole is a net of both signs; the same for any unit. */
  readonly share: number;
}

/** A sum as a part of a whole, which may be unknown. */
export function amountOf(of: string, sum: number, whole: number): Amount {
  const share = Math.abs(sum / whole);
  return { of, sum, share: Number.isFinite(share) ? share : sum === 0 ? 0 : 1 };
}

/** Where in the Data step a finding about a table is decided. */
export type TableTab = 'columns' | 'rows' | 'left out' | 'lookups' | 'match';

/** Something a reader could be misled by. */
export interface Finding {
  readonly code: string;
  /** The same for the same fact, wherever it is found: figures that rest on it tell it once. Stays the same when rows arrive, where it can. */
  readonly fact: string;
  readonly severity: 'error' | 'warning' | 'note';
  readonly about: About;
  /** What is the case, as a sentence without its full stop. */
  readonly text: string;
  /** Why it matters. */
  readonly why: string;
  /** Why it is let stand, where somebody has said so. */
  readonly accepted: string | null;
  /** Which acceptance lets it stand; null where none does. */
  readonly acceptedBy: Omit<Accepted, 'reason'> | null;
  /** Puts it right in one step. */
  readonly repair: Repair | null;
  readonly amount: Amount | null;
  /** Rows it is about, by the lines of their files. */
  readonly lines: LinesFound | null;
  /** The table at which it is decided: its own, or the one that a figure’s numbers come from. */
  readonly table: string | null;
  readonly view: TableTab | null;
}

export interface Repair {
  /** What it does, as a button says it. */
  readonly name: string;
  readonly edit: SeveralEdit;
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
export type Said = Pick<Finding, 'severity' | 'about' | 'text'> &
  Partial<Pick<Finding, 'fact' | 'amount' | 'lines' | 'table' | 'view'>> & { readonly repair?: Repair };

/** One of the checks a report goes through before it is handed over. */
export interface LevelCheck {
  readonly code: string;
  readonly why: string;
  run(seen: Seen): readonly Said[] | Promise<readonly Said[]>;
}

/** Names of targets and of rows are matched beside the targets. */
export const matchedAt = (benchmark: Benchmark | null): Pick<Said, 'table' | 'view'> =>
  benchmark?.kind === 'table' ? { table: benchmark.table, view: 'match' } : {};

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
