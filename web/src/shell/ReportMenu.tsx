'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { writeReport, type Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { binOf, earlierStates, type BinEntry, type EarlierState } from '@/storage/shelf';
import { edit } from '@/store/edit';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { saveFile } from '@/store/saveFile';
import { placeAt } from '@/data/place';
import { waitWith } from '@/data/proposal';
import { nextMonth } from '@/intake/intake';
import { useLatest } from '@/ui/useLatest';
import { FileButton } from '@/ui/FileButton';
import { received } from '@bold-ruler/core/problem';
import { fileName } from '@/store/fileName';
import { pathOf } from '@/store/steps';

/** The report as a file. */
export function saveReportFile(report: Report): void {
  saveFile(`${fileName(report.name)}.ruler.json`, writeReport(report), 'application/json');
}

/** The report and the files of its tables as one file. Throws a problem where a table's file is not kept. */
export async function saveBundle(report: Report): Promise<void> {
  const bytes = received(await desk().bundle(report));
  saveFile(`${fileName(report.name)}.ruler.zip`, new Blob([bytes]), 'application/zip');
}

/** Goes back to an earlier state, as one step that can be undone. Tables that have come since stay. */
function restore({ state, at }: EarlierState): void {
  void edit({ edit: 'restore-state', saying: `go back to ${timeOf(at)}`, state });
}

const KINDS = { figures: 'figure', pages: 'page', tables: 'table' } as const;

const nameOf = ({ kind, content }: BinEntry) =>
  `${KINDS[kind]} ${'title' in content ? content.title : 'brief' in content ? content.brief : content.id}`;

/** Puts what was removed back, as one step that can be undone. */
function putBack({ kind, content, with: along }: BinEntry): void {
  void edit({ edit: 'put-back', kind, content, ...(along ? { with: along } : {}) });
}

const timeOf = (at: number) =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** What can be done with the report as a whole: files, another month, earlier states. */
export function ReportMenu({ onDone }: { onDone: () => void }) {
  const router = useRouter();
  const { id, report } = useReport(useShallow(({ id, report }) => ({ id, report })));
  const [problem, setProblem] = useState<string | null>(null);
  const [reading, setReading] = useState<string | null>(null);
  const failed = (error: unknown) => setProblem(error instanceof Error ? error.message : String(error));
  const states = useLatest([id], id === null ? null : () => earlierStates(id), { failed }).found?.value ?? null;
  const bin = useLatest([id], id === null ? null : () => binOf(id, useReport.getState().report!), { failed });
  const removed = bin.found?.value ?? [];
  if (!report || !id) return null;
  const attempt = async (work: () => Promise<void> | void) => {
    setProblem(null);
    try {
      await work();
      onDone();
    } catch (error) {
      failed(error);
      setReading(null);
    }
  };
  const renew = (files: readonly File[]) =>
    attempt(async () => {
      setReading(files.map(({ name }) => name).join(', '));
      const month = await nextMonth(id, report, files);
      waitWith(month.id, month.newer);
      placeAt(month.id, month.newer[0]![0]);
      router.push(pathOf(month.id, 'data'));
    });
  return (
    <div className="max-h-[75vh] overflow-y-auto p-2 text-[13px] leading-snug">
      {problem && (
        <p role="alert" className="m-2 border-l-4 border-behind pl-2">
          {problem}
        </p>
      )}
      <Item name="Save the report file" onTake={() => void attempt(() => saveReportFile(report))}>
        The report without its rows, to be kept beside the data files.
      </Item>
      <Item name="Save as a bundle" onTake={() => void attempt(() => saveBundle(report))}>
        The report and the files of its tables as one, to be given to others.
      </Item>
      <section aria-label="A new month" className="border-t border-hairline p-2 pt-3">
        <h3 className="font-semibold">A new month</h3>
        <p className="mb-2 text-quiet">
          {reading === null
            ? 'A copy of this report for newer files. What each brings is shown at the Data step before it is taken; this report stays as it is.'
            : `Reading ${reading} …`}
        </p>
        <FileButton label="Choose newer files" multiple onFiles={(files) => void renew(files)}>
          Choose newer files
        </FileButton>
      </section>
      {removed.length > 0 && (
        <section aria-label="Removed" className="border-t border-hairline p-2 pt-3">
          <h3 className="font-semibold">Removed in the last 30 days</h3>
          <ul>
            {removed.map((one) => (
              <li key={one.n} className="flex items-baseline gap-2 py-0.5">
                <span className="min-w-0 grow truncate" title={nameOf(one)}>
                  {nameOf(one)} <span className="text-quiet">· {timeOf(one.at)}</span>
                </span>
                <button
                  type="button"
                  className="shrink-0 font-semibold underline underline-offset-2"
                  aria-label={`Put back ${nameOf(one)}`}
                  onClick={() => void attempt(() => putBack(one))}
                >
                  Put back
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Earlier states" className="border-t border-hairline p-2 pt-3">
        <h3 className="font-semibold">Earlier states</h3>
        {states?.length === 0 && <p className="text-quiet">None yet. While you work, one is kept every two minutes.</p>}
        <ul>
          {states?.map((one) => (
            <li key={one.n} className="flex items-baseline gap-2 py-0.5">
              <span className="grow">
                {timeOf(one.at)}
                <span className="text-quiet">
                  {' '}
                  · {one.state.figures.length} {one.state.figures.length === 1 ? 'figure' : 'figures'},{' '}
                  {one.state.measures.length} {one.state.measures.length === 1 ? 'measure' : 'measures'}
                </span>
              </span>
              <button
                type="button"
                className="font-semibold underline underline-offset-2"
                aria-label={`Go back to ${timeOf(one.at)}`}
                onClick={() => void attempt(() => restore(one))}
              >
                Go back
              </button>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

function Item({ name, children, onTake }: { name: string; children: string; onTake: () => void }) {
  return (
    <button type="button" onClick={onTake} className="block w-full rounded-sm px-2 py-1.5 text-left hover:bg-desk">
      <span className="block font-semibold">{name}</span>
      <span className="text-quiet">{children}</span>
    </button>
  );
}
