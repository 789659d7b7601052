export * from './day';
export * from './fiscal';
export * from './period';
export * from './shift';
export * from './workdays';
