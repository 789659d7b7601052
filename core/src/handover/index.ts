export { writeHtml, type Chosen, type HtmlOptions, type Program, type ToldCell } from './writeHtml';
export { hasBasicLetters } from './basicLetters';
export { workingsOf } from './workings';
export { carriedBy, unreadBriefs, type Carried } from './carried';
export { pageMarks, type PageCell } from './pageMarks';
export { unpackTables } from './packed';
export type { CarriedNames } from './named';
export { smallestAnywhere, smallestOf, type Deflate } from './smallest';
