/** What a page can be written as. */
export const PAGE_ENDINGS = ['.svg', '.html', '.pdf', '.pptx', '.xlsx'] as const;

/** Pixels of a page when nothing is said; a test holds it to that of core. */
export const PAGE_WIDTH = 1160;
