export * from './expression';
export { readExpression } from './read';
export { checkExpression, type Columns, type CheckedType, type ValueType } from './check';
export { converted, missingRate, type Conversion } from './convert';
export { compile, rescale, type Compiled, type Leaves } from './compile';
export { completeExpression, quoted as columnAsWritten, type ExpressionCompletion } from './complete';
export { textsInTurn } from './like';
