'use client';

import '@/ui/nonce';
import { Dialog } from 'radix-ui';
import { Button } from '@/ui/Button';

const KEYS: readonly (readonly [place: string, keys: readonly (readonly [keys: string, does: string])[]])[] = [
  [
    'Everywhere',
    [
      ['1 2 3 4', 'Data, Numbers, Figures, Page'],
      ['Ctrl K', 'find anything by its name'],
      ['Ctrl Z', 'take the last step back'],
      ['Ctrl Shift Z', 'do it again'],
      ['?', 'this overview'],
    ],
  ],
  [
    'Figures',
    [
      ['/', 'write the brief as text; Enter draws'],
      ['PgUp PgDn', 'the figure before, the next one'],
      ['Arrows', 'walk through the marks of a figure'],
      ['Enter', 'choose the mark and see its reckoning'],
      ['Shift Enter', 'go into the mark, one level down'],
      ['Backspace', 'go back one level'],
      ['Esc', 'let it go'],
    ],
  ],
  [
    'Page',
    [
      ['Arrows', 'walk through the marks of a figure'],
      ['Enter', 'narrow the others to that member, and go into it'],
      ['Backspace', 'go back one level'],
      ['PgUp PgDn', 'while presenting: turn the page'],
      ['F', 'while presenting: one figure at a time, or the page'],
      ['Esc', 'end presenting'],
    ],
  ],
  [
    'Handles',
    [
      ['Arrows', 'move an edge, a ruler’s end, a row'],
      ['Shift Arrows', 'in larger steps'],
      ['Space', 'take up a row, and put it down'],
    ],
  ],
];

/** All keys in one sheet. */
export function Shortcuts({ onClose }: { onClose: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-engraved/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 w-[720px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 border border-hairline bg-paper shadow-popover"
        >
          <div aria-hidden className="h-3 ruler-edge" />
          <div className="flex items-center justify-between px-6 pt-4">
            <Dialog.Title className="text-base font-semibold">Keys</Dialog.Title>
            <Dialog.Close asChild>
              <Button small>Close</Button>
            </Dialog.Close>
          </div>
          <div className="grid grid-cols-2 gap-x-10 gap-y-5 px-6 pt-3 pb-6 text-[13px]">
            {KEYS.map(([place, keys]) => (
              <section key={place} aria-label={place}>
                <h3 className="mb-1 border-b border-hairline pb-1 font-semibold">{place}</h3>
                <dl className="space-y-1">
                  {keys.map(([key, does]) => (
                    <div key={key} className="grid grid-cols-[92px_1fr] gap-2">
                      <dt className="font-figure font-semibold">{key}</dt>
                      <dd className="text-quiet">{does}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
