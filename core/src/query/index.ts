export { answerBrief } from './answer';
export { stepOfRow } from './pack';
export * from './cells';
export { keyOfQuery, openedSource, openSource } from './openSource';
export {
  maybe,
  numbersCsv,
  numbersGrid,
  numbersWith,
  type Numbers,
  type NumbersExtras,
  type NumbersRow,
} from './numbers';
export type { Behind, Groups, OpenSource, Query, RowsFound, Source, SpanAsked, TableFacts, Workspace } from './query';
export { gapOf, gapPercentOf, standingCode, standingOf } from './compare';
export { roundedShares } from './views';
export { aggregated, dataSpan } from './context';
export { only, valuesOf } from './values';
export { fieldOfPer } from './benchmark/fixed';
export { statisticOf } from './benchmark/peers';
export * from './waterfall';
export { priceVolumeMix, type PriceVolumeMix, type ValueAndQuantity } from './priceVolumeMix';
export { isFitted, trendsOf, type Trend } from './trend';
export { landingsOf, type Landing } from './landing';
export { MEASURE_FIELD, rowSource, stacked } from './stacked';
export type { Choices } from './context';
