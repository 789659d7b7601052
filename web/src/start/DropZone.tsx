'use client';

import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';

interface Props {
  readonly onFiles: (files: readonly File[]) => void;
  readonly onDemo: () => void;
  /** Opens the demo with five steps to do in it. */
  readonly onGuide: () => void;
}

/** Where files are chosen or dropped (the whole page takes those), and the demo is offered. */
export function DropZone({ onFiles, onDemo, onGuide }: Props) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={`border bg-paper ${over ? 'border-ink' : 'border-hairline'}`}
      onDragOver={() => setOver(true)}
      onDragLeave={() => setOver(false)}
      onDrop={() => setOver(false)}
    >
      <div aria-hidden className="h-4 ruler-edge" />
      <div className="px-6 pt-7 pb-6">
        <p className="text-lg leading-snug font-medium">Drop a file of sales rows here</p>
        <p className="mt-1 text-quiet">
          CSV, .xlsx workbooks, JSON or Parquet; rows copied in a spreadsheet can be pasted. Drop targets with it to
          compare, a report file together with its tables, or a bundle.
        </p>
        <div className="mt-5">
          <FileButton look="main" label="Choose files" multiple onFiles={onFiles}>
            <FileUp aria-hidden size={16} /> Choose files
          </FileButton>
        </div>
      </div>
      <div className="border-t border-hairline px-6 py-4">
        <p className="text-[13px] text-quiet">
          No file at hand? Pellwether makes musical instruments; it does not exist, and its 60,000 order lines have
          stories in them.
        </p>
        <p className="mt-3 flex gap-2">
          <Button onClick={onDemo}>Open the demo</Button>
          <Button look="bare" onClick={onGuide}>
            Show me how, in five steps
          </Button>
        </p>
      </div>
    </div>
  );
}
