export * from './expression';
export { readExpression } from './read';
export { checkExpression, type Columns, type CheckedType, type ValueType } from './check';
export { compile, rescale, type Compiled, type Leaves } from './compile';
export { completeExpression, type ExpressionCompletion } from './complete';
