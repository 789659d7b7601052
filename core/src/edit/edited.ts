import { create, type Patches } from 'mutative';
import type { Report } from '../report';
import { NAMED_EDITS, type Edit, type EditKind, type EditKinds, type EditName, type NamedEdit } from './edit';
import { figures } from './kinds/figures';
import { numbers } from './kinds/numbers';
import { pages } from './kinds/pages';
import { painting } from './kinds/painting';
import { tables } from './kinds/tables';
import { whole } from './kinds/whole';
import { sweep } from './sweep';

/** Edits that the report alone is enough for. */
export type PlainEdit = Exclude<EditName, NamedEdit>;

export const PLAIN_KINDS: EditKinds<PlainEdit> = {
  ...whole,
  ...tables,
  ...numbers,
  ...painting,
  ...figures,
  ...pages,
  several: {
    say: () => 'change several things',
    apply: (draft, { edits }) => {
      for (const edit of edits) (PLAIN_KINDS[edit.edit] as EditKind<EditName>).apply(draft, edit, null);
    },
  },
};

/** A report after an edit, and the ways there and back. */
export interface Edited {
  readonly report: Report;
  /** What was done, as in “Undo: remove the figure”. */
  readonly name: string;
  readonly forward: Patches;
  readonly back: Patches;
}

/** Whether the report alone is enough to apply an edit. */
export function isPlain(edit: Edit): edit is Edit<PlainEdit> {
  return !(NAMED_EDITS as readonly string[]).includes(edit.edit);
}

/**
 * Applies an edit for which the report alone is enough. Nothing the edit removes is named anywhere in the report afterwards. A
 * report in which there is nothing to change stays the very same object, with no patches.
 * @throws {Problem} where the edit cannot be done; the report is as it was
 */
export function editedPlain(report: Report, edit: Edit<PlainEdit>): Edited {
  return applied(report, edit, PLAIN_KINDS[edit.edit] as EditKind<EditName>, null);
}

/** Applies an edit as its kind says. */
export function applied(report: Report, edit: Edit, kind: EditKind<EditName>, names: unknown): Edited {
  const [next, forward, back] = create(
    report,
    (draft) => {
      kind.apply(draft, edit, names as never);
      sweep(report, draft);
    },
    { enablePatches: true },
  );
  const isSame = (Object.keys({ ...report, ...next }) as (keyof Report)[]).every(
    (key) => report[key] === next[key] || JSON.stringify(report[key]) === JSON.stringify(next[key]),
  );
  const name = edit.saying ?? kind.say(edit, report);
  if (isSame) return { report, name, forward: [], back: [] };
  return { report: next as Report, name, forward, back };
}
