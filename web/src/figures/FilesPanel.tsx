'use client';

import { Copy, Download } from 'lucide-react';
import { proxy } from 'comlink';
import { useState } from 'react';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { saveFile } from '@/store/saveFile';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import { received } from '@bold-ruler/core/problem';
import { pictureOf } from './picture';

const TYPES = { svg: 'image/svg+xml', csv: 'text/csv', scene: 'application/json' } as const;

/** A figure's files: picture, numbers and scene, saved or copied. */
export function FilesPanel({ figureId, drawn }: { figureId: string; drawn: DrawnFigure | null }) {
  const [scale, setScale] = useState(2);
  const [said, setSaid] = useState('');
  async function save(kind: keyof typeof TYPES): Promise<void> {
    const report = useReport.getState().report!;
    const text = received(
      kind === 'svg'
        ? await desk().svg(report, figureId, proxy((await import('@/ui/figureFonts')).fetchFontFiles))
        : await desk()[kind](report, figureId),
    );
    saveFile(`${figureId}.${kind === 'scene' ? 'json' : kind}`, text, TYPES[kind]);
  }
  async function savePicture(): Promise<void> {
    saveFile(`${figureId}.png`, await pictureOf(drawn!.scene, scale), 'image/png');
  }
  async function copyPicture(): Promise<void> {
    try {
      await navigator.clipboard.write([new ClipboardItem({ 'image/png': pictureOf(drawn!.scene, scale) })]);
      setSaid('Copied.');
    } catch {
      setSaid('This browser does not let a page copy pictures: save the PNG instead.');
    }
  }
  return (
    <>
      <div className="flex flex-wrap gap-2">
        <Button small disabled={!drawn} onClick={() => void save('svg')}>
          <Download aria-hidden size={14} /> SVG
        </Button>
        <Button small disabled={!drawn} onClick={() => void savePicture()}>
          <Download aria-hidden size={14} /> PNG
        </Button>
        <select
          aria-label="Size of the PNG"
          className={`${INPUT} h-7 w-14!`}
          value={scale}
          onChange={(event) => setScale(Number(event.target.value))}
        >
          {[1, 2, 3].map((n) => (
            <option key={n} value={n}>
              {n}×
            </option>
          ))}
        </select>
        <Button small disabled={!drawn} onClick={() => void copyPicture()}>
          <Copy aria-hidden size={14} /> Copy picture
        </Button>
        <Button small disabled={!drawn} onClick={() => void save('csv')}>
          <Download aria-hidden size={14} /> Numbers
        </Button>
        <Button small disabled={!drawn} onClick={() => void save('scene')}>
          <Download aria-hidden size={14} /> Scene
        </Button>
      </div>
      <p role="status" className="mt-2 text-xs text-quiet">
        {said || (drawn ? `Computed and laid out in ${drawn.took < 1 ? 'under 1' : Math.round(drawn.took)} ms.` : '')}
      </p>
    </>
  );
}
