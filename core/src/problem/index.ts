export { Problem, isProblem, counted, type Fix, listed, type Place } from './problem';
export { nearest, didYouMean } from './nearest';
