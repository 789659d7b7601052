export { reckon, sumWords, WHOLE, type Reckoning, type Sentence, type Sum } from './reckoning';
export { rowsBehind, type Behind } from './behind';
