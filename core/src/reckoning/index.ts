export { reckon, sumWords, WHOLE, type Reckoning, type Sentence, type Sum } from './reckoning';
export { rowsBehind, rowsCsv, type Behind } from './behind';
