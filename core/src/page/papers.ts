/** Sheets lying on their long side, in points. A page on no paper has one sheet of its own size. */
export const PAPERS = { a4: [841.89, 595.28], letter: [792, 612] } as const;
export type Paper = keyof typeof PAPERS;
