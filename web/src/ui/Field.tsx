import type { ReactNode } from 'react';

/** A labelled control. */
export function Field({ label, children, hint }: { label: string; children: ReactNode; hint?: string }) {
  return (
    <label className="block">
      <span className="mb-1 block text-xs text-quiet">{label}</span>
      {children}
      {hint && <span className="mt-1 block text-xs text-quiet">{hint}</span>}
    </label>
  );
}

export const INPUT =
  'h-8 w-full rounded-sm border border-hairline bg-paper px-2 text-[13px] hover:border-ink/60 focus:border-ink';
