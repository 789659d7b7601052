/** The code of the problem that another tab has changed the report. */
export const CHANGED_ELSEWHERE = 'changed-elsewhere';

/** The code of the problem that the report is not in this browser any more. */
export const GONE = 'report-gone';
