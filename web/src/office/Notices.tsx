'use client';

import { useRouter } from 'next/navigation';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { pathOf } from './steps';

/** What must be known beside the work: another tab has changed the report, or it could not be saved. */
export function Notices() {
  const router = useRouter();
  const { saving, notice, takeNewest, keepAsCopy, dismiss } = useReport();
  if (saving === 'elsewhere') {
    return (
      <Notice>
        <p className="grow">
          Another tab has changed this report since it was opened here, so your last change is not saved. Nothing is
          lost yet.
        </p>
        <Button small onClick={() => void keepAsCopy().then((id) => router.push(pathOf(id, 'figures')))}>
          Keep mine as a copy
        </Button>
        <Button small onClick={() => void takeNewest(null)}>
          Take the other tab’s
        </Button>
      </Notice>
    );
  }
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
