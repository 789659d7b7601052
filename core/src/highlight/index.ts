export * from './palette';
export * from './standing';
