import type { Report } from '../../report';
import { columnOf, type Table } from '../../table';
import { listed } from '../../problem';
import type { LevelCheck } from '../level';

/** How a name reads when its case, its accents and the spaces in it do not count. */
const plainly = (name: string) =>
  name.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();

const MOST_TOLD = 4;

/** Members of a field that differ in nothing a person would see as another name: they are counted apart. */
export const namesAlike: LevelCheck = {
  code: 'names-alike',
  why: 'one member that is written in two ways is counted as two, and each of them looks small',
  run: ({ report, tables }) => [...tables].flatMap(([id, table]) => alikeIn(id, table, report)),
};

function alikeIn(id: string, table: Table, report: Report): ReturnType<LevelCheck['run']> {
  const isUsed =
    report.measures.some((measure) => measure.table === id) ||
    report.benchmarks.some((one) => 'table' in one && one.table === id);
  if (!isUsed) return [];
  return table.columns.flatMap(({ name, kind }) => {
    const column = columnOf(table, name);
    if (kind !== 'text' || column?.kind !== 'text') return [];
    const groups = new Map<string, string[]>();
    for (const member of column.members.slice(1)) {
      const key = plainly(member);
      const group = groups.get(key);
      if (group) group.push(member);
      else groups.set(key, [member]);
    }
    const alike = [...groups.values()].filter((group) => group.length > 1);
    if (alike.length === 0) return [];
    const told = alike.slice(0, MOST_TOLD).map((group) =>
      listed(
        group.map((member) => `“${member}”`),
        'and',
      ),
    );
    const more = alike.length > told.length ? `, and ${alike.length - told.length} more` : '';
    return [
      {
        severity: 'warning' as const,
        about: { kind: 'table' as const, id },
        text: `in “${name}” ${told.join('; ')}${more} are counted apart`,
      },
    ];
  });
}
