export * from './column';
export { BLANK_MEMBER, declaredOrder, inOrder, compareNames } from './members';
export * from './periods';
export * from './table';
export * from './profile';
export * from './suspects';
export * from './lines';
export { tableCsv } from './tableCsv';
export { columnLetters } from './lettered';
export { beginsLikeFormula, writeCsv } from './writeCsv';
export * from './arrange';
export * from './difference';
export * from './match';
export * from './plots';
export * from './farDays';
export { plainName, proposeMerges, proposeNames, type Likeness, type NameProposal } from './likeness';
export { columnMatches, type ColumnMatch } from './columnMatches';
export { sumsOf } from './sumsOf';
export { columnAt } from './rowsAt';
export { appendRows, overlapOf, withRowsAdded, type AddedRows, type Overlap } from './append';
export { levelsIn } from './levels';
export { asInFile, withHeaders } from './headers';
export { codedField } from './coded';
export { dayCounts } from './dayCounts';
export { columnApart, isShared, sharedTable } from './shared';
export { asWhole, fieldsNamedAlike, lookupOffers, type LookupOffer } from './lookups';
export { grainOf } from './grain';
export { isStackable, NAMES_OF_TABLES } from './alike';
export { withSame, type Same } from './same';
export { keyOf, type Repeats } from './repeats';
export { duplicateRows, type Duplicates } from './duplicates';
export * from './leftOutAmounts';
export { lazyMap, once } from './lazily';
export { factsIn, type FactsOf, type TableFacts } from './facts';
export {
  codeOfCurrency,
  currenciesOf,
  currencyColumns,
  decimalsOfRates,
  EVER,
  isCurrency,
  rateFinder,
  ratesIn,
  ratesTo,
  severalUnits,
  type KnownRates,
  type RateColumns,
  type Rates,
} from './rates';
export { spreadOf } from './spread';
