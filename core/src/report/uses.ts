import { columnsRead, isStackable, lookupOffers, type Joining, type Table } from '../table';
import type { Report } from './report';
import { isIdentifier, isOtherFact, isRate, isTarget } from './words';

/** What a table is for: its rows are measured, held against, or looked up in; or it is neither. */
export type TableUse = 'rows' | 'targets' | 'lookup' | 'other';

/** What a table is for in a report: what is measured is measured, whatever else it is. */
export function useOf({ measures, benchmarks, tables }: Report, id: string): TableUse {
  if (measures.some(({ table }) => table === id)) return 'rows';
  if (benchmarks.some((one) => one.kind === 'table' && one.table === id)) return 'targets';
  return tables.some(({ joins = [] }) => joins.some(({ to }) => to === id)) ? 'lookup' : 'other';
}

/** What a table is likely to be for, and by what its rows are found. */
export interface ProposedUse {
  readonly use: Exclude<TableUse, 'rows'>;
  readonly join?: Joining;
}

/** Nearly every row finds something. */
const SURELY = 0.9;

/** Whether the first column of names has each of them once, and others say more of it. */
function describesOneByOne(table: Table): boolean {
  const [key, ...others] = columnsRead(table).filter(({ kind }) => kind === 'text');
  if (key?.kind !== 'text' || others.length === 0 || key.blank > 0) return false;
  return new Set(key.codes).size === table.rows;
}

/**
 * What a further table is likely to be for, beside the one whose rows are measured.
 * @param main null where only the further table is at hand: it can be a lookup then, but not by what
 */
export function proposedUse(main: Table | null, other: Table): ProposedUse {
  const columns = columnsRead(other);
  const numbers = columns.filter(({ kind, name }) => kind === 'number' && !isIdentifier(name));
  const amounts = numbers.filter((column) => !isRate(column.name, column.kind === 'number' ? column.unit : undefined));
  const isNamedTarget = amounts.length > 0 && (isTarget(other.id) || amounts.some(({ name }) => isTarget(name)));
  if (isNamedTarget) return { use: 'targets' };
  const [best] = main ? lookupOffers(main, other) : [];
  if (best && best.found >= SURELY) {
    const { found: _, lost: __, ...join } = best;
    const says = columns.filter(({ name, kind }) => kind !== 'number' && ![...best.on, best.since].includes(name));
    // What has dates but no day from which it is valid is told of a time, not of a key.
    const isDated = other.date !== null && best.since === undefined;
    if (!isDated && (says.length > 0 || amounts.length === 0)) return { use: 'lookup', join };
  }
  if (amounts.length === 0 || isOtherFact(other.id) || amounts.every(({ name }) => isOtherFact(name)))
    return { use: 'other' };
  // More rows like those that are measured, such as another sheet, are no targets of them.
  if (main && isStackable(main, other)) return { use: 'other' };
  if (other.date === null && describesOneByOne(other)) return { use: 'other' };
  return { use: 'targets' };
}

/** Of some tables the one that is likely to be measured: dated amounts that are no targets, else the most rows. */
export function likelyMain<T extends { readonly table: Table }>(known: readonly T[]): readonly T[] {
  const amountsIn = (table: Table) =>
    columnsRead(table).some(
      (column) => column.kind === 'number' && !isIdentifier(column.name) && !isRate(column.name, column.unit),
    );
  const rank = ({ table }: T): number => {
    if (!amountsIn(table)) return 3;
    const numbers = columnsRead(table).filter(({ kind }) => kind === 'number');
    if (isOtherFact(table.id) || numbers.every(({ name }) => isOtherFact(name))) return 2;
    const isNamed =
      isTarget(table.id) || columnsRead(table).every(({ name, kind }) => kind !== 'number' || isTarget(name));
    return isNamed ? 1 : 0;
  };
  return [...known].sort((a, b) => rank(a) - rank(b) || b.table.rows - a.table.rows);
}
