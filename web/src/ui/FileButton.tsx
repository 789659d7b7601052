'use client';

import { useEffect, useRef, type ComponentProps, type ReactNode } from 'react';
import { Button } from './Button';

/** Endings of files that hold rows. */
const ROWS = '.csv,.tsv,.txt,.json,.ndjson,.jsonl,.geojson,.xlsx,.xlsm,.parquet,.zip';

interface Props extends Omit<ComponentProps<typeof Button>, 'onClick'> {
  /** What is chosen, for those who hear the page. */
  readonly label: string;
  readonly multiple?: boolean;
  readonly onFiles: (files: readonly File[]) => void;
  readonly children: ReactNode;
}

/** A button that lets files be chosen. */
export function FileButton({ label, multiple = false, onFiles, children, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  // What was chosen before the page’s program had come is told once more.
  useEffect(() => {
    if (input.current!.files?.length) input.current!.dispatchEvent(new Event('change', { bubbles: true }));
  }, []);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        multiple={multiple}
        accept={ROWS}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          if (files.length > 0) onFiles(files);
        }}
      />
    </>
  );
}
