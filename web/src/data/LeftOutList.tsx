'use client';

import { Download } from 'lucide-react';
import { writeCsv, type FieldsProfile } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { saveFile } from '@/store/saveFile';
import { Button } from '@/ui/Button';
import { amount, count, plural } from '@/ui/words';

const SHOWN = 200;

/** Rows and cells that could not be read, with their raw text, how many they are and what stands beside them; or that there are none. */
export function LeftOutList({ tableId, profile }: { tableId: string; profile: FieldsProfile }) {
  const version = useReport((state) => state.tablesVersion);
  const { value: found } = useAnswer([tableId, version], (now) => desk().leftOut(now, tableId));
  const { leftOut, emptyLines } = profile;
  const empty =
    emptyLines > 0 ? ` ${plural(emptyLines, 'empty line')} ${emptyLines === 1 ? 'was' : 'were'} passed over.` : '';
  if (leftOut.length === 0) return <p className="text-quiet">Nothing: every row and every cell was read.{empty}</p>;
  const withFiles = isOfSeveral(leftOut);
  const total = profile.leftOutCounts.reduce((sum, entry) => sum + entry.count, 0);
  return (
    <div className="pb-6">
      <table className="mb-5 w-full border-t border-hairline bg-paper text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="px-3 py-1.5 font-medium">why</th>
            <th className="px-3 font-medium">column</th>
            <th className="px-3 text-right font-medium">how often</th>
            <th className="px-3 text-right font-medium">{found?.of ? `${found.of} in these rows` : ''}</th>
          </tr>
        </thead>
        <tbody>
          {(found?.amounts ?? []).map(({ column, reason, count: times, amount: sum }) => (
            <tr key={`${column} ${reason}`} className="border-t border-hairline">
              <td className="px-3 py-1.5">{reason}</td>
              <td className="px-3">{column ?? 'the whole row'}</td>
              <td className="px-3 text-right font-semibold">{count.format(times)}</td>
              <td className="px-3 text-right">{sum === null ? '' : amount.format(sum)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mb-2 flex items-center gap-3">
        <p className="grow text-[13px] text-quiet">
          {leftOut.length > SHOWN
            ? `The first ${SHOWN} of ${count.format(total)}.`
            : `${plural(total, 'row or cell', 'rows and cells')}. A cell that was not read is blank in its row.`}
          {empty}
        </p>
        <Button small onClick={() => saveFile(`${profile.file} left out.csv`, csvOf(profile), 'text/csv')}>
          <Download aria-hidden size={14} /> Save the list
        </Button>
      </div>
      <table className="w-full border-t border-hairline bg-paper text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="px-3 py-1.5 text-right font-medium">line</th>
            <th className="px-3 font-medium">column</th>
            <th className="px-3 font-medium">as it stands</th>
            <th className="px-3 font-medium">why</th>
            {withFiles && <th className="px-3 font-medium">file</th>}
          </tr>
        </thead>
        <tbody>
          {leftOut.slice(0, SHOWN).map(({ row, file, column, raw, reason }, i) => (
            <tr key={i} className="border-t border-hairline">
              <td className="px-3 py-1 text-right">{count.format(row)}</td>
              <td className="max-w-[160px] truncate px-3">{column ?? 'the whole row'}</td>
              <td className="max-w-[340px] truncate px-3 font-semibold" title={raw}>
                {raw}
              </td>
              <td className="px-3 text-quiet">{reason}</td>
              {withFiles && <td className="max-w-[200px] truncate px-3 text-quiet">{file}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const isOfSeveral = (leftOut: FieldsProfile['leftOut']) => leftOut.some(({ file }) => file !== undefined);

function csvOf({ leftOut }: FieldsProfile): string {
  return writeCsv([
    ['line', 'column', 'as it stands', 'why', ...(isOfSeveral(leftOut) ? ['file'] : [])],
    ...leftOut.map(({ row, column, raw, reason, file }) => [row, column ?? '', raw, reason, ...(file ? [file] : [])]),
  ]);
}
