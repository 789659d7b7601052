'use client';

import { FileUp } from 'lucide-react';
import { useRef, useState } from 'react';
import { Button } from '@/ui/Button';

interface Props {
  readonly onFiles: (files: readonly File[]) => void;
  readonly onDemo: () => void;
}

/** Takes files by drop or by choosing, and offers the demo. */
export function DropZone({ onFiles, onDemo }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  return (
    <div
      className={`border bg-paper ${over ? 'border-ink' : 'border-hairline'}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        onFiles([...event.dataTransfer.files]);
      }}
    >
      <div aria-hidden className="h-4 ruler-edge" />
      <div className="px-6 pt-7 pb-6">
        <p className="text-lg leading-snug font-medium">Drop a file of sales rows here</p>
        <p className="mt-1 text-quiet">
          CSV, Excel workbook, JSON or Parquet; rows copied in a spreadsheet can be pasted. Drop targets with it to
          compare, or a report file together with its tables.
        </p>
        <div className="mt-5">
          <Button look="main" onClick={() => input.current?.click()}>
            <FileUp aria-hidden size={16} /> Choose files
          </Button>
          <input
            ref={input}
            type="file"
            multiple
            accept=".csv,.tsv,.txt,.json,.ndjson,.jsonl,.geojson,.xlsx,.xlsm,.parquet"
            className="sr-only"
            tabIndex={-1}
            aria-label="Choose files"
            onChange={(event) => {
              onFiles([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
        </div>
      </div>
      <div className="border-t border-hairline px-6 py-4">
        <p className="text-[13px] text-quiet">
          No file at hand? Pellwether makes musical instruments; it does not exist, and its 60,000 order lines have
          stories in them.
        </p>
        <Button className="mt-3" onClick={onDemo}>
          Open the demo
        </Button>
      </div>
    </div>
  );
}
