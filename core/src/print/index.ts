export { PAPERS, writePdf, type Paper, type PdfOptions } from './writePdf';
export { outlined } from './letters';
export { facesFor } from './subset';
export type { FontFiles } from '../scene';
