export * from './day';
export * from './fiscal';
export { PATTERNS, type FiscalWeeks } from './fiscalWeeks';
export * from './period';
export * from './shift';
export * from './workdays';
