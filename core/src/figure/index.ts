export { asRanks } from './asRanks';
export * from './draw';
export { formsFor, repairsFor, type FormOffer, type Mended } from './mending';
export { formDefinition } from './registry';
export { rowName, rowWords, rowKey } from './names';
export { numbersText, type NumbersText } from './numbersText';
export { cellsFor, columnsOf } from './table/columns';
export { tableCells } from './table/table';
export type { FigureRequest, FormDefinition } from './form';
