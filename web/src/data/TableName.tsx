'use client';

import { useState } from 'react';
import { received, sentProblem } from '@bold-ruler/core/problem';
import { isInDatabase } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { DraftText } from '@/fields/DraftText';
import { discard } from './proposals';

/** The name of a table: another one is followed to everything that reads it, and undone with its rows. */
export function TableName({ tableId, onRenamed }: { tableId: string; onRenamed: (name: string) => void }) {
  const [refused, setRefused] = useState<string | null>(null);
  async function rename(name: string): Promise<void> {
    setRefused(null);
    discard();
    try {
      const renamed = { edit: 'rename-table', table: tableId, name } as const;
      const entry = useReport.getState().report!.tables.find(({ id }) => id === tableId);
      // Rows in a database go by no name of ours.
      if (entry && isInDatabase(entry)) await edit(renamed);
      else {
        received(await desk().proposeNamed(tableId, name));
        await useReport.getState().editRows(renamed, [tableId, name], 'proposed');
      }
      onRenamed(name);
    } catch (error) {
      setRefused(sentProblem(error).message);
    }
  }
  return (
    <h1 className="text-xl font-semibold">
      <DraftText
        place={`name of table ${tableId}`}
        base={tableId}
        aria-label="Name of the table"
        aria-invalid={refused === null ? undefined : true}
        className="-ml-2 w-full truncate rounded-sm border border-transparent bg-transparent px-2 hover:border-hairline focus:border-ink focus:bg-paper"
        onTake={(text) => {
          if (text !== '' && text !== tableId) void rename(text);
        }}
      />
      {refused !== null && (
        <span role="alert" className="block text-[13px] font-normal text-behind">
          {refused}
        </span>
      )}
    </h1>
  );
}
