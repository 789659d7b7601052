import type { Report } from '../report';
import type { Edit, EditKind, EditKinds, EditName, NamedEdit, Names } from './edit';
import { applied, editedPlain, isPlain, PLAIN_KINDS, type Edited } from './edited';
import { columns } from './kinds/columns';
import { names } from './kinds/names';

const NAMED_KINDS: EditKinds<NamedEdit> = { ...names, ...columns };

/** The names of all edits: a new one is an entry in `EditData` and one in a file of kinds. */
export const EDIT_NAMES = Object.keys({ ...PLAIN_KINDS, ...NAMED_KINDS }) as readonly EditName[];

/**
 * Applies any edit to a report; the one way in which reports are changed. See `editedPlain`.
 * @param known what is known of the report's tables
 * @throws {Problem} where the edit cannot be done; the report is as it was
 */
export function edited(report: Report, edit: Edit, known: Names): Edited {
  if (isPlain(edit)) return editedPlain(report, edit);
  return applied(report, edit, NAMED_KINDS[edit.edit] as EditKind<EditName>, known);
}
