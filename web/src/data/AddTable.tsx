'use client';

import { transfer } from 'comlink';
import { useRef, useState } from 'react';
import { targetsFrom, type Report } from '@bold-ruler/core/report';
import { freeName } from '@/start/intake';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { beginReading, type Reading } from '@/worker/reading';
import { buffersOf } from '@/worker/transferables';

/** Reads a further table into the open report; each of its number columns can then be held against. */
export function AddTable() {
  const input = useRef<HTMLInputElement>(null);
  const reading = useRef<Reading | null>(null);
  const [rows, setRows] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  async function read(file: File): Promise<void> {
    const { id, report, tablesChanged } = useReport.getState();
    if (!id || !report) return;
    setProblem(null);
    setRows(0);
    const name = freeName(file.name.replace(/\.[^.]+$/, ''), new Map(report.tables.map((table) => [table.id, table])));
    try {
      reading.current = beginReading({ id: name, source: { file: file.name } }, file, (progress) =>
        setRows(progress.rows),
      );
      const { table, profile } = await reading.current.done;
      const next: Report = {
        ...report,
        tables: [...report.tables, { id: name, source: { file: file.name } }],
        benchmarks: [
          ...report.benchmarks,
          ...targetsFrom(
            name,
            profile.columns.filter(({ type }) => type === 'number').map((column) => column.name),
            report.benchmarks,
          ),
        ],
      };
      await desk().addTable(id, next, transfer(table, buffersOf([table])));
      tablesChanged(next);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      setRows(null);
    }
  }

  return (
    <div className="mt-2">
      {rows === null ? (
        <Button small className="w-full" onClick={() => input.current?.click()}>
          Add a table
        </Button>
      ) : (
        <Button
          small
          className="w-full"
          onClick={() => {
            reading.current?.cancel();
            setRows(null);
          }}
        >
          {rows.toLocaleString('en')} rows read · cancel
        </Button>
      )}
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt"
        className="sr-only"
        tabIndex={-1}
        aria-label="Add a table"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void read(file);
          event.target.value = '';
        }}
      />
      {problem && (
        <p role="alert" className="mt-2 border-l-4 border-behind pl-2 text-[13px]">
          {problem}
        </p>
      )}
    </div>
  );
}
