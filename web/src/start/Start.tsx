'use client';

import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useState } from 'react';
import { isProblem } from '@bold-ruler/core/problem';
import { useGuide } from '@/store/guide';
import { pathOf } from '@/store/steps';
import { useTheme } from '@/ui/theme';
import { nameOf, newId } from '@/storage/library';
import {
  copyReport,
  emptyBin,
  listRemoved,
  listReports,
  putReportBack,
  removeReport,
  type StoredReport,
} from '@/storage/shelf';
import { takeBrought } from '@/ui/early';
import { Wordmark } from '@/ui/Wordmark';
import { Bin } from './Bin';
import { DropZone } from './DropZone';
import {
  interruptedReading,
  pastedFile,
  readDemoAhead,
  takeDemo,
  takeIn,
  type IntakeHandle,
  type IntakeProgress,
} from '@/intake/intake';
import { ReadingBar } from './ReadingBar';
import { ReportList } from './ReportList';

/** A sentence and the figure it makes. */
function Example() {
  return (
    <figure className="m-0 mt-6">
      <figcaption className="mb-2 text-[15px]">
        <Word>net sales</Word> by <Word>territory</Word> during <Word>fiscal 2026 to date</Word> against{' '}
        <Word>plan</Word>
      </figcaption>
      <img
        src="/demo/first.svg"
        width={760}
        height={430}
        alt="Bullet bars made by that sentence from the demo’s rows"
        className="h-auto w-full border border-hairline"
      />
    </figure>
  );
}

function Word({ children }: { children: string }) {
  return <strong className="border-b-2 border-boxwood font-semibold">{children}</strong>;
}

