'use client';

import Link from 'next/link';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { FiguresStep } from '@/figures/FiguresStep';
import { useShallow } from 'zustand/react/shallow';
import { isUnsaved, useReport } from '@/store/reportStore';
import { useGuide } from '@/store/guide';
import { isWriting, isWritingText } from '@/ui/isWriting';
import { Rail } from './Rail';
import { pathOf, STEPS, type Step } from '@/store/steps';
import { followLight } from '@/ui/paper';
import { fetchFloatingParts } from '@/ui/useFloatingParts';
import { useTheme } from '@/ui/theme';
import { TopBar } from './TopBar';

// The bench is there at once; the other steps, with their grid and plots, come when they are entered.
const DataStep = dynamic(() => import('@/data/DataStep').then((module) => module.DataStep), { ssr: false });
const PageStep = dynamic(() => import('@/page/PageStep').then((module) => module.PageStep), { ssr: false });
const NumbersStep = dynamic(() => import('@/numbers/NumbersStep').then((module) => module.NumbersStep), { ssr: false });

const InBin = dynamic(() => import('./InBin').then((module) => module.InBin), { ssr: false });
const Notices = dynamic(() => import('./Notices').then((module) => module.Notices), { ssr: false });
const Guide = dynamic(() => import('./Guide').then((module) => module.Guide), { ssr: false });
const Palette = dynamic(() => import('./Palette').then((module) => module.Palette), { ssr: false });
const Shortcuts = dynamic(() => import('./Shortcuts').then((module) => module.Shortcuts), { ssr: false });

/** The frame around an open report: steps at the left, name and history at the top. */
export function Shell({ id, step }: { id: string; step: Step }) {
  const router = useRouter();
  const { opening, report, open, notice } = useReport(
    useShallow(({ opening, report, open, notice }) => ({ opening, report, open, notice })),
  );
  const [sheet, setSheet] = useState<'palette' | 'keys' | null>(null);
  const isGuided = useGuide((state) => state.step !== null);
  const takeKept = useTheme((state) => state.takeKept);
  useEffect(takeKept, [takeKept]);
  useEffect(followLight, []);
  // What is opened by a press or a key is there before it is pressed.
  useEffect(() => {
    const soon = requestIdleCallback(() => void fetchFloatingParts().catch(() => {}), { timeout: 700 });
    const timer = setTimeout(
      () => void Promise.all([import('./Palette'), import('./Shortcuts'), import('./Notices')]),
      1500,
    );
    return () => {
      cancelIdleCallback(soon);
      clearTimeout(timer);
    };
  }, []);
  useEffect(() => {
    // Another report takes the place of this one: what could not be saved is not thrown away unasked.
    const { id: before, report: left, saving } = useReport.getState();
    const isLost = saving === 'failed' || saving === 'elsewhere' || saving === 'gone';
    const question = `“${left?.name}” holds changes that could not be saved. Leave them?`;
    if (before !== null && before !== id && isLost && !window.confirm(question)) router.replace(pathOf(before, step));
    else void open(id);
  }, [id, open, router, step]);

  useEffect(() => {
    // Whoever leaves with something unsaved is asked.
    const onLeave = (event: BeforeUnloadEvent) => {
      if (isUnsaved()) event.preventDefault();
    };
    window.addEventListener('beforeunload', onLeave);
    return () => window.removeEventListener('beforeunload', onLeave);
  }, []);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const { undo, redo } = useReport.getState();
      const chord = event.ctrlKey || event.metaKey;
      if (chord && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setSheet((open) => (open === 'palette' ? null : 'palette'));
        return;
      }
      if (chord ? isWritingText(event.target) : isWriting(event.target)) return;
      if (chord && event.key.toLowerCase() === 'z') {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
      } else if (chord && event.key.toLowerCase() === 'y') {
        event.preventDefault();
        redo();
      } else if (!chord && event.key === '?') {
        setSheet('keys');
      } else if (!chord && !event.altKey && STEPS[Number(event.key) - 1]) {
        router.push(pathOf(id, STEPS[Number(event.key) - 1]!.id));
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [id, router]);

  if (opening === 'missing' || opening === 'failed') {
    return (
      <main className="mx-auto max-w-[560px] px-8 pt-24">
        <h1 className="text-xl font-semibold">
          {opening === 'missing' ? 'This report is not in this browser' : 'This report could not be opened'}
        </h1>
        <p className="mt-2 text-quiet">
          {opening === 'missing'
            ? 'Reports stay where they were made. Open its file here, or go on where you made it.'
            : (notice ?? 'Its tables could not be read from this browser’s storage. Reload the page to try again.')}
        </p>
        {opening === 'missing' && <InBin id={id} onBack={() => void open(id)} />}
        <Link href="/" className="mt-4 inline-block font-semibold underline underline-offset-4">
          To the first page
        </Link>
      </main>
    );
  }
  return (
    <div className="flex h-dvh overflow-hidden max-[767px]:flex-col">
      <a
        href="#content"
        className="sr-only focus:not-sr-only focus:absolute focus:z-40 focus:bg-boxwood focus:px-3 focus:py-2 focus:font-semibold focus:text-engraved"
      >
        To the content
      </a>
      <Rail report={id} step={step} onFind={() => setSheet('palette')} onKeys={() => setSheet('keys')} />
      <div className="flex min-h-0 min-w-0 grow flex-col">
        <TopBar />
        <Notices />
        <div id="content" tabIndex={-1} className="flex min-h-0 grow flex-col outline-none">
          {report === null ? (
            <p role="status" className="p-8 text-quiet">
              Opening the report …
            </p>
          ) : step === 'data' ? (
            <DataStep />
          ) : step === 'numbers' ? (
            <NumbersStep />
          ) : step === 'page' ? (
            <PageStep />
          ) : (
            <FiguresStep />
          )}
        </div>
      </div>
      {isGuided && report && <Guide at={step} />}
      {sheet === 'palette' && <Palette onClose={() => setSheet(null)} onKeys={() => setSheet('keys')} />}
      {sheet === 'keys' && <Shortcuts onClose={() => setSheet(null)} />}
    </div>
  );
}
