'use client';

import { proxy } from 'comlink';
import { Download } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { PageFile, PageWish } from '@bold-ruler/core/desk';
import type { Program } from '@bold-ruler/core/handover';
import { PAGE_WIDTH } from '@bold-ruler/core/page';
import type { Scene } from '@bold-ruler/core/scene';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { saveFile } from '@/store/saveFile';
import { fileName } from '@/store/fileName';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';
import { Problem, received, type Sent } from '@bold-ruler/core/problem';
import { fetchEmbeddedFonts, fetchFontFiles } from '@/ui/figureFonts';
import { useReader } from './readerState';

const KINDS = {
  html: {
    name: 'One HTML file',
    words: 'Read anywhere, without this program and a network; its reader can choose, and question every number.',
    type: 'text/html',
  },
  pdf: {
    name: 'PDF',
    words: 'One sheet, vectors, letters embedded, text that can be searched.',
    type: 'application/pdf',
  },
  pptx: {
    name: 'Slides (PPTX)',
    words: 'Figures as vectors, their numbers as tables that can be edited.',
    type: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  },
  xlsx: {
    name: 'Workbook (XLSX)',
    words: 'The numbers of every figure, unrounded.',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  svg: { name: 'Picture (SVG)', words: 'The whole page, for a document.', type: 'image/svg+xml' },
} as const;
type Kind = keyof typeof KINDS;

type Paper = NonNullable<PageWish['paper']>;
const PAPER_NAMES: Readonly<Record<Paper, string>> = { a4: 'A4', letter: 'letter' };

/** The page as a file, as its reader sees it now. */
export function HandOver({ pageId, title, width }: { pageId: string; title: string; width: number }) {
  const [open, setOpen] = useState(false);
  const [making, setMaking] = useState<Kind | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  async function save(kind: Kind, paper: Paper | null = null): Promise<void> {
    setMaking(kind);
    try {
      const { content } = received(await made(kind, pageId, width, paper));
      saveFile(
        `${fileName(title)}${paper === null ? '' : `-${paper}`}.${kind}`,
        typeof content === 'string' ? content : new Blob([content]),
        KINDS[kind].type,
      );
      setProblem(null);
      setOpen(false);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      setMaking(null);
    }
  }
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Hand over"
      width={340}
      trigger={
        <Button small>
          <Download aria-hidden size={14} /> Hand over
        </Button>
      }
    >
      <ul className="p-2 text-[13px] leading-snug" aria-busy={making !== null}>
        {(Object.keys(KINDS) as Kind[]).map((kind) => (
          <Way
            key={kind}
            name={making === kind ? 'Making it …' : KINDS[kind].name}
            words={KINDS[kind].words}
            disabled={making !== null}
            onTake={() => void save(kind)}
          >
            {kind === 'pdf' &&
              (['a4', 'letter'] as const).map((paper) => (
                <Button key={paper} small disabled={making !== null} onClick={() => void save('pdf', paper)}>
                  On {PAPER_NAMES[paper]} sheets
                </Button>
              ))}
          </Way>
        ))}
        <Way name="Print" words="The page alone, on the paper of your printer." onTake={() => window.print()} />
      </ul>
      {problem && (
        <p role="alert" className="m-2 border-l-4 border-behind pl-2 text-[13px]">
          {problem}
        </p>
      )}
    </Popover>
  );
}

function Way({
  name,
  words,
  disabled = false,
  onTake,
  children,
}: {
  name: string;
  words: string;
  disabled?: boolean;
  onTake: () => void;
  /** Other ways of the same kind. */
  children?: ReactNode;
}) {
  return (
    <li>
      <button
        type="button"
        disabled={disabled}
        onClick={onTake}
        className="block w-full rounded-sm px-2 py-1.5 text-left hover:bg-desk disabled:opacity-50"
      >
        <span className="block font-semibold">{name}</span>
        <span className="text-quiet">{words}</span>
      </button>
      {children && <div className="flex gap-2 px-2 pb-1.5">{children}</div>}
    </li>
  );
}

/** A page as a file; all but a picture are drawn for the width of a page, whatever the window has. */
function made(kind: Kind, pageId: string, width: number, paper: Paper | null): Promise<Sent<PageFile>> {
  const report = useReport.getState().report!;
  const wish = {
    as: kind,
    width: kind === 'svg' ? width : PAGE_WIDTH,
    choice: useReader.getState().choice,
    paper,
  };
  return desk().pageFile(
    report,
    pageId,
    wish,
    proxy(fetchEmbeddedFonts),
    proxy(program),
    proxy(fetchFontFiles),
    proxy(pixelsOf),
  ) as Promise<Sent<PageFile>>;
}

/** The program that a page as one file carries; it is served beside the application. */
async function program(): Promise<Program> {
  const answer = await fetch('/program/page.json');
  if (!answer.ok)
    throw new Problem(
      'no-page-program',
      `the server does not have the program that a page as a file carries (${answer.status})`,
      undefined,
      'stop the server and run “npm start” again, which builds it',
    );
  return (await answer.json()) as Program;
}

/** A scene as a PNG; only here is there a canvas that paints as the screen does. */
async function pixelsOf(scene: Scene): Promise<Uint8Array> {
  const { pictureOf } = await import('@/figures/picture');
  return new Uint8Array(await (await pictureOf(scene, 2)).arrayBuffer());
}
