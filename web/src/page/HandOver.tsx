'use client';

import { Download } from 'lucide-react';
import { useState } from 'react';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { saveFile } from '@/store/saveFile';
import { fileName } from '@/office/fileName';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';
import { received } from '@/worker/sent';
import { figureFonts } from './figureFonts';
import { useReader } from './readerState';

/** The page as a file, as its reader sees it now. */
export function HandOver({ pageId, title, width }: { pageId: string; title: string; width: number }) {
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  async function save(kind: 'html' | 'svg'): Promise<void> {
    const report = useReport.getState().report!;
    const { choice } = useReader.getState();
    try {
      const text = received(
        kind === 'svg'
          ? await desk().pageSvg(report, pageId, width, choice)
          : await desk().pageHtml(report, pageId, width, choice, await figureFonts()),
      );
      saveFile(`${fileName(title)}.${kind}`, text, kind === 'svg' ? 'image/svg+xml' : 'text/html');
      setProblem(null);
      setOpen(false);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  }
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Hand over"
      width={300}
      trigger={
        <Button small>
          <Download aria-hidden size={14} /> Hand over
        </Button>
      }
    >
      <div className="space-y-3 p-3 text-[13px] leading-snug">
        <p>
          <Button small className="mb-1 w-full" onClick={() => void save('html')}>
            One HTML file
          </Button>
          <span className="text-quiet">
            To be read anywhere, without this program and without a network: words at every mark, and how it came about.
          </span>
        </p>
        <p>
          <Button small className="mb-1 w-full" onClick={() => void save('svg')}>
            One picture (SVG)
          </Button>
          <span className="text-quiet">For a slide or a document.</span>
        </p>
        <p>
          <Button small className="mb-1 w-full" onClick={() => window.print()}>
            Print, or save as PDF
          </Button>
          <span className="text-quiet">The page alone, on paper.</span>
        </p>
        {problem && (
          <p role="alert" className="border-l-4 border-behind pl-2">
            {problem}
          </p>
        )}
      </div>
    </Popover>
  );
}
