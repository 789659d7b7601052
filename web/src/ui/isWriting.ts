/** True while a key belongs to a text being written or to an open list. */
export function isWriting(target: EventTarget | null): boolean {
  return (
    isWritingText(target) ||
    (target instanceof HTMLElement && (target.tagName === 'SELECT' || target.closest('[role="dialog"]') !== null))
  );
}

/** True where Control and Z take back what was typed. */
export function isWritingText(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return !/^(?:checkbox|radio|button|file|range)$/.test(target.type);
  return target instanceof HTMLTextAreaElement || (target instanceof HTMLElement && target.isContentEditable);
}
