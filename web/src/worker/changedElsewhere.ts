/** The code of the problem that another tab has changed the report. */
export const CHANGED_ELSEWHERE = 'changed-elsewhere';
