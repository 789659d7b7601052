import { columnsRead, type Column, type Table } from './column';

/** What the column is called that tells of each row which of several tables it comes from. */
export const NAMES_OF_TABLES = 'sheet';

/** Without a column of names that was made by putting others together before. */
const layoutOf = (columns: readonly Column[]) =>
  columns
    .filter(({ name, kind }) => !(name === NAMES_OF_TABLES && kind === 'text'))
    .map(({ name, kind }) => `${kind} ${name}`)
    .sort();

/** Whether tables have the same columns of the same kinds, as they were read, so that one can be put under the other. */
export function isStackable(
  a: Pick<Table, 'columns' | 'derived' | 'joined'>,
  b: Pick<Table, 'columns' | 'derived' | 'joined'>,
): boolean {
  const [here, there] = [layoutOf(columnsRead(a)), layoutOf(columnsRead(b))];
  return here.length > 0 && here.length === there.length && here.every((column, i) => column === there[i]);
}
