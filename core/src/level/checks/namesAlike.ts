import type { Report } from '../../report';
import type { TableFacts } from '../../query';
import { listed } from '../../problem';
import { plainName } from '../../table';
import type { LevelCheck, Said } from '../level';

const MOST_TOLD = 4;

/** Members of a field that differ in nothing a person would see as another name: they are counted apart. */
export const namesAlike: LevelCheck = {
  code: 'names-alike',
  why: 'one member that is written in two ways is counted as two, and each of them looks small',
  run: ({ report, source }) =>
    report.tables.flatMap(({ id }) => {
      const facts = source.facts(id);
      return facts ? alikeIn(facts, report) : [];
    }),
};

function alikeIn({ id, columns, members: known }: TableFacts, report: Report): readonly Said[] {
  const isUsed =
    report.measures.some((measure) => measure.table === id) ||
    report.benchmarks.some((one) => 'table' in one && one.table === id);
  if (!isUsed) return [];
  return [...known].flatMap(([name, members]) => {
    if (columns.get(name) !== 'text' || !members) return [];
    const groups = new Map<string, string[]>();
    for (const member of members) {
      const key = plainName(member);
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
