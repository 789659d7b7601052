export * from './declare';
export * from './forms';
export { namesIn, withNames, type Renaming } from './named';
export type { Bands, MemberEdge } from './options';
export { type CellFigure, type ColumnLook } from '../figure/table/declared';
