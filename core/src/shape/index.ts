export * from './shape';
export * from './described';
