export { Problem, isProblem, type Fix, listed, type Place } from './problem';
export { nearest, didYouMean } from './nearest';
