export { Problem, isProblem, listed, type Place } from './problem';
export { nearest, didYouMean } from './nearest';
