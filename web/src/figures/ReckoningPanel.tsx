'use client';

import '@/ui/nonce';
import { Download, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { WHOLE } from '@bold-ruler/core/reckoning';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { saveFile } from '@/store/saveFile';
import { Button } from '@/ui/Button';
import type { ReckoningShown } from '@bold-ruler/core/desk';

/** Folded up or not, for every row until it is changed. */
let isReckoningOpen = true;

interface Props {
  readonly figureId: string;
  /** A row of the figure's numbers; null for the whole. */
  readonly row: number | null;
}

/** The working behind a row: sentence by sentence from its rows to its pixels, the rows one step further. */
export function ReckoningPanel({ figureId, row }: Props) {
  const report = useReport((state) => state.report);
  const { value, problem, of } = useAnswer([figureId, row, report], (now) =>
    desk().reckon(now, figureId, row ?? WHOLE),
  );
  const [isOpen, setOpen] = useState(isReckoningOpen);
  useEffect(() => {
    isReckoningOpen = isOpen;
  }, [isOpen]);
  if (of?.[0] !== figureId || of[1] !== row) return null;
  if (!value) return <p className="mt-2 text-[13px] text-quiet">{problem?.message}</p>;
  const { sentences, sums, behind } = value;
  return (
    <details open={isOpen} onToggle={(event) => setOpen(event.currentTarget.open)} className="mt-3">
      <summary className="mb-1.5 cursor-pointer text-xs font-semibold text-quiet">Reckoning</summary>
      <ol className="space-y-1.5 text-[13px] leading-snug">
        {sentences.map(({ text }, i) => (
          <li key={i} className="border-l-4 border-hairline pl-2">
            {text}
            {sums[i] && (
              <span className="mt-0.5 block text-xs break-words text-quiet tabular-nums">
                {sums[i].replaceAll('*', '×').replaceAll('/', '÷').replaceAll('-', '−')}
              </span>
            )}
          </li>
        ))}
      </ol>
      {behind && <Rows figureId={figureId} row={row} reckoning={value} />}
    </details>
  );
}

/** The rows themselves, in a sheet of their own, and as a file. */
function Rows({ figureId, row, reckoning }: Props & { reckoning: ReckoningShown }) {
  const { title, headings, lines, rows } = reckoning;
  const areNumbers = headings.map((_, c) => lines.every((line) => /^(-?[\d.]+)?$/.test(line[c]!)));
  const save = async () => {
    const answer = await desk().rowsCsv(useReport.getState().report!, figureId, row ?? WHOLE);
    if (answer.ok) saveFile(`${title}.csv`, answer.value, 'text/csv');
  };
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button small className="mt-2">
          See its {rows.toLocaleString('en')} {rows === 1 ? 'row' : 'rows'}
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-6 z-30 mx-auto flex max-w-[1100px] flex-col rounded-sm border border-ink/25 bg-paper shadow-popover"
        >
          <div className="flex items-center gap-3 border-b border-hairline px-4 py-2">
            <Dialog.Title className="min-w-0 grow truncate font-semibold">
              {title}: {rows.toLocaleString('en')} {rows === 1 ? 'row' : 'rows'}
            </Dialog.Title>
            <Button small onClick={() => void save()}>
              <Download aria-hidden size={14} /> Save as CSV
            </Button>
            <Dialog.Close asChild>
              <Button small look="bare" aria-label="Close">
                <X aria-hidden size={16} />
              </Button>
            </Dialog.Close>
          </div>
          <div tabIndex={0} role="group" aria-label="Rows" className="min-h-0 grow overflow-auto">
            <table className="w-full border-collapse font-figure text-[13px]">
              <thead className="sticky top-0 bg-paper">
                <tr>
                  {headings.map((heading, c) => (
                    <th
                      key={heading}
                      scope="col"
                      className={`border-b border-ink px-2 py-1.5 font-semibold ${areNumbers[c] ? 'text-right' : 'text-left'}`}
                    >
                      {heading}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {lines.map((line, i) => (
                  <tr key={i} className="border-b border-hairline">
                    {line.map((text, c) => (
                      <td
                        key={c}
                        className={`px-2 py-1 whitespace-nowrap ${areNumbers[c] ? 'text-right tabular-nums' : ''}`}
                      >
                        {text}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            {rows > lines.length && (
              <p className="px-4 py-3 text-[13px] text-quiet">
                These are the first {lines.length}. Save them as CSV to see all {rows.toLocaleString('en')}.
              </p>
            )}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
