import { rowName } from '../../figure';
import { someOf } from '../../problem';
import { matchedAt, ofFigures, type Said } from '../level';

const rowsWhere = (count: number, test: (row: number) => boolean) =>
  Array.from({ length: count }, (_, row) => row).filter(test);

export const percentOfNothing = ofFigures(
  'percent-of-nothing',
  'a percentage of zero does not exist, and one of a negative number says the opposite of what it seems to',
  ({ rows: cells }) => {
    const { benchmarks, benchmark, count } = cells;
    if (!benchmarks || !benchmark) return [];
    const rows = rowsWhere(count, (row) => benchmarks[row]! <= 0);
    return rows.length === 0
      ? []
      : [
          {
            severity: 'note',
            text: `“${benchmark.name}” is zero or less for ${someOf(rows.map((row) => rowName(cells, row)))}, so its percentages there say little`,
          },
        ];
  },
);

export const oneSided = ofFigures(
  'one-side-only',
  'a member that only one side knows makes the whole differ for another reason than the rest',
  ({ rows: cells }) => {
    const { benchmarks, benchmark, count, actual, steps } = cells;
    if (!benchmarks || !benchmark || steps) return [];
    const lacking = rowsWhere(count, (row) => !Number.isNaN(actual[row]!) && Number.isNaN(benchmarks[row]!));
    const alone = rowsWhere(count, (row) => Number.isNaN(actual[row]!) && !Number.isNaN(benchmarks[row]!));
    if (lacking.length === count) return [];
    const names = (rows: readonly number[]) => someOf(rows.map((row) => rowName(cells, row)));
    const found: Omit<Said, 'about'>[] = [];
    const matching = matchedAt(benchmark);
    if (lacking.length > 0)
      found.push({ severity: 'warning', text: `there is no “${benchmark.name}” for ${names(lacking)}`, ...matching });
    if (alone.length > 0)
      found.push({
        severity: 'note',
        text: `there is a “${benchmark.name}” and nothing else for ${names(alone)}`,
        ...matching,
      });
    return found;
  },
);

/** So many times the middle one, and the others cannot be seen. */
const DWARFS = 25;

export const dwarfed = ofFigures(
  'one-dwarfs-the-others',
  'on a ruler made for one member the differences between the others cannot be seen',
  ({ rows: cells, scene, request }) => {
    // On other rulers each stands by its own benchmark.
    if (scene.rulers.length === 0 || request.scale !== 'value' || cells.count < 4 || cells.steps) return [];
    const sizes = rowsWhere(cells.count, (row) => !Number.isNaN(cells.actual[row]!)).map((row) => ({
      row,
      size: Math.abs(cells.actual[row]!),
    }));
    const sorted = sizes.map(({ size }) => size).sort((a, b) => a - b);
    const middle = sorted[sorted.length >> 1] ?? 0;
    const largest = sizes.reduce((most, one) => (one.size > most.size ? one : most), { row: -1, size: 0 });
    return middle > 0 && largest.size > DWARFS * middle
      ? [
          {
            severity: 'note',
            text: `${rowName(cells, largest.row)} is ${Math.round(largest.size / middle)} times the middle one`,
          },
        ]
      : [];
  },
);
