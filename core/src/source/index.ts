export { columnarSource, type ColumnarSource } from './columnarSource';
export { codedField, columnTypes, withDerived } from './derived';
export { rowsBehind } from './rows';
export { scan } from './scan';
