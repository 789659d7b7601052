export * from './day';
export * from './fiscal';
export { FEWEST_MONTHS, LISTED_LENGTH, listedSpan, type FiscalMonths } from './fiscalMonths';
export { PATTERNS, type FiscalWeeks } from './fiscalWeeks';
export * from './period';
export * from './shift';
export * from './workdays';
