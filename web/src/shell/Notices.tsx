'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { cancelComputing, useSilence } from '@/store/desk';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { pathOf } from '@/store/steps';

const LOST = {
  elsewhere: 'Another tab has changed this report since it was opened here, so your last change is not saved.',
  gone: 'This report is not in this browser any more: it was removed in another tab, or with the data of this page. What you see is still here.',
} as const;

/** What must be known beside the work: another tab has changed the report, it is gone, or it could not be saved. */
export function Notices() {
  const router = useRouter();
  const { saving, notice, report, takeNewest, keepAsCopy, retry, dismiss } = useReport(
    useShallow(({ saving, notice, report, takeNewest, keepAsCopy, retry, dismiss }) => ({
      saving,
      notice,
      report,
      takeNewest,
      keepAsCopy,
      retry,
      dismiss,
    })),
  );
  const seconds = useSilence((state) => state.seconds);
  const [problem, setProblem] = useState<string | null>(null);
  /** Whatever goes wrong is said, and the page is not left. */
  const attempt = (work: () => Promise<unknown>) => {
    setProblem(null);
    work().catch((error: unknown) => setProblem(error instanceof Error ? error.message : String(error)));
  };
  const asFile = (
    <Button
      small
      onClick={() => attempt(async () => (await import('./ReportMenu')).saveBundle(report!))}
      title="The report and its tables as one file, to be opened again from the first page"
    >
      Save it as a file
    </Button>
  );
  if (saving === 'elsewhere' || saving === 'gone') {
    return (
      <Notice>
        <p className="grow">{problem ?? `${LOST[saving]} Nothing is lost yet.`}</p>
        <Button small onClick={() => attempt(async () => router.push(pathOf(await keepAsCopy(), 'figures')))}>
          Keep mine as a copy
        </Button>
        {(saving === 'gone' || problem) && asFile}
        {saving === 'elsewhere' && (
          <Button small onClick={() => attempt(() => takeNewest(null))}>
            Take the other tab’s
          </Button>
        )}
      </Notice>
    );
  }
  if (saving === 'failed') {
    return (
      <Notice>
        <p className="grow">{problem ?? notice ?? 'Your last change could not be saved.'}</p>
        <Button small onClick={retry}>
          Try again
        </Button>
        {asFile}
      </Notice>
    );
  }
  if (seconds > 0)
    return (
      <Notice>
        <p className="grow">Still computing, for {seconds} seconds. After a minute it is ended.</p>
        <Button small onClick={cancelComputing}>
          Cancel
        </Button>
      </Notice>
    );
  if (notice === null) return null;
  return (
    <Notice>
      <p className="grow">{notice}</p>
      <Button small onClick={dismiss}>
        Close
      </Button>
    </Notice>
  );
}

function Notice({ children }: { children: React.ReactNode }) {
  return (
    <div
      role="alert"
      className="flex items-center gap-3 border-b border-hairline bg-boxwood-light px-4 py-2 text-[13px]"
    >
      {children}
    </div>
  );
}
