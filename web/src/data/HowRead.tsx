'use client';

import { useState } from 'react';
import { counted } from '@bold-ruler/core/problem';
import { filesOf, type TableEntry } from '@bold-ruler/core/report';
import type { FieldsProfile } from '@bold-ruler/core/table';
import { Button } from '@/ui/Button';
import { Field, INPUT } from '@/ui/Field';
import { Popover } from '@/ui/Popover';
import { LEAVE_REPEATS_OUT, propose, setRepeats } from './proposals';

const DELIMITERS = [
  ['', 'found by itself'],
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'bar |'],
] as const;

/** How rows are made of the file: where the header stands, what parts the cells, what is left out or turned. Each change is tried first. */
export function HowRead({ entry, files }: { entry: TableEntry; files: FieldsProfile['files'] }) {
  const [open, setOpen] = useState(false);
  const { id, source, leaveOut = [], repeats, long } = entry;
  const key = repeats === undefined || repeats.by === 'row' ? [] : repeats.by;
  // Files of one table are of one kind.
  const [file = ''] = filesOf(entry);
  const isText = !/\.(?:xlsx|xlsm|parquet|json|ndjson|jsonl|geojson)$/i.test(file);
  const hasHeader = !/\.parquet$/i.test(file) && (isText || /\.xls[xm]$/i.test(file));
  const attempt = (...words: Parameters<typeof propose>) => {
    setOpen(false);
    void propose(...words);
  };
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="How the file is read"
      trigger={
        <Button small title="Header line, delimiter, what is left out">
          How it is read
        </Button>
      }
    >
      <div className="space-y-3 p-3">
        {source.sheet !== undefined && !files && (
          <p className="text-[13px]">
            From <strong className="font-semibold">{source.sheet}</strong> of {source.file}.
          </p>
        )}
        {files && (
          <section aria-label="Files of the table" className="text-[13px]">
            <p className="pb-1">
              The rows of {counted(files.length, 'file')}
              {source.sheet !== undefined && (
                <>
                  , from <strong className="font-semibold">{source.sheet}</strong> of each
                </>
              )}
              , one file after the other:
            </p>
            <ul className="max-h-40 overflow-y-auto" tabIndex={0} aria-label="Files and their rows">
              {files.map(({ file: name, rows }) => (
                <li key={name} className="flex gap-3 border-t border-hairline py-1">
                  <span className="min-w-0 grow truncate font-medium" title={name}>
                    {name}
                  </span>
                  <span className="shrink-0 text-quiet">{counted(rows, 'row')}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
        {hasHeader && (
          <Field label="Line of the header; 0 for none, empty to find it" hint="Enter tries it">
            <input
              className={INPUT}
              inputMode="numeric"
              defaultValue={source.header ?? ''}
              onKeyDown={(event) => {
                if (event.key !== 'Enter') return;
                const text = event.currentTarget.value.trim();
                const line = text === '' ? undefined : Math.max(0, Math.floor(Number(text)));
                if (line !== undefined && Number.isNaN(line)) return;
                attempt(
                  id,
                  'header',
                  line === undefined ? 'find the header by itself' : `take the header from line ${line}`,
                  (draft) => {
                    if (line === undefined) delete draft.source.header;
                    else draft.source.header = line;
                  },
                );
              }}
            />
          </Field>
        )}
        {isText && (
          <Field label="What parts the cells">
            <select
              className={INPUT}
              value={source.delimiter ?? ''}
              onChange={(event) => {
                const delimiter = event.target.value;
                attempt(
                  id,
                  'delimiter',
                  delimiter === '' ? 'find the delimiter by itself' : 'part the cells by it',
                  (draft) => {
                    if (delimiter === '') delete draft.source.delimiter;
                    else draft.source.delimiter = delimiter;
                  },
                );
              }}
            >
              {DELIMITERS.map(([delimiter, words]) => (
                <option key={delimiter} value={delimiter}>
                  {words}
                </option>
              ))}
            </select>
          </Field>
        )}
        {(['totals', 'notes'] as const).map((what) => (
          <label key={what} className="flex items-center gap-2 text-[13px]">
            <input
              type="checkbox"
              className="accent-ink"
              checked={leaveOut.includes(what)}
              onChange={(event) => {
                const wanted = event.target.checked;
                attempt(
                  id,
                  `rows that are ${what}`,
                  `${wanted ? 'leave out' : 'take in'} rows that are ${what}`,
                  (draft) => {
                    const others = (draft.leaveOut ?? []).filter((one) => one !== what);
                    draft.leaveOut = wanted ? [...others, what] : others;
                    if (draft.leaveOut.length === 0) delete draft.leaveOut;
                  },
                );
              }}
            />
            Leave out rows that look like {what}
          </label>
        ))}
        <label className="flex items-center gap-2 text-[13px]">
          <input
            type="checkbox"
            className="accent-ink"
            checked={repeats !== undefined && repeats.keep !== 'all'}
            onChange={(event) => {
              const wanted = event.target.checked;
              attempt(id, 'repeats', wanted ? LEAVE_REPEATS_OUT : 'take in rows that stand there already', (draft) =>
                setRepeats(draft, key, wanted),
              );
            }}
          />
          Leave out rows that stand there already
        </label>
        <Field label="Columns that tell a row from others, empty for all" hint="Names parted by commas; Enter tries it">
          <input
            className={INPUT}
            placeholder="such as order no"
            defaultValue={key.join(', ')}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              const names = event.currentTarget.value.split(',').map((name) => name.trim());
              const next = [...new Set(names.filter((name) => name !== ''))];
              attempt(
                id,
                'key',
                next.length === 0 ? 'tell rows apart by all columns' : `tell rows apart by ${next.join(', ')}`,
                (draft) => setRepeats(draft, next, repeats !== undefined && repeats.keep !== 'all'),
              );
            }}
          />
        </Field>
        {long && (
          <label className="flex items-center gap-2 text-[13px]">
            <input
              type="checkbox"
              className="accent-ink"
              checked
              onChange={() =>
                attempt(id, 'periods', 'take the columns as they stand', (draft) => {
                  if (draft.date === long.name) delete draft.date;
                  delete draft.long;
                })
              }
            />
            Columns named after periods are rows
          </label>
        )}
      </div>
    </Popover>
  );
}
