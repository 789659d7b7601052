'use client';

import { FolderOpen, Redo2, Undo2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { edit } from '@/store/edit';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';
import { WrittenText } from '@/fields/WrittenText';

// They come when the report has been still for a moment.
const Decide = dynamic(() => import('./Decide').then((module) => module.Decide), { ssr: false });

const ReportMenu = dynamic(() => import('./ReportMenu').then((module) => module.ReportMenu), { ssr: false });

const SAVING = {
  saved: 'saved in this browser',
  saving: 'saving …',
  failed: 'could not be saved: save the report file',
  elsewhere: 'not saved: changed in another tab',
  gone: 'not saved: the report is gone',
} as const;

const CLEARED =
  'This browser has not promised to keep it: when room runs short, it may clear what this page keeps. A bundle is a copy of your own.';

/** The report's name, what can be taken back, and the report as a file. */
export function TopBar() {
  const { report, past, future, writing, persisted, drafting, undo, redo } = useReport(
    useShallow(({ report, past, future, writing, persisted, drafting, undo, redo }) => ({
      report,
      past,
      future,
      writing,
      persisted,
      drafting,
      undo,
      redo,
    })),
  );
  const saved = useReport((state) => state.saving);
  const saving = saved === 'saved' && writing > 0 ? 'saving' : saved;
  const [menu, setMenu] = useState(false);
  const last = past[past.length - 1]?.name;
  const next = future[0]?.name;
  return (
    <header className="flex h-12 shrink-0 items-center gap-3 border-b border-hairline px-4 max-[639px]:gap-1 max-[639px]:px-2">
      {report && (
        <WrittenText
          aria-label="Name of the report"
          value={report.name}
          allows={(name) => name !== ''}
          onWrite={(name, session) => void edit({ edit: 'rename-report', name }, session)}
          className="min-w-0 grow rounded-sm border border-transparent bg-transparent px-2 py-1 font-semibold hover:border-hairline focus:border-ink"
        />
      )}
      <span
        role="status"
        className={`ml-auto shrink-0 text-xs ${saving === 'saved' || saving === 'saving' ? 'text-quiet max-[639px]:sr-only' : 'font-semibold text-behind'}`}
        {...(saving === 'saved' && persisted === false ? { title: CLEARED } : {})}
      >
        {report && SAVING[saving]}
        {report && saving === 'saved' && persisted === false && ', which may clear it'}
        {report && saving === 'saved' && drafting > 0 && '; a text is not taken yet'}
      </span>
      <Decide />
      <Button
        small
        look="bare"
        disabled={!last}
        onClick={undo}
        aria-label={last ? `Undo: ${last}` : 'Undo'}
        title={last ? `Undo: ${last}` : 'Nothing to undo'}
      >
        <Undo2 aria-hidden size={16} />
      </Button>
      <Button
        small
        look="bare"
        disabled={!next}
        onClick={redo}
        aria-label={next ? `Redo: ${next}` : 'Redo'}
        title={next ? `Redo: ${next}` : 'Nothing to redo'}
      >
        <Redo2 aria-hidden size={16} />
      </Button>
      <Popover
        open={menu}
        onOpenChange={setMenu}
        label="Report"
        width={340}
        trigger={
          <Button small disabled={!report}>
            <FolderOpen aria-hidden size={15} /> Report
          </Button>
        }
      >
        <ReportMenu onDone={() => setMenu(false)} />
      </Popover>
    </header>
  );
}
