export { PAPERS, writePdf, type Paper, type PdfOptions } from './writePdf';
export { outlined } from './letters';
export type { FontFiles } from '../scene';
