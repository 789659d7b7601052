'use client';

import { useEffect, useState } from 'react';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';

const SHOWN = 40;
const count = new Intl.NumberFormat('en');

/** The rows themselves, some at a time. */
export function RowsPreview({ tableId, total }: { tableId: string; total: number }) {
  const [from, setFrom] = useState(0);
  const [page, setPage] = useState<{ columns: string[]; rows: string[][] } | null>(null);
  useEffect(() => {
    let current = true;
    void desk()
      .rows(useReport.getState().report!, tableId, from, SHOWN)
      .then((answer) => current && setPage(answer));
    return () => {
      current = false;
    };
  }, [tableId, from]);
  if (!page) return null;
  return (
    <section aria-labelledby="rows" className="mt-6 pb-6">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="rows" className="font-semibold">
          Rows
        </h2>
        <span className="text-[13px] text-quiet">
          {count.format(Math.min(total, from + 1))}–{count.format(Math.min(total, from + SHOWN))} of{' '}
          {count.format(total)}
        </span>
        <Button small disabled={from === 0} onClick={() => setFrom(Math.max(0, from - SHOWN))}>
          Earlier
        </Button>
        <Button small disabled={from + SHOWN >= total} onClick={() => setFrom(from + SHOWN)}>
          Later
        </Button>
      </div>
      <div
        className="overflow-x-auto border-t border-hairline bg-paper"
        tabIndex={0}
        role="region"
        aria-label={`Rows of ${tableId}`}
      >
        <table className="min-w-full font-figure text-[13px] whitespace-nowrap">
          <thead>
            <tr className="text-left text-xs text-quiet">
              {page.columns.map((name) => (
                <th key={name} className="px-3 py-1.5 font-semibold">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {page.rows.map((row, r) => (
              <tr key={from + r} className="border-t border-hairline">
                {row.map((cell, c) => (
                  <td key={c} className="max-w-[260px] truncate px-3 py-1">
                    {cell === '' ? <span className="text-quiet">–</span> : cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
