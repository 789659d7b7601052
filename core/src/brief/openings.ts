/** The words that open a clause; a name that is not known is taken to reach up to the next of them. */
export const OPENINGS = [
  'by',
  'each',
  'during',
  'against',
  'as',
  'keep',
  'sorted',
  'only',
  'lit',
  'on',
  'and',
  'or',
  'is',
] as const;
