import type { Brief, Below } from '../brief';
import type { Workspace } from './query';

/** What the rows of a brief's measure can be broken down by, and what is known for each of a field. */
export function belowOf({ report, source }: Pick<Workspace, 'report' | 'source'>, { views }: Brief): Below {
  const table = report.measures.find(({ name }) => name === views[0]!.measure)?.table;
  const facts = table === undefined ? null : source.facts(table);
  const holds = (name: string, field: string): boolean => {
    const benchmark = report.benchmarks.find((one) => one.name === name);
    switch (benchmark?.kind) {
      case 'table': {
        if (benchmark.split !== 'none') return true;
        const column = Object.hasOwn(benchmark.match ?? {}, field) ? benchmark.match![field]! : field;
        return source.facts(benchmark.table)?.columns.has(column) === true;
      }
      case 'scaled':
        return benchmark.of === 'measure' || holds(benchmark.of, field);
      default:
        return true;
    }
  };
  return { has: (field) => facts?.members.has(field) === true, holds };
}
