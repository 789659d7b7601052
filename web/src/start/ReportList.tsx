'use client';

import { CopyPlus, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { pathOf } from '@/store/steps';
import { isSound, nameOf } from '@/storage/library';
import type { StoredReport } from '@/storage/shelf';
import { Button } from '@/ui/Button';

interface Props {
  /** Null until they are known; `unknown` where this browser does not say. */
  readonly reports: readonly StoredReport[] | 'unknown' | null;
  readonly onCopy: (id: string) => void;
  readonly onRemove: (report: StoredReport) => void;
}

const count = new Intl.NumberFormat('en');

/** The reports this browser keeps, the last changed first. */
export function ReportList({ reports, onCopy, onRemove }: Props) {
  if (reports === 'unknown') return <p className="text-quiet">This browser does not say which reports it keeps.</p>;
  if (reports === null) return <p className="text-quiet">Looking for reports …</p>;
  if (reports.length === 0) {
    return (
      <div className="border border-dashed border-hairline px-5 py-6 text-quiet">
        <p>None yet. A report holds your measures, targets and figures, and saves itself here as you work.</p>
      </div>
    );
  }
  return (
    <ul className="divide-y divide-hairline border-y border-hairline">
      {reports.map((stored) => {
        const name = nameOf(stored);
        const about = (
          <>
            <span className="block truncate font-medium">{name}</span>
            <span className="block truncate text-[13px] text-quiet">{summaryOf(stored)}</span>
          </>
        );
        return (
          <li key={stored.id} className="group flex items-center gap-2">
            {isSound(stored) ? (
              <Link href={pathOf(stored.id, 'figures')} className="min-w-0 grow px-2 py-3 hover:bg-paper">
                {about}
              </Link>
            ) : (
              <span className="min-w-0 grow px-2 py-3">{about}</span>
            )}
            {isSound(stored) && (
              <Button look="bare" small aria-label={`Copy ${name}`} title="Copy" onClick={() => onCopy(stored.id)}>
                <CopyPlus aria-hidden size={15} />
              </Button>
            )}
            <Button look="bare" small aria-label={`Remove ${name}`} title="Remove" onClick={() => onRemove(stored)}>
              <Trash2 aria-hidden size={15} />
            </Button>
          </li>
        );
      })}
    </ul>
  );
}

function summaryOf(stored: StoredReport): string {
  if (!isSound(stored)) return 'What this browser has kept of it cannot be read; the others are whole';
  const { report, rows, changed } = stored;
  const figures = report.figures.length;
  const total = Object.values(rows).reduce((sum, n) => sum + n, 0);
  const when = new Date(changed).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
  return `${figures} ${figures === 1 ? 'figure' : 'figures'} · ${count.format(total)} rows · changed ${when}`;
}
