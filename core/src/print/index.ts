import type { writePdf as write } from './writePdf';

/** A page as a PDF. What writes it comes when it is asked for: outlines of letters do without. */
export const writePdf: typeof write = async (...page) => (await import('./writePdf')).writePdf(...page);

export type { PdfOptions } from './writePdf';
export { outlined } from './letters';
export { facesFor } from './subset';
export type { FontFiles } from '../scene';
