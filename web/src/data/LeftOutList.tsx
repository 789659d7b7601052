'use client';

import { Download } from 'lucide-react';
import { writeCsv, type FieldsProfile } from '@bold-ruler/core/table';
import { saveFile } from '@/store/saveFile';
import { Button } from '@/ui/Button';

const SHOWN = 50;

/** Rows and cells that could not be read, with their raw text; or that there are none. */
export function LeftOutList({ profile }: { profile: FieldsProfile }) {
  const { leftOut } = profile;
  return (
    <section aria-labelledby="left-out" className="mt-6">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="left-out" className="font-semibold">
          Left out
        </h2>
        {leftOut.length > 0 && (
          <Button small onClick={() => saveFile(`${profile.file} left out.csv`, csvOf(profile), 'text/csv')}>
            <Download aria-hidden size={14} /> Save the list
          </Button>
        )}
      </div>
      {leftOut.length === 0 ? (
        <p className="text-quiet">Nothing: every row and every cell was read.</p>
      ) : (
        <table className="w-full border-t border-hairline bg-paper text-[13px]">
          <thead>
            <tr className="text-left text-xs text-quiet">
              <th className="px-3 py-1.5 text-right font-medium">line</th>
              <th className="px-3 font-medium">column</th>
              <th className="px-3 font-medium">as it stands</th>
              <th className="px-3 font-medium">why</th>
            </tr>
          </thead>
          <tbody>
            {leftOut.slice(0, SHOWN).map((entry, i) => (
              <tr key={i} className="border-t border-hairline">
                <td className="px-3 py-1 text-right">{entry.row}</td>
                <td className="px-3">{entry.column ?? 'the row'}</td>
                <td className="max-w-[320px] truncate px-3 font-medium">{entry.raw}</td>
                <td className="px-3 text-quiet">{entry.reason}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {leftOut.length > SHOWN && (
        <p className="mt-2 text-[13px] text-quiet">
          The first {SHOWN} of {leftOut.length}; the list has them all.
        </p>
      )}
    </section>
  );
}

/** The list as a file. */
function csvOf({ leftOut }: FieldsProfile): string {
  const rows = leftOut.map(({ row, column, raw, reason }) => [row, column ?? '', raw, reason]);
  return writeCsv([['line', 'column', 'as it stands', 'why'], ...rows]);
}
