export { pagePptx, pageXlsx, type Pictured } from './fromPage';
export { writeXlsx, sheetNames, type SheetRows } from './writeXlsx';
export { writePptx, type Slide } from './writePptx';
