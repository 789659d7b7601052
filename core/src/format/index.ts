export * from './number';
export * from './title';
