export { readAmount } from './readAmount';
export * from './shares';
export * from './number';
export * from './title';
export { fittingTitle, shorterTitles } from './fittingTitle';
