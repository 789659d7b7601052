import fc from 'fast-check';

// Laws are tried on the same examples at each run, and a failure is told at once; `npm run test:laws` tries others, and makes a
// failure small.
const seed = process.env.LAW_SEED;
fc.configureGlobal(seed === undefined ? { seed: 4400, endOnFailure: true } : { seed: Number(seed) });