/** The first page: begin with a file, open the demo, or go on with a report of this browser. */
export function Start() {
  const router = useRouter();
  const [reports, setReports] = useState<readonly StoredReport[] | 'unknown' | null>(null);
  const [progress, setProgress] = useState<IntakeProgress | null>(null);
  const [intake, setIntake] = useState<IntakeHandle | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [removed, setRemoved] = useState<StoredReport | null>(null);
  const [bin, setBin] = useState<readonly StoredReport[]>([]);

  const takeKept = useTheme((state) => state.takeKept);
  useEffect(takeKept, [takeKept]);
  const refresh = useCallback(() => {
    listRemoved().then(setBin, () => {});
    listReports().then(setReports, (error: unknown) => {
      setReports('unknown');
      setProblem(
        isProblem(error)
          ? error.message
          : 'This browser keeps no data for this page, so reports cannot be saved. Allow storage for it and reload.',
      );
    });
  }, []);
  useEffect(refresh, [refresh]);
  /** Shows the shelf as it is after some work; what goes wrong in it is told. */
  const attempt = (work: Promise<void>) => {
    work.then(refresh, (error: unknown) => setProblem(error instanceof Error ? error.message : String(error)));
  };
  useEffect(() => {
    const file = interruptedReading();
    if (file === null) return;
    // Told after the first picture, as only the browser knows of it.
    const timer = setTimeout(() =>
      setProblem(
        `The reading of ${file} was ended when the page was left or loaded again. Nothing of it was kept; choose it once more.`,
      ),
    );
    return () => clearTimeout(timer);
  }, []);

  // To those who have no report yet the demo is offered: it is read while they look around.
  const isEmpty = reports !== 'unknown' && reports?.length === 0;
  useEffect(() => {
    if (!isEmpty) return;
    const timer = setTimeout(() => {
      readDemoAhead();
      void import('@/shell/Shell');
    }, 100);
    return () => clearTimeout(timer);
  }, [isEmpty]);

  const follow = useCallback(
    (handle: IntakeHandle, step: 'data' | 'figures') => {
      setProblem(null);
      setIntake(handle);
      handle.done
        .then((id) => router.push(pathOf(id, step)))
        .catch((error: Error) => {
          setProblem(error.message);
          setIntake(null);
          setProgress(null);
        });
    },
    [router],
  );

  const begin = useCallback(
    (files: readonly File[]) => files.length > 0 && follow(takeIn(files, setProgress), 'data'),
    [follow],
  );

  useEffect(() => {
    const take = (text: string, files: readonly File[]) => {
      const file = pastedFile(text);
      begin(file ? [file] : files);
    };
    const early = takeBrought();
    if (early) take(early.text, early.files);
    const paste = ({ clipboardData: pasted }: ClipboardEvent) =>
      take(pasted?.getData('text/plain') ?? '', [...(pasted?.files ?? [])]);
    // A file may be dropped anywhere: beside the frame too it is read, where a browser would leave the page for it.
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      begin([...(event.dataTransfer?.files ?? [])]);
    };
    const listening = new AbortController();
    window.addEventListener('paste', paste, listening);
    window.addEventListener('dragover', over, listening);
    window.addEventListener('drop', drop, listening);
    return () => listening.abort();
  }, [begin]);

  const openDemo = () => follow(takeDemo(setProgress), 'figures');

  const cancel = () => {
    intake?.cancel();
    setIntake(null);
    setProgress(null);
  };

  return (
    <main className="mx-auto flex min-h-screen max-w-[1120px] flex-col px-8 pt-14 pb-8 max-[639px]:px-4 max-[639px]:pt-6">
      <header className="flex items-end justify-between gap-8 max-[639px]:flex-col max-[639px]:items-start max-[639px]:gap-3">
        <h1>
          <Wordmark large />
        </h1>
        <p className="max-w-[430px] text-right text-[15px] leading-snug text-quiet max-[639px]:text-left">
          How much, against what, and where is the difference? Figures from your sales rows, exact to the cent, with
          their working shown.
        </p>
      </header>
      {problem && (
        <p role="alert" className="mt-6 border-l-4 border-behind bg-paper px-4 py-3">
          {problem}
        </p>
      )}
      <div className="mt-10 grid grow-0 grid-cols-[minmax(0,5fr)_minmax(0,6fr)] gap-10 max-[799px]:grid-cols-[minmax(0,1fr)]">
        <section aria-labelledby="begin">
          <h2 id="begin" className="mb-3 text-base font-semibold">
            Begin
          </h2>
          {intake && progress ? (
            <ReadingBar progress={progress} onCancel={cancel} />
          ) : (
            <DropZone
              onFiles={begin}
              onDemo={openDemo}
              onGuide={() => {
                useGuide.getState().begin();
                openDemo();
              }}
            />
          )}
        </section>
        <section aria-labelledby="shelf">
          <h2 id="shelf" className="mb-3 text-base font-semibold">
            Reports in this browser
          </h2>
          <ReportList
            reports={reports}
            onCopy={(id) => attempt(copyReport(id, newId()))}
            onRemove={(report) => attempt(removeReport(report.id).then(() => setRemoved(report)))}
          />
          {removed && (
            <p
              role="status"
              className="mt-3 flex items-center justify-between border-l-4 border-boxwood bg-paper px-3 py-2 text-[13px]"
            >
              <span>“{nameOf(removed)}” was removed.</span>
              <button
                type="button"
                className="font-semibold underline underline-offset-2"
                onClick={() => {
                  attempt(putReportBack(removed.id));
                  setRemoved(null);
                }}
              >
                Put it back
              </button>
            </p>
          )}
          <Bin
            removed={bin}
            onBack={(id) => {
              setRemoved(null);
              attempt(putReportBack(id));
            }}
            onEmpty={() => {
              setRemoved(null);
              attempt(emptyBin());
            }}
          />
          {reports !== null && reports !== 'unknown' && reports.length < 4 && <Example />}
        </section>
      </div>
      <p className="mt-auto pt-10 text-xs text-quiet">
        Your rows stay in this browser. Nothing is sent anywhere. With parts of others:{' '}
        <a href="/notices.txt" className="underline underline-offset-2">
          notices
        </a>
        .
      </p>
    </main>
  );
}
