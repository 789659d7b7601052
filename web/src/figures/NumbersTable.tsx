'use client';

import type { SortKey, Sorting } from '@bold-ruler/core/brief';
import type { NumbersText } from '@bold-ruler/core/figure';

interface Props {
  readonly numbers: NumbersText;
  /** How the brief sorts. */
  readonly sort: Sorting | null;
  readonly row: number | null;
  readonly onSort: (sort: Sorting | null) => void;
  readonly onRow: (row: number) => void;
}

const MOST = 400;

/** Pressed again a column turns round, and once more the members have their own order. */
export function nextSort(key: SortKey, sort: Sorting | null): Sorting | null {
  const first = key === 'name' ? 'up' : 'down';
  if (sort?.key !== key) return { key, direction: first };
  return sort.direction === first ? { key, direction: first === 'down' ? 'up' : 'down' } : null;
}

/** The numbers behind the figure in full, the whole at the foot. */
export function NumbersTable({ numbers, sort, row, onRow, onSort }: Props) {
  return (
    <section aria-label="Numbers" className="mt-4 max-w-[1100px] shrink-0 overflow-x-auto" tabIndex={0}>
      <table className="w-full max-w-[760px] font-figure text-[13px] whitespace-nowrap">
        <thead>
          <tr className="text-right text-quiet">
            {numbers.headings.map((heading, i) => (
              <th key={i} scope="col" className="max-w-[150px] truncate px-2 py-1 font-normal first:text-left">
                {numbers.sorts[i] ? (
                  <button
                    type="button"
                    aria-label={`Sort by ${heading || 'name'}`}
                    className="max-w-full truncate rounded-sm hover:text-ink"
                    onClick={() => onSort(nextSort(numbers.sorts[i]!, sort))}
                  >
                    {heading || 'name'}
                    {sort?.key === numbers.sorts[i] ? (sort.direction === 'down' ? ' ↓' : ' ↑') : ''}
                  </button>
                ) : (
                  heading
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {numbers.lines.slice(0, MOST).map((line, i) => (
            <tr
              key={i}
              onClick={() => onRow(i)}
              className={`cursor-pointer border-t border-hairline text-right ${row === i ? 'bg-boxwood-light' : 'hover:bg-paper'}`}
            >
              {line.map((cell, c) =>
                c === 0 ? (
                  <th key={c} scope="row" className="max-w-[240px] truncate px-2 py-1 text-left font-normal">
                    {cell}
                  </th>
                ) : (
                  <td key={c} className="px-2">
                    {cell}
                  </td>
                ),
              )}
            </tr>
          ))}
        </tbody>
        <tfoot hidden={numbers.whole.length === 0}>
          <tr className="border-t-2 border-ink text-right font-semibold">
            {numbers.whole.map((cell, c) => (
              <td key={c} className="px-2 py-1 first:text-left">
                {cell}
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
      {numbers.lines.length > MOST && (
        <p className="mt-1 text-xs text-quiet">
          The first {MOST} of {numbers.lines.length}; the numbers file has them all.
        </p>
      )}
    </section>
  );
}
