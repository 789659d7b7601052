export * from './exact';
