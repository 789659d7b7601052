export {
  NAMED_EDITS,
  type BlockPlace,
  type Edit,
  type EditData,
  type EditName,
  type SeveralEdit,
  type LookPart,
  type Names,
} from './edit';
export { editedPlain, isPlain, type Edited, type PlainEdit } from './edited';
export { edited, EDIT_NAMES } from './editedNamed';
export * from './history';
export { usersOfColumn } from './columnUse';
export { usageOf, type Usage } from './usage';
export { LEAST_SHARE, FULL_ROW } from './kinds/pages';
