export { writeHtml, type Chosen, type HtmlOptions, type Program, type ToldCell } from './writeHtml';
export { workingsOf } from './workings';
export { carriedBy, type Carried } from './carried';
export { pageMarks, type PageCell } from './pageMarks';
export { unpackTables, type Gzip } from './packed';
export { fromBase85, toBase85 } from './base85';
