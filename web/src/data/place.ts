import { create } from 'zustand';
import type { TableTab } from '@bold-ruler/core/level';

/** A line of a file; of a table of several, with the file. */
export interface LineOfFile {
  readonly line: number;
  readonly file?: string;
}

/** Where the Data step stands: it is there again when one comes back, and led to from what is to be decided. */
export interface DataPlace {
  /** The report whose table it is. */
  readonly report: string | null;
  readonly table: string | null;
  readonly view: TableTab;
  /** A line of the rows that is shown first. */
  readonly line: LineOfFile | null;
}

export const usePlace = create<DataPlace>(() => ({ report: null, table: null, view: 'columns', line: null }));

export const placeAt = (
  report: string | null,
  table: string,
  view: TableTab = 'columns',
  line: LineOfFile | null = null,
) => usePlace.setState({ report, table, view, line });
