export * from './draw';
export { DRAWN_FORMS, formDefinition } from './registry';
export { rowName, rowWords, rowKey } from './names';
export type { FigureRequest, FormDefinition } from './form';
