export * from './column';
export { readCsv, type ColumnWish, type RawTable, type TextSource } from './readCsv';
export { decode, type ByteSource } from './decode';
export { inOrder, compareNames } from './members';
export * from './table';
export * from './profile';
export { retype } from './retype';
export { DATE_PATTERNS } from './readDate';
export { writeCsv } from './writeCsv';
