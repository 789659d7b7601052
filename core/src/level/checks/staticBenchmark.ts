import { fieldOfPer } from '../../query';
import { ofFigures } from '../level';

export const staticBenchmark = ofFigures(
  'static-benchmark',
  'one number is for all members together, and a small part of it is held against each',
  ({ rows: cells }) => {
    const { benchmark, fields, count, additive, steps } = cells;
    if (
      benchmark?.kind !== 'fixed' ||
      benchmark.per.includes('member') ||
      fieldOfPer(benchmark) !== null ||
      fields.length === 0 ||
      count < 2
    )
      return [];
    return additive && !steps
      ? [
          {
            severity: 'warning',
            text: `“${benchmark.name}” is ${benchmark.value} for all members together, so each of ${count} has an even part of it; if it is meant for each, say so in the benchmark`,
          },
        ]
      : [];
  },
);
