export { PAPERS, writePdf, type Paper, type PdfOptions } from './writePdf';
export { outlined, type FontFiles } from './letters';
