export type { Offered, ReadableBrief } from './briefs';
export { findingsIn, type DecisionShown } from './checks';
export { tableOf, type ColumnDetail, type DerivedLook, type SeveralCurrencies } from './data';
export type { ColumnShown } from '../figure';
export type { DrawnFigure, DrawnRow, RepairShown } from './figures';
export { Looked, type GridCell, type GridRow } from './grid';
export type { AskedValue, NumberLook } from './numbers';
export { pageAs, type PageFile, type PageMeans, type PageWish } from './pageFiles';
export type { PageBlockShown, PageShown, PageSpot, ReaderChoice, SuggestionShown } from './pages';
export type { LevelBelow, PathStep } from './ways';
export type { Lookups, LookupShown, NamesShown, NameShown } from './tables';
export type { ReckoningShown } from './reckonings';

export { listedIn, openDesk, type DeskQuestions, type Desk, type Reach } from './desk';
