export { Problem, isProblem, counted, type Fix, listed, someOf, type Place } from './problem';
export { nearest, didYouMean } from './nearest';
