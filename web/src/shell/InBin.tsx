'use client';

import { listRemoved, putReportBack } from '@/storage/shelf';
import { useLatest } from '@/ui/useLatest';
import { Button } from '@/ui/Button';

/** Offers to take a report out of the bin where it lies there. */
export function InBin({ id, onBack }: { id: string; onBack: () => void }) {
  const { found } = useLatest([id], listRemoved);
  if (!found?.value.some((one) => one.id === id)) return null;
  return (
    <p className="mt-4 flex items-center gap-3 border-l-4 border-l-boxwood bg-paper px-3 py-2">
      <span className="grow">It was removed and lies in the bin.</span>
      <Button small onClick={() => void putReportBack(id).then(onBack)}>
        Put it back
      </Button>
    </p>
  );
}
