export { elsewhereIn, openReportWith, workspaceFor } from './workspace';
export { workspaceOver, type Elsewhere } from './elsewhere';
export type { OpenReport } from './opened';
export { readTable, type ReadingProgress } from './readTable';
export { stacked } from './stacked';
export { bareReport, fileApart, readBare, together, type Group, type Together } from './bare';
export { newReport, type NewReport } from './newReport';
export { carriedWorkspace } from './carried';
