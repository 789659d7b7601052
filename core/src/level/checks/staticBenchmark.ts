import { GRAINS } from '../../calendar';
import { membersIn } from '../../format';
import { listed } from '../../problem';
import { fieldOfPer } from '../../query';
import { ofFigures } from '../level';

const isGrain = (word: string) => (GRAINS as readonly string[]).includes(word);

export const staticBenchmark = ofFigures(
  'static-benchmark',
  'one number is for all members together or for the whole period, and a small part of it is held against each',
  ({ rows: cells }) => {
    const { benchmark, fields, additive, grain } = cells;
    if (benchmark?.kind !== 'fixed' || !additive) return [];
    const { name, value, per } = benchmark;
    const members = membersIn(cells);
    const isForAll = fields.length > 0 && members > 1 && !per.includes('member') && fieldOfPer(benchmark) === null;
    const isForPeriod = grain !== null && new Set(cells.steps).size > 1 && !per.some(isGrain);
    const whole = [...(isForAll ? ['all members together'] : []), ...(isForPeriod ? ['the whole period'] : [])];
    if (whole.length === 0) return [];
    const parts = [
      ...(isForAll ? [`each of ${members} has an even part of it`] : []),
      ...(isForPeriod ? [`each ${grain} has the part of its days`] : []),
    ];
    return [
      {
        severity: 'warning',
        text: `“${name}” is ${value} for ${listed(whole, 'and')}, so ${listed(parts, 'and')}; if it is meant for each, say so in the benchmark`,
      },
    ];
  },
);
