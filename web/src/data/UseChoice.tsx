'use client';

import { useState } from 'react';
import type { SentProblem } from '@bold-ruler/core/problem';
import type { TableUse } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { attempt } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { INPUT } from '@/ui/Field';
import { useTableAnswer } from './useTableAnswer';

const USES: readonly (readonly [TableUse, string])[] = [
  ['rows', 'Rows to measure'],
  ['targets', 'Targets to hold against'],
  ['lookup', 'A lookup that says more'],
  ['other', 'For nothing yet'],
];

/** What a table is for: chosen here, where nothing rests on what it was for before. */
export function UseChoice({ tableId }: { tableId: string }) {
  const isRates = useReport((state) => state.report!.tables.some(({ id, rates }) => id === tableId && rates));
  const { value } = useTableAnswer([tableId], (now) => desk().use(now, tableId));
  const [problem, setProblem] = useState<SentProblem | null>(null);
  if (!value) return null;
  const { use, proposed, main } = value;
  const canLookUp = use === 'lookup' || proposed.join !== undefined;
  const choose = async (next: TableUse) => {
    const join =
      next === 'lookup' && proposed.join && main !== null ? { join: { table: main, join: proposed.join } } : {};
    setProblem(await attempt({ edit: 'use-table', table: tableId, use: next, ...join }));
  };
  return (
    <div className="w-52 shrink-0">
      <select
        aria-label={`What ${tableId} is for`}
        title="What this table is for"
        className={INPUT}
        value={use}
        onChange={(event) => void choose(event.target.value as TableUse)}
      >
        {USES.filter(([id]) => id !== 'lookup' || canLookUp).map(([id, words]) => (
          <option key={id} value={id}>
            {id === 'other' && isRates ? 'Exchange rates' : words}
          </option>
        ))}
      </select>
      {problem && (
        <p role="alert" className="mt-1 border-l-4 border-behind pl-2 text-[13px]">
          {problem.message}
        </p>
      )}
    </div>
  );
}
