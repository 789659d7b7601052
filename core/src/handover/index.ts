export { writeHtml, type HtmlOptions, type Told } from './writeHtml';
export { workingsOf } from './workings';
