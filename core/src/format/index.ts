export { readAmount } from './readAmount';
export * from './shares';
export * from './number';
export * from './title';
export { fittingTitle, keptWords, membersIn, selectionWords, shorterTitles } from './fittingTitle';
