import { rawCells, type SourceFile } from '../reading';
import {
  arrange,
  cellText,
  fileOfRow,
  lineOf,
  rowAtLine,
  rowOnLine,
  type Arrangement,
  type Column,
  type Table,
} from '../table';
import type { FiscalCalendar } from '../calendar';

/** A cell of the grid. */
export interface GridCell {
  readonly text: string;
  /** As it stands in the file, where that says something else than the text. */
  readonly raw?: string;
  /** The raw text could not be read. */
  readonly unread?: true;
}

export interface GridRow {
  readonly line: number;
  /** The file whose line it is, of a table of several. */
  readonly file?: string;
  readonly cells: readonly GridCell[];
}

/** The rows of one table in the order and choice they were last asked for. */
export class Looked {
  private order: Uint32Array | null = null;
  private key = '';

  constructor(
    readonly table: Table,
    private readonly calendar: FiscalCalendar,
  ) {}

  /** How many rows there are to look at. */
  arrange(wanted: Arrangement): number {
    const key = JSON.stringify(wanted);
    if (key !== this.key) {
      this.order = arrange(this.table, wanted, this.calendar);
      this.key = key;
    }
    return this.order?.length ?? this.table.rows;
  }

  /** The place of the row that stands on a line of the file that is named, or on the line of the first or the next; -1 when it is not among those looked at. */
  placeOf(line: number, file?: string): number {
    const own = file === undefined ? null : rowOnLine(line, file, this.table);
    const row = own ?? Math.min(rowAtLine(line, this.table), this.table.rows - 1);
    return this.order ? this.order.indexOf(row) : row;
  }

  async rows(from: number, count: number, file: SourceFile | null): Promise<GridRow[]> {
    const { table, order } = this;
    const total = order?.length ?? table.rows;
    const rows = Array.from({ length: Math.max(0, Math.min(total, from + count) - from) }, (_, i) =>
      order ? order[from + i]! : from + i,
    );
    const raw = file && (await rawCells(file, table, rows));
    const unread = this.unreadCells();
    return rows.map((row, i) => {
      const line = lineOf(row, table);
      const of = fileOfRow(row, table);
      return {
        line,
        ...(of === null ? {} : { file: of }),
        cells: table.columns.map((column) => {
          const text = cellText(column, row);
          const left = unread.get(cellKey(of, line, column.name));
          if (left !== undefined) return { text, raw: left, unread: true };
          const written = raw?.get(column.name)?.[i];
          return written === undefined || saysTheSame(column, written, text) ? { text } : { text, raw: written.trim() };
        }),
      };
    });
  }

  private cached: ReadonlyMap<string, string> | null = null;
  private unreadCells(): ReadonlyMap<string, string> {
    this.cached ??= new Map(
      this.table.leftOut.flatMap(({ row, file, column, raw }) =>
        column === null ? [] : [[cellKey(file ?? null, row, column), raw]],
      ),
    );
    return this.cached;
  }
}

/** A cell by the place where it stands. */
const cellKey = (file: string | null, line: number, column: string) => JSON.stringify([file, line, column]);

/** True when the typed text is only the written one in its plainest form. */
function saysTheSame(column: Column, written: string, text: string): boolean {
  const trimmed = written.trim();
  if (trimmed === text) return true;
  if (column.kind === 'number') return /^-?\d*\.?\d+$/.test(trimmed) && Number(trimmed) === Number(text);
  if (column.kind === 'yesno') return trimmed.toLowerCase() === text;
  return false;
}
