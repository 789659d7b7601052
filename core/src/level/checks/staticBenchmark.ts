import { ofFigures } from '../level';

export const staticBenchmark = ofFigures(
  'static-benchmark',
  'one number held against several members makes each look short, and their sum a triumph',
  ({ rows: cells }) => {
    const { benchmark, fields, count, measure } = cells;
    if (benchmark?.kind !== 'fixed' || benchmark.per.includes('member') || fields.length === 0 || count < 2) return [];
    const adds = /^\s*(sum|count)\s*\(/i.test(measure.expression);
    return adds
      ? [
          {
            severity: 'warning',
            text: `“${benchmark.name}” is ${benchmark.value} for each of ${count} members, and for all of them together as well`,
          },
        ]
      : [];
  },
);
