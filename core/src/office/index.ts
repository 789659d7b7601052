export { pagePptx, pageXlsx, tablesOf, type Pictured } from './fromPage';
export { sheetColumns } from './sheetColumns';
export { writeXlsx, sheetNames, type SheetRows } from './writeXlsx';
export { writePptx, type Slide } from './writePptx';
