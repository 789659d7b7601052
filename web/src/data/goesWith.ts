import { counted } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';

/** What an edit takes along, counted: `2 measures`, `1 figure`. */
export function goesWith(before: Report, after: Report): string[] {
  return (['measures', 'benchmarks', 'figures'] as const).flatMap((kind) => {
    const n = before[kind].length - after[kind].length;
    return n > 0 ? [counted(n, kind.slice(0, -1))] : [];
  });
}
