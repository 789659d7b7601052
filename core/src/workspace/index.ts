export * from './workspace';
