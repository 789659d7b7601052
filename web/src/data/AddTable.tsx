'use client';

import { counted, received } from '@bold-ruler/core/problem';
import { transfer } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import {
  filesOf,
  proposedUse,
  targetsFrom,
  type Benchmark,
  type KnownTable,
  type Report,
} from '@bold-ruler/core/report';
import { isWriting } from '@/ui/isWriting';
import { calledApart, Intake, pastedFile } from '@/intake/intake';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { buffersOf } from '@/worker/transferables';

/** Reads further tables into the open report; each of their number columns can then be held against. Pasted rows are taken, too. */
export function AddTable({ onAdded }: { onAdded: (tableId: string) => void }) {
  const intake = useRef<Intake | null>(null);
  const [rows, setRows] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  async function read(files: readonly File[]): Promise<void> {
    const { report, editRows } = useReport.getState();
    if (!report || files.length === 0) return;
    setProblem(null);
    setRows(0);
    const reading = (intake.current = new Intake((progress) => setRows(progress.rows)));
    try {
      const apart = calledApart(files, report.tables.flatMap(filesOf));
      const chosen = await reading.tablesIn(apart, new Set(await desk().tableIds()));
      const read = await reading.readAll(chosen, true);
      if (reading.isCancelled) return;
      const sources = new Map(apart.map((file) => [file.name, file]));
      const { known: taken, files: kept } =
        read.length === 1
          ? { known: read, files: sources }
          : received(await desk().together(transfer(read, buffersOf(read.map(({ table }) => table))), sources));
      const tables = taken.map(({ table }) => table);
      const entries = taken.map(({ entry }) => entry);
      const benchmarks = targetsOf(useReport.getState().report!, taken);
      await editRows(
        { edit: 'add-tables', tables: entries, benchmarks },
        entries.map(({ id }) => id),
        transfer(tables, buffersOf(tables)),
        kept,
      );
      onAdded(taken[0]!.entry.id);
    } catch (error) {
      if (!reading.isCancelled) setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      setRows(null);
    }
  }

  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      if (isWriting(event.target)) return;
      const file = pastedFile(event.clipboardData?.getData('text/plain') ?? '');
      const files = file ? [file] : [...(event.clipboardData?.files ?? [])];
      if (files.length > 0) void read(files);
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  });

  return (
    <div className="mt-2">
      {rows === null ? (
        <FileButton
          small
          className="w-full"
          title="Or paste rows from a spreadsheet"
          label="Add a table"
          multiple
          onFiles={(files) => void read(files)}
        >
          Add a table
        </FileButton>
      ) : (
        <Button
          small
          className="w-full"
          onClick={() => {
            intake.current?.cancel();
            setRows(null);
          }}
        >
          {counted(rows, 'row')} read · cancel
        </Button>
      )}
      {problem && (
        <p role="alert" className="mt-2 border-l-4 border-behind pl-2 text-[13px]">
          {problem}
        </p>
      )}
    </div>
  );
}

/** The benchmarks that the numbers of further tables are, where these look like targets. */
function targetsOf(report: Report, taken: readonly KnownTable[]): Benchmark[] {
  const known = [...report.benchmarks];
  const found: Benchmark[] = [];
  for (const { entry, table } of taken) {
    if (proposedUse(null, table).use !== 'targets') continue;
    const numbers = table.columns.filter(({ kind }) => kind === 'number').map(({ name }) => name);
    found.push(...targetsFrom(entry.id, numbers, [...known, ...found]));
  }
  return found;
}
