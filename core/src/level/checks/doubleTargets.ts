import { NO_DAY } from '../../calendar';
import { columnOf, type Table } from '../../table';
import type { LevelCheck } from '../level';

export const doubleTargets: LevelCheck = {
  code: 'double-targets',
  why: 'a target that stands there twice is added up twice',
  run: ({ report, tables }) => {
    const measured = new Set(report.measures.map(({ table }) => table));
    const targets = new Set(report.benchmarks.flatMap((one) => (one.kind === 'table' ? [one.table] : [])));
    return [...targets].flatMap((id) => {
      const table = tables.get(id);
      // Rows that are added up to be held against, such as orders, come twice by nature; targets are one a member and period.
      const holdsTargets = table !== undefined && !measured.has(id) && table.grain !== 'day';
      const double = holdsTargets ? doublesIn(table) : 0;
      return double === 0
        ? []
        : [
            {
              severity: 'warning' as const,
              about: { kind: 'table' as const, id },
              text: `${double} ${double === 1 ? 'row has' : 'rows have'} the same members and date as another in “${id}”`,
            },
          ];
    });
  },
};

/** Rows whose members and date have been there before. */
function doublesIn(table: Table): number {
  const fields = table.columns.filter(({ kind }) => kind === 'text' || kind === 'yesno');
  const date = table.date === null ? undefined : columnOf(table, table.date);
  if (fields.length === 0 && date?.kind !== 'date') return 0;
  const seen = new Set<string>();
  let double = 0;
  for (let row = 0; row < table.rows; row++) {
    const key = [
      ...fields.map((column) => ('codes' in column ? column.codes[row]! : 0)),
      date?.kind === 'date' ? date.days[row]! : NO_DAY,
    ].join();
    if (seen.has(key)) double++;
    seen.add(key);
  }
  return double;
}
