export * from './declare';
export * from './forms';
export { namesIn, withNames, type Renaming } from './named';
export { commonOptions, type Bands, type LookNote, type LookSpan, type MemberEdge } from './options';
export { type CellFigure, type ColumnLook } from '../figure/table/declared';
