export * from './scene';
export * from './text';
export { elementOf, rounded, type Element } from './elements';
export { writeSvg, PAPER, TEXT_STYLE, type SvgOptions } from './svg';
