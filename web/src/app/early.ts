/** Where a page keeps the last button that was pressed before its program had come. */
export const EARLY = 'boldRulerEarly';

/** Runs before the page’s program: its buttons are there at once, and a press on one waits until they answer. */
export const EARLY_SCRIPT = `(()=>{const keep=(event)=>{const button=event.target.closest&&event.target.closest('button');if(!button)return;event.stopImmediatePropagation();event.preventDefault();early.pressed=button};const early=window.${EARLY}={pressed:null,end(){removeEventListener('click',keep,true)}};addEventListener('click',keep,true)})()`;
