export * from './scene';
export { isFiniteScene } from './finite';
export { checkPixels } from './pixels';
export * from './box';
export { legsOf } from './legs';
export * from './text';
export { elementOf, patternsOf, PATTERN_GROUND, PATTERN_TILES, rounded, type Element } from './elements';
export { escaped, writeMarks, writeSheet, writeSvg, PAPER, TEXT_STYLE, type SvgOptions } from './svg';
export { BASIC_LETTERS, FONT_IN_FILES, readFontFiles, type FontFace, type FontFiles } from './fontFiles';
