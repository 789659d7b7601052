export * from './reader';
export { placedBlocks, SHEET, type PlacedBlock } from './layout';
export { askPage, drawPage, pageNamed, PAGE_WIDTH, type DrawnPage, type PageOptions, type Placed } from './drawPage';
export { writePage } from './writePage';
export { readerOffers, type ReaderOffers } from './offers';
export { PAPERS, type Paper } from './papers';
export { offeredPeriods, type OfferedPeriod } from './periods';
