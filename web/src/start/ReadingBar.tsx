'use client';

import { Button } from '@/ui/Button';
import type { IntakeProgress } from '@/intake/intake';

const count = new Intl.NumberFormat('en');
const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

/** A reading under way: how far, how fast, how long yet, and a way out. */
export function ReadingBar({ progress, onCancel }: { progress: IntakeProgress; onCancel: () => void }) {
  const { file, size, rows, seconds } = progress;
  const share = Math.min(1, progress.share);
  const left = share > 0.02 ? Math.max(0, seconds / share - seconds) : null;
  return (
    <div className="border border-hairline bg-paper" role="group" aria-label={`Reading ${file}`}>
      <div
        className="h-4 ruler-edge"
        role="progressbar"
        aria-valuenow={Math.round(share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-label="Read so far"
      >
        <div className="ml-auto h-full bg-desk" style={{ width: `${(1 - share) * 100}%` }} />
      </div>
      <div className="px-6 py-6">
        <p className="truncate text-lg font-medium">Reading {file}</p>
        <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-quiet">
          <dt>read</dt>
          <dd className="text-ink">
            {megabytes(share * size)} of {megabytes(size)}
          </dd>
          <dt>rows</dt>
          <dd className="text-ink">
            {count.format(rows)}
            {rows > 0 && seconds > 0 && (
              <span className="text-quiet">, {count.format(Math.round(rows / seconds))} a second</span>
            )}
          </dd>
          <dt>left</dt>
          <dd className="text-ink">
            {left === null ? '…' : left < 1 ? 'a moment' : `about ${Math.ceil(left)} seconds`}
          </dd>
        </dl>
        <Button className="mt-5" onClick={onCancel}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
