export { reckon, sumWords, WHOLE, type Reckoning, type Sentence, type Sum } from './reckoning';
export { rowsCsv } from './behind';
