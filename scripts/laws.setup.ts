import fc from 'fast-check';

// Where a run decides over a landing, laws are tried on the same examples each time, and a failure is told at once; everywhere
// else on others each time, and a failure is made small.
if (process.env.CI) fc.configureGlobal({ seed: 4400, endOnFailure: true });
