/**
 * How many examples a law is tried on: few, the same at each run of `npm test`; many times as many with `npm run test:laws`, others at
 * each run.
 */
export function tries(few: number): number {
  return Math.round(few * Number(process.env.LAW_TIMES ?? 1));
}
