'use client';

import { Button } from '@/ui/Button';

/** What is shown when the interface itself fails: the report is saved after every change, so nothing is lost. */
export default function Failed({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto max-w-[560px] px-8 pt-24">
      <h1 className="text-xl font-semibold">Something in this page failed</h1>
      <p className="mt-2 text-quiet">
        Your report is saved after every change, so nothing is lost. Go on from here; if it fails again, reload the
        page.
      </p>
      <p className="mt-3 border-l-4 border-behind bg-paper px-3 py-2 font-figure text-[13px]">{error.message}</p>
      <Button look="main" className="mt-5" onClick={reset}>
        Go on
      </Button>
    </main>
  );
}
