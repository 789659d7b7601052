/** Where a page keeps what was done on it before its program had come. */
const EARLY = 'boldRulerEarly';

/** What was done early: the last button that was pressed, and rows that were brought to the first page. */
export interface Early {
  pressed: HTMLElement | null;
  /** Pasted text, and files that were pasted or dropped. */
  brought: { readonly text: string; readonly files: readonly File[] } | null;
  /** From now on the page answers presses itself. */
  endPresses(): void;
  /** From now on the page takes what is brought itself. */
  endBringing(): void;
}

declare global {
  interface Window {
    [EARLY]?: Early;
  }
}

/**
 * Runs before the page’s program: its buttons are there at once, and a press on one waits until they answer;
 * so do rows that are pasted or dropped on the first page.
 */
export const EARLY_SCRIPT = `(()=>{
const press=(event)=>{const button=event.target.closest&&event.target.closest('button');if(!button)return;event.stopImmediatePropagation();event.preventDefault();early.pressed=button};
const bring=(event)=>{const from=event.clipboardData||event.dataTransfer;event.preventDefault();if(event.type!=='dragover'&&from)early.brought={text:from.getData('text/plain'),files:[...from.files]}};
const ways=location.pathname==='/'?['paste','dragover','drop']:[];
const early=window.${EARLY}={pressed:null,brought:null,endPresses(){removeEventListener('click',press,true)},endBringing(){for(const way of ways)removeEventListener(way,bring,true)}};
addEventListener('click',press,true);
for(const way of ways)addEventListener(way,bring,true)
})()`;

/** The button that was pressed before the page could answer, once; from now on the page answers itself. */
export function takePressed(): HTMLElement | null {
  const early = window[EARLY];
  const pressed = early?.pressed ?? null;
  early?.endPresses();
  if (early) early.pressed = null;
  return pressed?.isConnected ? pressed : null;
}

/** What was brought before the page could take it, once; from now on the page takes it itself. */
export function takeBrought(): Early['brought'] {
  const early = window[EARLY];
  const brought = early?.brought ?? null;
  early?.endBringing();
  if (early) early.brought = null;
  return brought;
}
