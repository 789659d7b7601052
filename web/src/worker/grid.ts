import { Looked, tableOf, type Desk, type GridRow } from '@bold-ruler/core/desk';
import { sent, type Sent } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import type { Arrangement, ColumnKind } from '@bold-ruler/core/table';
import { fileFrom } from './fileFrom';
import { sourceOf } from './keeping';

/** Rows that are looked at in the grid. */
export interface LookedAt {
  readonly rows: number;
  readonly columns: readonly { readonly name: string; readonly kind: ColumnKind }[];
}

/** The rows of tables as they are, in pieces. */
export function gridOf(opened: () => { readonly id: string; readonly desk: Desk }) {
  let looked: Looked | null = null;
  return {
    /** Chooses and orders the rows of a table for the grid; gives how many there are, and the columns. */
    look(current: Report, tableId: string, arrangement: Arrangement): Promise<Sent<LookedAt>> {
      return sent(() => {
        const table = tableOf(opened().desk.of(current), tableId);
        if (looked?.table !== table) looked = new Looked(table, current.calendar);
        return { rows: looked.arrange(arrangement), columns: table.columns.map(({ name, kind }) => ({ name, kind })) };
      });
    },

    /** Some of the rows that are looked at. */
    rows(current: Report, tableId: string, from: number, count: number): Promise<Sent<GridRow[]>> {
      return sent(async () => {
        const at = looked!;
        const file = at.table.marks && (await sourceOf(opened().id, current, tableId));
        return at.rows(from, count, file && fileFrom(file, tableId));
      });
    },

    async placeOf(line: number, file?: string): Promise<number> {
      return looked?.placeOf(line, file) ?? -1;
    },
  };
}
